package fleet

import (
	"bytes"
	"context"
	"encoding/binary"
	"errors"
	"fmt"
	"image"
	"image/color"
	"image/jpeg"
	_ "image/png" // pictures may come as PNG
	"io"
	"math"

	"ergasia/app/refuse"

	"github.com/bep/imagemeta"
	"golang.org/x/image/draw"
)

// Bounds of pictures. Practice: a phone's picture passes, an image made to fill
// memory does not.
const (
	maxSide      = 12_000
	maxPixels    = 50_000_000
	maxDecoded   = 200 << 20 // bytes, while it is read
	photoSide    = 1600
	photoQuality = 80

	keptPhotoBytes = 1_500_000 // the table refuses 2,000,000
)

// Reencode makes a picture of ours of what was sent: upright, no larger than
// photoSide, with nothing of its metadata. What would take too much memory is
// refused by its header; the context ends the work wherever it is.
func Reencode(ctx context.Context, raw []byte) (text []byte, width, height int, err error) {
	head, kind, err := image.DecodeConfig(bytes.NewReader(raw))
	if err != nil || kind != "jpeg" && kind != "png" {
		return nil, 0, 0, refusePicture("This is no JPEG or PNG picture.")
	}
	if err := bounded(head, kind, raw); err != nil {
		return nil, 0, 0, err
	}
	sent, _, err := image.Decode(&until{ctx: ctx, Reader: bytes.NewReader(raw)})
	if ctx.Err() != nil {
		return nil, 0, 0, ctx.Err()
	}
	if err != nil {
		return nil, 0, 0, refusePicture("The picture is broken: send it again.")
	}
	small, err := fit(ctx, sent, photoSide)
	if err != nil {
		return nil, 0, 0, err
	}
	img := upright(small, orientationOf(raw, kind))
	text, err = compressed(img)
	return text, img.Bounds().Dx(), img.Bounds().Dy(), err
}

// until reads for as long as its context lasts.
type until struct {
	ctx context.Context
	io.Reader
}

func (u *until) Read(p []byte) (int, error) {
	if err := u.ctx.Err(); err != nil {
		return 0, err
	}
	return u.Reader.Read(p)
}

// bounded refuses a picture that its header says is too large to be read.
func bounded(head image.Config, kind string, raw []byte) error {
	if head.Width <= 0 || head.Height <= 0 {
		return refusePicture("The picture has no points.")
	}
	if head.Width > maxSide || head.Height > maxSide || head.Width*head.Height > maxPixels {
		return refusePicture("The picture has %d x %d points; %d along a side and %d million in all are the most.",
			head.Width, head.Height, maxSide, maxPixels/1_000_000)
	}
	if need := head.Width * head.Height * bytesAPoint(head, kind, raw); need > maxDecoded {
		return refusePicture("To open the picture would take %d MB of memory; %d are the most: send it smaller, or as a usual JPEG.",
			need>>20, maxDecoded>>20)
	}
	return nil
}

// bytesAPoint is how much memory the decoder takes for a point, at most.
func bytesAPoint(head image.Config, kind string, raw []byte) int {
	if kind == "jpeg" {
		samples := map[color.Model]int{color.GrayModel: 1, color.YCbCrModel: 3, color.RGBAModel: 7, color.CMYKModel: 8}
		n := max(samples[head.ColorModel], 1)
		if progressive(raw) {
			n += 4 * n // each coefficient is kept in four bytes until the last scan
		}
		return n
	}
	n := map[color.Model]int{color.GrayModel: 1, color.Gray16Model: 2, color.RGBAModel: 4, color.NRGBAModel: 4,
		color.RGBA64Model: 8, color.NRGBA64Model: 8}[head.ColorModel]
	if n = max(n, 1); interlaced(raw) {
		n *= 2 // each pass is a picture of its own
	}
	return n
}

// progressive says whether the frame of a JPEG is one (marker SOF2 of ITU-T T.81).
func progressive(raw []byte) bool {
	for at := 2; at+4 <= len(raw) && raw[at] == 0xff; {
		marker := raw[at+1]
		switch {
		case marker == 0xff: // filling
			at++
		case marker == 0xc2:
			return true
		case marker == 0xda: // the scan begins
			return false
		default:
			at += 2 + int(binary.BigEndian.Uint16(raw[at+2:]))
		}
	}
	return false
}

// interlaced says whether a PNG is: the last byte of its header (PNG, second edition, 11.2.2).
func interlaced(raw []byte) bool { return len(raw) > 28 && raw[28] != 0 }

func refusePicture(sentence string, values ...any) error {
	return &refuse.Error{Kind: refuse.Refused, Sentence: fmt.Sprintf(sentence, values...)}
}

// compressed writes a picture so that it is small enough to keep: noise does not
// compress, so it is written coarser until it is.
func compressed(img image.Image) ([]byte, error) {
	var out bytes.Buffer
	for quality := photoQuality; ; quality -= 20 {
		out.Reset()
		if err := jpeg.Encode(&out, img, &jpeg.Options{Quality: quality}); err != nil {
			return nil, fmt.Errorf("writing the picture: %w", err)
		}
		if out.Len() <= keptPhotoBytes || quality <= 20 {
			return out.Bytes(), nil
		}
	}
}

// fit draws a picture smaller where a side is longer than it may be, on white
// where it lets through.
func fit(ctx context.Context, img image.Image, side int) (*image.RGBA, error) {
	img, err := coarser(ctx, img, side)
	if err != nil {
		return nil, err
	}
	b := img.Bounds()
	share := min(1, float64(side)/float64(max(b.Dx(), b.Dy())))
	w := max(1, int(math.Round(float64(b.Dx())*share)))
	h := max(1, int(math.Round(float64(b.Dy())*share)))
	out := image.NewRGBA(image.Rect(0, 0, w, h))
	draw.Draw(out, out.Bounds(), image.White, image.Point{}, draw.Src)
	draw.CatmullRom.Scale(out, out.Bounds(), img, b, draw.Over, nil)
	return out, ctx.Err()
}

// coarser takes the mean of so many points along and across that a picture is
// still larger than side, and no more than half as large again: what smooth
// scaling takes in memory is then small. A strip is read at a time.
func coarser(ctx context.Context, img image.Image, side int) (image.Image, error) {
	b := img.Bounds()
	k := max(b.Dx(), b.Dy()) / side
	across, down := min(k, b.Dx()), min(k, b.Dy())
	if k < 2 {
		return img, nil
	}
	out := image.NewRGBA(image.Rect(0, 0, b.Dx()/across, b.Dy()/down))
	strip := image.NewRGBA(image.Rect(0, 0, b.Dx(), down))
	for y := range out.Bounds().Dy() {
		if ctx.Err() != nil {
			return nil, ctx.Err()
		}
		draw.Draw(strip, strip.Bounds(), image.White, image.Point{}, draw.Src)
		draw.Draw(strip, strip.Bounds(), img, image.Pt(b.Min.X, b.Min.Y+y*down), draw.Over)
		for x := range out.Bounds().Dx() {
			out.SetRGBA(x, y, mean(strip, image.Rect(x*across, 0, (x+1)*across, down)))
		}
	}
	return out, nil
}

// mean colour of a part of an opaque picture.
func mean(img *image.RGBA, part image.Rectangle) color.RGBA {
	var sum [3]int
	for y := part.Min.Y; y < part.Max.Y; y++ {
		for i := img.PixOffset(part.Min.X, y); i < img.PixOffset(part.Max.X, y); i += 4 {
			for c := range sum {
				sum[c] += int(img.Pix[i+c])
			}
		}
	}
	n := part.Dx() * part.Dy()
	return color.RGBA{R: uint8(sum[0] / n), G: uint8(sum[1] / n), B: uint8(sum[2] / n), A: 255}
}

// orientationOf is how the camera was held: 1 to 8, as the tag Orientation of
// Exif 2.32 counts, 1 where nothing is said.
func orientationOf(raw []byte, kind string) int {
	format := map[string]imagemeta.ImageFormat{"jpeg": imagemeta.JPEG, "png": imagemeta.PNG}[kind]
	found := 1
	_, err := imagemeta.Decode(imagemeta.Options{
		R: bytes.NewReader(raw), ImageFormat: format, Sources: imagemeta.EXIF,
		ShouldHandleTag: func(tag imagemeta.TagInfo) bool { return tag.Tag == "Orientation" },
		HandleTag: func(tag imagemeta.TagInfo) error {
			if n, ok := tag.Value.(uint16); ok && n >= 1 && n <= 8 {
				found = int(n)
			}
			return imagemeta.ErrStopWalking
		},
	})
	if err != nil && !errors.Is(err, imagemeta.ErrStopWalking) {
		return 1 // what can't be read says nothing
	}
	return found
}

// upright turns and mirrors a picture the way that its orientation asks for.
func upright(img *image.RGBA, orientation int) *image.RGBA {
	if orientation == 1 {
		return img
	}
	right, foot := img.Bounds().Dx()-1, img.Bounds().Dy()-1
	from := map[int]func(x, y int) (int, int){ // the point that comes to x, y
		2: func(x, y int) (int, int) { return right - x, y },
		3: func(x, y int) (int, int) { return right - x, foot - y },
		4: func(x, y int) (int, int) { return x, foot - y },
		5: func(x, y int) (int, int) { return y, x },
		6: func(x, y int) (int, int) { return y, foot - x },
		7: func(x, y int) (int, int) { return right - y, foot - x },
		8: func(x, y int) (int, int) { return right - y, x },
	}[orientation]
	w, h := right+1, foot+1
	if orientation >= 5 {
		w, h = h, w
	}
	out := image.NewRGBA(image.Rect(0, 0, w, h))
	for y := range h {
		for x := range w {
			out.SetRGBA(x, y, img.RGBAAt(from(x, y)))
		}
	}
	return out
}
