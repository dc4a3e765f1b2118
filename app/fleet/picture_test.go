package fleet

import (
	"bytes"
	"context"
	"encoding/binary"
	"hash/crc32"
	"image"
	"image/color"
	"image/jpeg"
	"image/png"
	"runtime"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// claiming is a small picture whose header says that it is larger.
func claiming(t *testing.T, kind string, width, height int) []byte {
	var b bytes.Buffer
	small := image.NewYCbCr(image.Rect(0, 0, 16, 16), image.YCbCrSubsampleRatio420)
	if kind == "png" || kind == "deep" || kind == "interlaced" {
		var img image.Image = image.NewNRGBA(image.Rect(0, 0, 16, 16))
		if kind == "deep" {
			img = image.NewNRGBA64(image.Rect(0, 0, 16, 16))
		}
		require.NoError(t, png.Encode(&b, img))
		raw := b.Bytes()
		binary.BigEndian.PutUint32(raw[16:], uint32(width))
		binary.BigEndian.PutUint32(raw[20:], uint32(height))
		if kind == "interlaced" {
			raw[28] = 1
		}
		if raw[25] == 2 { // without an alpha channel: have one
			raw[25] = 6
		}
		binary.BigEndian.PutUint32(raw[29:], crc32.ChecksumIEEE(raw[12:29]))
		return raw
	}
	require.NoError(t, jpeg.Encode(&b, small, nil))
	raw := b.Bytes()
	frame := bytes.Index(raw, []byte{0xff, 0xc0})
	require.Positive(t, frame)
	if kind == "progressive" {
		raw[frame+1] = 0xc2
	}
	binary.BigEndian.PutUint16(raw[frame+5:], uint16(height))
	binary.BigEndian.PutUint16(raw[frame+7:], uint16(width))
	return raw
}

func TestAPictureMadeToFillMemoryIsRefusedByItsHeader(t *testing.T) {
	for _, c := range []struct {
		kind          string
		width, height int
		want          string
	}{
		{"png", 50_000_000, 1, "50000000 x 1 points; 12000 along a side"},
		{"png", 1, 50_000_000, "1 x 50000000 points"},
		{"png", 12_000, 12_000, "50 million in all"},
		{"deep", 7000, 7000, "would take 373 MB"},
		{"interlaced", 7000, 7000, "would take 373 MB"},
		{"progressive", 7000, 7000, "would take 700 MB"},
		{"jpeg", 12_001, 10, "12000 along a side"},
	} {
		var before, after runtime.MemStats
		runtime.ReadMemStats(&before)
		_, _, _, err := Reencode(t.Context(), claiming(t, c.kind, c.width, c.height))
		runtime.ReadMemStats(&after)
		assert.ErrorContains(t, err, c.want, "%s %d x %d", c.kind, c.width, c.height)
		assert.Less(t, after.TotalAlloc-before.TotalAlloc, uint64(10<<20), "%s %d x %d", c.kind, c.width, c.height)
	}
	_, _, _, err := Reencode(t.Context(), claiming(t, "jpeg", 8000, 6000))
	assert.ErrorContains(t, err, "broken", "what a phone makes is opened; this one has no more points than its first block")
}

func TestALongPictureIsDrawnInLittleMemory(t *testing.T) {
	img := image.NewNRGBA(image.Rect(0, 0, 4, 12_000))
	for y := range 12_000 {
		for x := range 4 {
			img.SetNRGBA(x, y, color.NRGBA{R: 200, A: 255})
		}
	}
	var raw bytes.Buffer
	require.NoError(t, png.Encode(&raw, img))
	var before, after runtime.MemStats
	runtime.ReadMemStats(&before)
	text, width, height, err := Reencode(t.Context(), raw.Bytes())
	runtime.ReadMemStats(&after)
	require.NoError(t, err)
	assert.Equal(t, [2]int{1, 1600}, [2]int{width, height})
	assert.NotEmpty(t, text)
	assert.Less(t, after.TotalAlloc-before.TotalAlloc, uint64(40<<20))
}

// Shrinking takes the mean: stripes of one point become grey.
func TestStripesFinerThanThePictureBecomeGrey(t *testing.T) {
	img := image.NewGray(image.Rect(0, 0, 6400, 64))
	for i := range img.Pix {
		img.Pix[i] = byte(i%2) * 255
	}
	small, err := fit(t.Context(), img, 1600)
	require.NoError(t, err)
	assert.Equal(t, image.Pt(1600, 16), small.Bounds().Size())
	for x := range 1600 {
		require.InDelta(t, 127, int(small.RGBAAt(x, 10).R), 1, "%d", x)
	}
}

func TestAPictureStopsWithItsContext(t *testing.T) {
	var raw bytes.Buffer
	require.NoError(t, png.Encode(&raw, image.NewGray(image.Rect(0, 0, 6000, 6000))))
	ctx, stop := context.WithTimeout(t.Context(), 5*time.Millisecond)
	defer stop()
	_, _, _, err := Reencode(ctx, raw.Bytes())
	assert.ErrorIs(t, err, context.DeadlineExceeded)
}
