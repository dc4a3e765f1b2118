package labels

import (
	"bytes"
	"fmt"
	"image"
	"image/color"
	"image/draw"
	"image/png"
	"strings"
	"testing"

	"github.com/makiuchi-d/gozxing"
	"github.com/makiuchi-d/gozxing/qrcode"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// The papers' sizes are those of ISO 216 and ANSI/ASME Y14.1.
func TestEverySheetFitsItsPaper(t *testing.T) {
	papers := map[string][2]float64{"A4": {210, 297}, "Letter": {215.9, 279.4}}
	for _, s := range Sheets {
		paper := papers[s.Paper]
		right := s.Left + float64(s.Across)*s.Width + float64(s.Across-1)*s.GapX
		foot := s.Top + float64(s.Down)*s.Height + float64(s.Down-1)*s.GapY
		assert.LessOrEqual(t, right, paper[0]+0.1, s.Key)
		assert.LessOrEqual(t, foot, paper[1]+0.1, s.Key)
		assert.InDelta(t, s.Left, paper[0]-right, 2.6, "%s: as much margin at both sides", s.Key)
		assert.Contains(t, s.Name, fmt.Sprint(s.Across*s.Down), s.Key)
	}
}

func pages(text []byte) int { return bytes.Count(text, []byte("/Type /Page\n")) }

func TestLabelsFillSheetsFromTheFirstFreePlace(t *testing.T) {
	s, ok := SheetOf("a4-21")
	require.True(t, ok)
	many := make([]Label, 21)
	for i := range many {
		many[i] = Label{Name: fmt.Sprintf("box %d", i), Code: "K7M2QR", URL: "http://127.0.0.1:8080/at/K7M2QR"}
	}
	text, err := Write(s, many, 0)
	require.NoError(t, err)
	assert.Equal(t, 1, pages(text))
	text, err = Write(s, many, 1)
	require.NoError(t, err)
	assert.Equal(t, 2, pages(text), "one place was used, so the last goes on a second sheet")
	_, ok = SheetOf("a3")
	assert.False(t, ok)
}

func TestLongNamesAreSetSmallerOrCut(t *testing.T) {
	for _, s := range Sheets {
		for _, name := range []string{"net", strings.Repeat("long ", 16), strings.Repeat("x", 80), "å ø 网 =1+1"} {
			text, err := Write(s, []Label{{Name: name, Mark: "O", Lines: []string{"a", strings.Repeat("b", 90), "c", "d", "e",
				"f", "g"}, Code: "K7M2QR", URL: "http://x/at/K7M2QR"}}, 3)
			require.NoError(t, err, s.Key)
			assert.Equal(t, 1, pages(text))
		}
	}
	_, err := Write(Sheets[0], []Label{{Name: "x", URL: strings.Repeat("x", 5000)}}, 0)
	assert.Error(t, err, "more than a QR code holds")
}

// read decodes a code with a reader that the program does not use, standing on
// paper with a margin around it.
func read(t *testing.T, code image.Image) string {
	bounds := code.Bounds()
	paper := image.NewRGBA(image.Rect(0, 0, bounds.Dx()+80, bounds.Dy()+80))
	draw.Draw(paper, paper.Bounds(), image.White, image.Point{}, draw.Src)
	draw.Draw(paper, bounds.Add(image.Pt(40, 40)), code, bounds.Min, draw.Src)
	bitmap, err := gozxing.NewBinaryBitmapFromImage(paper)
	require.NoError(t, err)
	result, err := qrcode.NewQRCodeReader().Decode(bitmap, nil)
	require.NoError(t, err)
	return result.GetText()
}

func TestACodeIsReadBackAlsoWhenItIsSoiled(t *testing.T) {
	for _, url := range []string{"http://127.0.0.1:8080/at/K7M2QR",
		"https://gear.a-rather-long-name.example.org/at/ZZZZZZ"} {
		text, modules, err := codePicture(url)
		require.NoError(t, err)
		code, err := png.Decode(bytes.NewReader(text))
		require.NoError(t, err)
		assert.Equal(t, url, read(t, code))
		soiled := image.NewRGBA(code.Bounds())
		draw.Draw(soiled, soiled.Bounds(), code, image.Point{}, draw.Src)
		blot := code.Bounds().Dx() / 8
		at := code.Bounds().Dx()/2 + blot
		draw.Draw(soiled, image.Rect(at, at, at+blot, at+blot), image.NewUniform(color.Black), image.Point{}, draw.Src)
		assert.Equal(t, url, read(t, soiled), "a blot on it")
		for _, s := range Sheets { // practice: a phone reads modules of a third of a millimetre at a hand's breadth
			side := min(s.Height-2*pad, s.Width*0.4)
			assert.Greater(t, side/float64(modules+2*quietZone), 0.33, "%s: %d modules", s.Key, modules)
		}
	}
}
