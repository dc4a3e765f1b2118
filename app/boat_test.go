package app_test

import (
	"bytes"
	"image"
	"image/color"
	"image/jpeg"
	"image/png"
	"math"
	"slices"
	"strings"
	"testing"

	"ergasia/app/aboard"
	"ergasia/app/fleet"
	"ergasia/app/gear"
	"ergasia/app/refuse"
	"ergasia/app/stowing"
	"ergasia/core/hull"
	"ergasia/store"
	"ergasia/store/model"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func (w *world) boatView() fleet.BoatView {
	v, err := w.Fleet.Boat(ctx, w.owner, w.boat)
	require.NoError(w.t, err)
	return v
}

// change saves the test's boat with something changed.
func (w *world) change(change func(in *aboard.BoatInput)) error {
	v := w.boatView()
	change(&v.BoatInput)
	_, err := w.Fleet.SaveBoat(ctx, w.owner, uuid.Nil, w.boat, v.Version, v.BoatInput)
	return err
}

func TestABoatOfEveryFormIsKeptAsItWasMeasured(t *testing.T) {
	w := newWorld(t)
	for _, f := range fleet.Choices().Forms {
		in := boatInput()
		in.Name = "a " + f.Title
		in.Hull = model.HullInput{Form: f.Name, Measures: f.Usual()}
		in.Setup = []string{"hull"}
		id, err := w.Fleet.SaveBoat(ctx, w.owner, uuid.Nil, uuid.Nil, 0, in)
		require.NoError(t, err, f.Name)
		v, err := w.Fleet.Boat(ctx, w.owner, id)
		require.NoError(t, err)
		assert.Equal(t, in.Hull.Measures, v.Hull.Measures)
		assert.Equal(t, []string{"hull"}, v.Setup)
		b, err := w.Stowing.Bench(ctx, w.owner, id)
		require.NoError(t, err)
		assert.NotEmpty(t, b.State.Now.Attitude, f.Name)
	}
}

func TestAPreviewTellsWhatIsWrongAndKeepsNothing(t *testing.T) {
	in := boatInput().Hull
	good := fleet.PreviewHull(in, 1025)
	require.NotNil(t, good.Lines)
	assert.Empty(t, good.Faults)
	assert.Empty(t, good.Doubts)
	assert.InDelta(t, 5, good.Length, 0.2)
	assert.Greater(t, good.FullKg, 1500.0)
	// A centimetre at a third of the depth: the waterplane there, of some 8 m².
	assert.InDelta(t, 82, good.LightCm, 25)

	in.Measures = hull.Tape{}
	for k, v := range boatInput().Hull.Measures {
		in.Measures[k] = v
	}
	in.Measures["chine_beam_m"] = 2.1
	bad := fleet.PreviewHull(in, 1025)
	assert.Nil(t, bad.Lines)
	require.Len(t, bad.Faults, 1)
	assert.Equal(t, fleet.Fault{Field: "hull.measures.chine_beam_m",
		Sentence: "chine beam is wider than the beam at the sheer"}, bad.Faults[0])

	in.Measures["chine_beam_m"], in.Measures["amidships_deadrise_deg"] = 1.7, 2
	odd := fleet.PreviewHull(in, 1025)
	assert.NotNil(t, odd.Lines, "it only looks wrong")
	assert.Equal(t, "amidships_deadrise_deg", odd.Doubts[0].Key)
}

func TestOffsetsGoOutAndComeInAsTheSameBoat(t *testing.T) {
	w := newWorld(t)
	table, err := w.Fleet.OffsetsOf(ctx, w.owner, w.boat)
	require.NoError(t, err)
	read, err := fleet.ReadOffsets(string(table), 1025)
	require.NoError(t, err)
	want := fleet.PreviewHull(boatInput().Hull, 1025)
	assert.InDelta(t, want.HoldsM3, read.Preview.HoldsM3, 1e-12)
	require.NoError(t, w.change(func(in *aboard.BoatInput) {
		in.Hull = model.HullInput{Stations: read.Stations,
			FloodPoints: []model.FloodInput{{Name: "notch", At: model.Vec{0, 0, 0.5}}}}
	}))
	again, err := w.Fleet.OffsetsOf(ctx, w.owner, w.boat)
	require.NoError(t, err)
	assert.Equal(t, string(table), string(again))
	low := fleet.PreviewHull(model.HullInput{Stations: []model.StationInput{{X: 1, Half: [][2]float64{{0, -0.4},
		{1, 0.3}}}, {X: 5, Half: [][2]float64{{0, -0.4}, {1, 0.3}}}}}, 1025)
	require.Len(t, low.Doubts, 2)
	assert.Contains(t, low.Doubts[0].Sentence, "heights should count from the lowest point of the keel")
	assert.Contains(t, low.Doubts[1].Sentence, "lengths should count from the foot of the transom")
	_, err = fleet.ReadOffsets("station,x_m,y_m,z_m\n1,0,0,0\n2,1,0,0\n", 1025)
	assert.ErrorContains(t, err, "not right")
}

func TestABoatsPartsAreChecked(t *testing.T) {
	w := newWorld(t)
	for want, change := range map[string]func(in *aboard.BoatInput){
		"outfit.foam[0].high_m[2]": func(in *aboard.BoatInput) {
			in.Outfit.Foam = []model.FoamInput{{Name: "f", Low: model.Vec{0, 0, 0.3}, High: model.Vec{1, 1, 0.3}}}
		},
		"outfit.sails[0].area_m2 is -1": func(in *aboard.BoatInput) {
			in.Outfit.Sails = []model.SailInput{{Name: "canopy",
				Area: -1, Z: 1}}
		},
		"outfit.material":  func(in *aboard.BoatInput) { in.Outfit.Material = "cheese" },
		"outfit.kind":      func(in *aboard.BoatInput) { in.Outfit.Kind = "barge" },
		"hull.deck.fore_m": func(in *aboard.BoatInput) { in.Hull.Deck = &hull.Deck{Sole: 0.3, Aft: 2, Fore: 1} },
		"hull.well.bulkhead_m": func(in *aboard.BoatInput) {
			in.Hull.Well = &hull.Well{Length: 0.4, Breadth: 1, Floor: 0.5, Bulkhead: 0.4}
		},
		"hull.form": func(in *aboard.BoatInput) { in.Hull.Form = "raft" },
		"setup":     func(in *aboard.BoatInput) { in.Setup = []string{"paint"} },
		"holds nothing": func(in *aboard.BoatInput) {
			in.Outfit.Tanks = []model.TankInput{{Name: "t", Kind: "fuel", Size: model.Vec{0.1, 0.1, 0.1},
				Corner: model.Vec{9, 0, 0}, Density: 740, InHull: true}}
		},
	} {
		refusal := kindOf(t, w.change(change))
		assert.Equal(t, refuse.Invalid, refusal.Kind)
		assert.ErrorContains(t, refusal.Faults, want)
	}
	assert.Equal(t, 1, w.boatView().Version, "nothing was kept")
}

func TestPlacesNestOnlyWhereTheyLieInside(t *testing.T) {
	w := newWorld(t)
	box := fleet.PlaceInput{Name: "box", Corner: model.Vec{0.3, -0.2, 0.32}, Size: model.Vec{0.3, 0.3, 0.2},
		Dryness: "dry", Parent: &w.locker}
	inner, err := w.Fleet.SavePlace(ctx, w.owner, uuid.Nil, w.boat, uuid.Nil, 0, box)
	require.NoError(t, err)
	box.Name, box.Corner = "box outside", model.Vec{0.3, 0.2, 0.32}
	_, err = w.Fleet.SavePlace(ctx, w.owner, uuid.Nil, w.boat, uuid.Nil, 0, box)
	assert.Equal(t, "box outside does not lie inside stern locker: make it smaller, or take it out of there.",
		kindOf(t, err).Sentence)
	// A locker can't stand in a box that stands in it.
	_, err = w.Fleet.SavePlace(ctx, w.owner, uuid.Nil, w.boat, w.locker, 1, fleet.PlaceInput{Name: "stern locker",
		Corner: model.Vec{0.35, -0.15, 0.33}, Size: model.Vec{0.1, 0.1, 0.1}, Dryness: "wet", Parent: &inner})
	assert.ErrorContains(t, err, "can't stand in a place that stands in it")
	assert.ErrorContains(t, w.Fleet.RemovePlace(ctx, w.owner, w.boat, w.locker), "Other places stand in this one")
	require.NoError(t, w.Fleet.RemovePlace(ctx, w.owner, w.boat, inner))
	require.NoError(t, w.Fleet.RemovePlace(ctx, w.owner, w.boat, w.locker))
}

func TestWhatStandsInAPlaceMovesWithIt(t *testing.T) {
	w := newWorld(t)
	inner, err := w.Fleet.SavePlace(ctx, w.owner, uuid.Nil, w.boat, uuid.Nil, 0,
		fleet.PlaceInput{Name: "box", Corner: model.Vec{0.3, -0.2, 0.32}, Size: model.Vec{0.3, 0.3, 0.2}, Dryness: "dry",
			Parent: &w.locker})
	require.NoError(t, err)
	_, err = w.Fleet.SavePlace(ctx, w.owner, uuid.Nil, w.boat, uuid.Nil, 0,
		fleet.PlaceInput{Name: "tray", Corner: model.Vec{0.35, -0.15, 0.34}, Size: model.Vec{0.1, 0.1, 0.05}, Dryness: "dry",
			Parent: &inner})
	require.NoError(t, err)
	locker := fleet.PlaceInput{Name: "stern locker", Corner: model.Vec{0.5, -0.2, 0.4}, Size: model.Vec{0.8, 0.6, 0.4},
		Dryness: "wet", MaxKg: 60}
	_, err = w.Fleet.SavePlace(ctx, w.owner, uuid.Nil, w.boat, w.locker, 1, locker)
	require.NoError(t, err)
	b, err := w.Stowing.Bench(ctx, w.owner, w.boat)
	require.NoError(t, err)
	at := map[string][]float64{}
	for _, p := range b.Places {
		at[p.Name] = p.Corner[:]
	}
	assert.InDeltaSlice(t, []float64{0.6, -0.1, 0.42}, at["box"], 1e-9)
	assert.InDeltaSlice(t, []float64{0.65, -0.05, 0.44}, at["tray"], 1e-9)
	// Made so small that the box would stick out, it is refused, and nothing moves.
	locker.Size, locker.Corner = model.Vec{0.15, 0.6, 0.4}, model.Vec{1, -0.2, 0.4}
	_, err = w.Fleet.SavePlace(ctx, w.owner, uuid.Nil, w.boat, w.locker, 2, locker)
	assert.Equal(t, "box stands in it and would stick out: move or shrink that first.", kindOf(t, err).Sentence)
	again, err := w.Stowing.Bench(ctx, w.owner, w.boat)
	require.NoError(t, err)
	assert.Equal(t, b.Places, again.Places)
}

func TestACopyToTheOtherSideIsTheMirrorOfItAndOfWhatStandsInIt(t *testing.T) {
	w := newWorld(t)
	side, err := w.Fleet.SavePlace(ctx, w.owner, uuid.Nil, w.boat, uuid.Nil, 0, fleet.PlaceInput{Name: "port bench",
		Corner: model.Vec{1, 0.35, 0.3}, Size: model.Vec{0.6, 0.4, 0.3},
		Opening: [2]float64{0.5, 0.3}, Dryness: "dry", MaxKg: 20, Lid: "hinged", Latched: true, Insulated: true})
	require.NoError(t, err)
	_, err = w.Fleet.SavePlace(ctx, w.owner, uuid.Nil, w.boat, uuid.Nil, 0, fleet.PlaceInput{Name: "port tray",
		Corner: model.Vec{1.1, 0.4, 0.35}, Size: model.Vec{0.3, 0.2, 0.1}, Dryness: "dry", Parent: &side})
	require.NoError(t, err)
	key := store.NewID()
	copied, err := w.Fleet.MirrorPlace(ctx, w.owner, key, w.boat, side)
	require.NoError(t, err)
	again, err := w.Fleet.MirrorPlace(ctx, w.owner, key, w.boat, side)
	require.NoError(t, err)
	assert.Equal(t, copied, again, "the same key copies once")
	b, err := w.Stowing.Bench(ctx, w.owner, w.boat)
	require.NoError(t, err)
	byName := map[string]stowing.PlaceView{}
	for _, p := range b.Places {
		byName[p.Name] = p
	}
	require.Len(t, b.Places, 6)
	bench, tray := byName["starboard bench"], byName["starboard tray"]
	assert.Equal(t, copied, bench.ID)
	assert.InDelta(t, -0.75, bench.Corner[1], 1e-12)
	assert.Equal(t, byName["port bench"].Size, bench.Size)
	assert.Equal(t, byName["port bench"].Opening, bench.Opening)
	assert.True(t, bench.Latched && bench.Insulated && !bench.Locks)
	assert.Equal(t, "hinged", bench.Lid)
	assert.InDelta(t, -0.6, tray.Corner[1], 1e-12)
	require.NotNil(t, tray.Parent)
	assert.Equal(t, copied, *tray.Parent)

	_, err = w.Fleet.MirrorPlace(ctx, w.owner, store.NewID(), w.boat, w.locker)
	assert.ErrorContains(t, err, "lies on the middle line")
	third, err := w.Fleet.MirrorPlace(ctx, w.owner, store.NewID(), w.boat, side)
	require.NoError(t, err)
	b, err = w.Stowing.Bench(ctx, w.owner, w.boat)
	require.NoError(t, err)
	i := slices.IndexFunc(b.Places, func(p stowing.PlaceView) bool { return p.ID == third })
	assert.Equal(t, "starboard bench 2", b.Places[i].Name)
}

func TestALayoutStandsInTheHull(t *testing.T) {
	w := newWorld(t)
	require.NoError(t, w.Fleet.RemovePlace(ctx, w.owner, w.boat, w.tray))
	require.NoError(t, w.Fleet.LayOut(ctx, w.owner, store.NewID(), w.boat, "console"))
	b, err := w.Stowing.Bench(ctx, w.owner, w.boat)
	require.NoError(t, err)
	assert.Greater(t, len(b.Places), 10)
	for _, p := range b.Places[1:] {
		assert.Zero(t, p.LeavesBy, p.Name)
	}
	assert.Len(t, b.Posts, 6)
	assert.Equal(t, refuse.NotFound, kindOf(t, w.Fleet.LayOut(ctx, w.owner, uuid.Nil, w.boat, "castle")).Kind)
}

// picture is a JPEG of two colours, red on the left, with an EXIF block that says
// how it is turned and carries a secret.
func picture(t *testing.T, orientation byte) []byte {
	img := image.NewRGBA(image.Rect(0, 0, 64, 32))
	for x := range 64 {
		for y := range 32 {
			c := color.RGBA{R: 220, G: 20, B: 20, A: 255}
			if x >= 32 {
				c = color.RGBA{R: 20, G: 20, B: 220, A: 255}
			}
			img.Set(x, y, c)
		}
	}
	var b bytes.Buffer
	require.NoError(t, jpeg.Encode(&b, img, &jpeg.Options{Quality: 95}))
	tiff := []byte{'I', 'I', 42, 0, 8, 0, 0, 0, 1, 0, 0x12, 1, 3, 0, 1, 0, 0, 0, orientation, 0, 0, 0, 0, 0, 0, 0}
	exif := append([]byte("Exif\x00\x00"), append(tiff, []byte("SECRET-PLACE 59.9N 10.7E")...)...)
	size := len(exif) + 2
	out := append([]byte{0xff, 0xd8, 0xff, 0xe1, byte(size >> 8), byte(size)}, exif...)
	return append(out, b.Bytes()[2:]...)
}

func TestPicturesAreMadeAnewUprightAndWithoutMetadata(t *testing.T) {
	w := newWorld(t)
	id, err := w.Fleet.AddPhoto(ctx, w.owner, store.NewID(), fleet.PhotoOf{Boat: &w.boat, Place: &w.locker},
		picture(t, 6)) // to be turned a quarter clockwise
	require.NoError(t, err)
	text, err := w.Fleet.Photo(ctx, w.hand, fleet.PhotoOf{Boat: &w.boat}, id)
	require.NoError(t, err)
	assert.NotContains(t, string(text), "SECRET")
	assert.NotContains(t, string(text), "Exif")
	img, err := jpeg.Decode(bytes.NewReader(text))
	require.NoError(t, err)
	assert.Equal(t, image.Pt(32, 64), img.Bounds().Size())
	r, _, b, _ := img.At(16, 5).RGBA()
	assert.Greater(t, r, b, "red came from the left to the top")
	list, err := w.Fleet.Photos(ctx, w.hand, fleet.PhotoOf{Boat: &w.boat})
	require.NoError(t, err)
	require.Len(t, list, 1)
	assert.Equal(t, w.locker, *list[0].PlaceID)
	assert.Equal(t, "Ilse", list[0].By)
	require.NoError(t, w.Fleet.RemovePhoto(ctx, w.owner, fleet.PhotoOf{Boat: &w.boat}, id))
	_, err = w.Fleet.Photo(ctx, w.owner, fleet.PhotoOf{Boat: &w.boat}, id)
	assert.Equal(t, refuse.NotFound, kindOf(t, err).Kind)
}

func TestThereAreOnlySoManyPicturesOfAThing(t *testing.T) {
	w := newWorld(t)
	of := fleet.PhotoOf{Gear: &w.cooler.ID}
	for range 6 {
		_, err := w.Fleet.AddPhoto(ctx, w.owner, store.NewID(), of, picture(t, 1))
		require.NoError(t, err)
	}
	_, err := w.Fleet.AddPhoto(ctx, w.owner, store.NewID(), of, picture(t, 1))
	assert.ErrorContains(t, err, "There are 6 pictures, the most that are kept")
}

func TestAnotherPictureUnderTheSameKeyIsRefused(t *testing.T) {
	w := newWorld(t)
	key, of := store.NewID(), fleet.PhotoOf{Boat: &w.boat}
	id, err := w.Fleet.AddPhoto(ctx, w.owner, key, of, picture(t, 6))
	require.NoError(t, err)
	again, err := w.Fleet.AddPhoto(ctx, w.owner, key, of, picture(t, 6))
	require.NoError(t, err)
	assert.Equal(t, id, again)
	_, err = w.Fleet.AddPhoto(ctx, w.owner, key, of, picture(t, 3)) // as many bytes
	assert.ErrorContains(t, err, "used for another request")
}

// The left of what the camera saw is red: where it comes to is what Exif 2.32
// says of each orientation.
func TestEveryOrientationIsTurnedUpright(t *testing.T) {
	for orientation, want := range map[byte]string{
		1: "left", 2: "right", 3: "right", 4: "left", 5: "top", 6: "top", 7: "bottom", 8: "bottom", 0: "left", 9: "left",
	} {
		text, width, height, err := fleet.Reencode(ctx, picture(t, orientation))
		require.NoError(t, err)
		img, err := jpeg.Decode(bytes.NewReader(text))
		require.NoError(t, err)
		points := map[string]image.Point{"left": {X: 4, Y: height / 2}, "right": {X: width - 5, Y: height / 2},
			"top": {X: width / 2, Y: 4}, "bottom": {X: width / 2, Y: height - 5}}
		for side, p := range points {
			r, _, b, _ := img.At(p.X, p.Y).RGBA()
			if side == want {
				assert.Greater(t, r, 2*b, "orientation %d: red is at the %s", orientation, want)
			}
		}
		assert.Equal(t, want == "top" || want == "bottom", height > width, "orientation %d", orientation)
	}
}

// A usual picture is kept at quality 80: the first figure of its table is then
// 6, that of the standard's annex K (16) times 0.4.
func TestAUsualPictureIsKeptFine(t *testing.T) {
	text, _, _, err := fleet.Reencode(ctx, picture(t, 1))
	require.NoError(t, err)
	table := bytes.Index(text, []byte{0xff, 0xdb})
	require.Positive(t, table)
	assert.Equal(t, byte(6), text[table+5])
}

// Noise is the worst a picture can be; it is kept all the same, coarser.
func TestANoisyPictureIsKeptSmallEnough(t *testing.T) {
	img := image.NewRGBA(image.Rect(0, 0, 1600, 1600))
	seed := uint32(1)
	for i := range img.Pix {
		seed = seed*1664525 + 1013904223
		img.Pix[i] = byte(seed >> 24)
	}
	var raw bytes.Buffer
	require.NoError(t, jpeg.Encode(&raw, img, &jpeg.Options{Quality: 90}))
	text, width, height, err := fleet.Reencode(ctx, raw.Bytes())
	require.NoError(t, err)
	assert.Equal(t, [2]int{1600, 1600}, [2]int{width, height})
	assert.Less(t, len(text), 2_000_000)
}

func TestWhatIsNoPictureOrTooLargeIsRefused(t *testing.T) {
	w := newWorld(t)
	var huge bytes.Buffer
	require.NoError(t, png.Encode(&huge, image.NewGray(image.Rect(0, 0, 8000, 8000))))
	for want, raw := range map[string][]byte{
		"no JPEG or PNG":          []byte("GIF89a not a picture"),
		"8000 x 8000 points":      huge.Bytes(),
		"is broken":               picture(t, 1)[:len(picture(t, 1))-20],
		"This is no JPEG or PNG ": {},
	} {
		_, err := w.Fleet.AddPhoto(ctx, w.owner, store.NewID(), fleet.PhotoOf{Boat: &w.boat}, raw)
		assert.ErrorContains(t, err, strings.TrimSpace(want))
	}
	nobody := store.NewID()
	_, err := w.Fleet.AddPhoto(ctx, w.owner, store.NewID(), fleet.PhotoOf{Boat: &w.boat, Place: &nobody}, picture(t, 1))
	assert.Equal(t, refuse.NotFound, kindOf(t, err).Kind)
	list, err := w.Fleet.Photos(ctx, w.owner, fleet.PhotoOf{Boat: &w.boat})
	require.NoError(t, err)
	assert.Empty(t, list)
}

func TestTheSheetHasTheBoatsPlacesAndHerWater(t *testing.T) {
	w := newWorld(t)
	text, err := w.Floating.Sheet(ctx, w.owner, w.boat, "svg", true)
	require.NoError(t, err)
	assert.Contains(t, string(text), "stern locker")
	assert.Contains(t, string(text), "80 x 60 x 40 cm")
	pdf, err := w.Floating.Sheet(ctx, w.owner, w.boat, "pdf", false)
	require.NoError(t, err)
	assert.True(t, bytes.HasPrefix(pdf, []byte("%PDF-")))
}

func trailerInput() model.TrailerInput {
	return model.TrailerInput{Kg: 200, CG: 2, Axle: 1.6, Hitch: 7, RatedKg: 640, HitchRatedKg: 75, Tyres: 2,
		TyreRatedKg: 400, Straps: 2, StrapRatedKg: 300, School: "boat"}
}

func TestGearRidesWhereItIsPutUntilItIsMoved(t *testing.T) {
	w := newWorld(t)
	_, err := w.put(w.owner, w.cooler, &w.locker)
	require.NoError(t, err)
	none, err := w.Floating.Road(ctx, w.hand, w.boat)
	require.NoError(t, err)
	assert.Nil(t, none.Trailer)
	require.NoError(t, w.Floating.SetTrailer(ctx, w.owner, store.NewID(), w.boat, 1, trailerInput()))
	assert.Equal(t, refuse.Conflict, kindOf(t, w.Floating.SetTrailer(ctx, w.owner, store.NewID(), w.boat, 1,
		trailerInput())).Kind, "stale")

	// By hand: hull 400 kg at 2.1, cooler 30 kg where it lies; moments about the axle at 1.6, hitch 5.4 m ahead.
	r, err := w.Floating.Road(ctx, w.hand, w.boat)
	require.NoError(t, err)
	require.Len(t, r.Things, 1)
	hitch := (200*0.4 + 400*0.5 + 30*(r.Things[0].X-1.6)) / 5.4
	assert.InDelta(t, 630, r.TotalKg, 1e-9)
	assert.InDelta(t, hitch, r.HitchKg, 1e-9)
	assert.InDelta(t, 630-hitch, r.AxleKg, 1e-9)
	assert.True(t, r.Met)

	heavy := trailerInput()
	heavy.RatedKg = 610
	require.NoError(t, w.Floating.SetTrailer(ctx, w.owner, store.NewID(), w.boat, 2, heavy))
	r, err = w.Floating.Road(ctx, w.hand, w.boat)
	require.NoError(t, err)
	assert.False(t, r.Met)
	assert.True(t, r.Things[0].Out)
	require.NoError(t, w.Floating.Ride(ctx, w.hand, w.boat, w.cooler.ID, "van"))
	r, err = w.Floating.Road(ctx, w.hand, w.boat)
	require.NoError(t, err)
	assert.True(t, r.Met)
	assert.InDelta(t, 30, r.VanKg, 1e-9)
	assert.InDelta(t, 600, r.TotalKg, 1e-9)
	assert.NotNil(t, w.stowed(w.cooler).PlaceID, "it still belongs in its place")

	// A piece that is moved rides in the boat again, till someone says otherwise.
	_, err = w.put(w.owner, w.cooler, nil)
	require.NoError(t, err)
	assert.Equal(t, refuse.NotFound, kindOf(t, w.Floating.Ride(ctx, w.hand, w.boat, w.cooler.ID, "car")).Kind)
	_, err = w.put(w.owner, w.cooler, &w.locker)
	require.NoError(t, err)
	r, err = w.Floating.Road(ctx, w.hand, w.boat)
	require.NoError(t, err)
	assert.Equal(t, "boat", r.Things[0].Rides)

	bad := trailerInput()
	bad.Hitch = 1.7
	assert.ErrorContains(t, kindOf(t, w.Floating.SetTrailer(ctx, w.owner, store.NewID(), w.boat, 3, bad)).Faults,
		"ahead of the axle")
	bad.Hitch = math.NaN()
	assert.Equal(t, refuse.Invalid, kindOf(t, w.Floating.SetTrailer(ctx, w.owner, store.NewID(), w.boat, 3, bad)).Kind)
}

func TestAUsualLayoutLeavesWhatIsThere(t *testing.T) {
	w := newWorld(t)
	before, err := w.Stowing.Bench(ctx, w.owner, w.boat)
	require.NoError(t, err)
	require.NotEmpty(t, before.Posts)
	_, err = w.Fleet.AddPost(ctx, w.owner, store.NewID(), w.boat, fleet.PostInput{Name: "port rail", At: model.Vec{1, 0.2, 0.3}})
	require.NoError(t, err)
	require.NoError(t, w.Fleet.LayOut(ctx, w.owner, store.NewID(), w.boat, "console"))
	after, err := w.Stowing.Bench(ctx, w.owner, w.boat)
	require.NoError(t, err)
	for _, p := range after.Posts {
		if p.Name == "port rail" {
			assert.Equal(t, model.Vec{1, 0.2, 0.3}, p.At, "a post of that name stays where it was put")
		}
	}
	assert.Greater(t, len(after.Posts), len(before.Posts)+1)
	require.NoError(t, w.Fleet.LayOut(ctx, w.owner, store.NewID(), w.boat, "console"), "and again")
}

func TestAPostIsChangedAndGearFollowsItsName(t *testing.T) {
	w := newWorld(t)
	bench, err := w.Stowing.Bench(ctx, w.owner, w.boat)
	require.NoError(t, err)
	post := bench.Posts[0]
	net := w.make("net", 1, func(in *gear.GearInput) { small(in); in.UsedFrom = post.Name })
	to := fleet.PostInput{Name: "wheel", At: model.Vec{1.2, 0.1, 0.3}}
	_, err = w.Fleet.ChangePost(ctx, w.owner, store.NewID(), w.boat, post.ID, post.Version+1, to)
	assert.Equal(t, refuse.Conflict, kindOf(t, err).Kind)
	_, err = w.Fleet.ChangePost(ctx, w.owner, store.NewID(), w.boat, post.ID, post.Version, to)
	require.NoError(t, err)
	bench, err = w.Stowing.Bench(ctx, w.owner, w.boat)
	require.NoError(t, err)
	assert.Equal(t, to, bench.Posts[0].PostInput)
	g, err := w.Gear.GearOne(ctx, w.owner, net.ID)
	require.NoError(t, err)
	assert.Equal(t, "wheel", g.UsedFrom)
	_, err = w.Fleet.ChangePost(ctx, w.owner, store.NewID(), w.boat, store.NewID(), 1, to)
	assert.Equal(t, refuse.NotFound, kindOf(t, err).Kind)
}

func TestATripHasPicturesOfItsOwn(t *testing.T) {
	w := newWorld(t)
	trip := w.trip("cod run", 0, 1, 3)
	of := fleet.PhotoOf{Trip: &trip}
	id, err := w.Fleet.AddPhoto(ctx, w.owner, store.NewID(), of, picture(t, 1))
	require.NoError(t, err)
	list, err := w.Fleet.Photos(ctx, w.hand, of)
	require.NoError(t, err)
	require.Len(t, list, 1)
	_, err = w.Fleet.Photo(ctx, w.hand, fleet.PhotoOf{Boat: &w.boat}, id)
	assert.Equal(t, refuse.NotFound, kindOf(t, err).Kind, "it is not the boat's")
	require.NoError(t, w.Fleet.RemovePhoto(ctx, w.owner, of, id))
	last, err := w.Undoing.Last(ctx, w.owner)
	require.NoError(t, err)
	_, err = w.Undoing.Undo(ctx, w.owner, store.NewID(), last.Undoable.ID)
	require.NoError(t, err)
	list, err = w.Fleet.Photos(ctx, w.hand, of)
	require.NoError(t, err)
	assert.Len(t, list, 1)
}
