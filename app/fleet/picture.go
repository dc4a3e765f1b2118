package fleet

import (
	"bytes"
	"errors"
	"fmt"
	"image"
	"image/jpeg"
	_ "image/png" // pictures may come as PNG
	"math"

	"ergasia/app/refuse"

	"github.com/bep/imagemeta"
	"golang.org/x/image/draw"
)

// Bounds of pictures. Practice: a phone's picture passes, an image made to fill
// memory does not.
const (
	maxPixels    = 50_000_000
	photoSide    = 1600
	photoQuality = 80

	keptPhotoBytes = 1_500_000 // the table refuses 2,000,000
)

// Reencode makes a picture of ours of what was sent: upright, no larger than
// photoSide, with nothing of its metadata.
func Reencode(raw []byte) (text []byte, width, height int, err error) {
	head, kind, err := image.DecodeConfig(bytes.NewReader(raw))
	if err != nil || kind != "jpeg" && kind != "png" {
		return nil, 0, 0, refusePicture("This is no JPEG or PNG picture.")
	}
	if head.Width <= 0 || head.Height <= 0 || head.Width*head.Height > maxPixels {
		return nil, 0, 0, refusePicture("The picture has %d x %d points; %d million are the most.",
			head.Width, head.Height, maxPixels/1_000_000)
	}
	sent, _, err := image.Decode(bytes.NewReader(raw))
	if err != nil {
		return nil, 0, 0, refusePicture("The picture is broken: send it again.")
	}
	img := upright(fit(sent, photoSide), orientationOf(raw, kind))
	text, err = compressed(img)
	return text, img.Bounds().Dx(), img.Bounds().Dy(), err
}

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
func fit(img image.Image, side int) *image.RGBA {
	b := img.Bounds()
	share := min(1, float64(side)/float64(max(b.Dx(), b.Dy())))
	w := max(1, int(math.Round(float64(b.Dx())*share)))
	h := max(1, int(math.Round(float64(b.Dy())*share)))
	out := image.NewRGBA(image.Rect(0, 0, w, h))
	draw.Draw(out, out.Bounds(), image.White, image.Point{}, draw.Src)
	draw.CatmullRom.Scale(out, out.Bounds(), img, b, draw.Over, nil)
	return out
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
