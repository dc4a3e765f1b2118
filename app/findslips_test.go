package app_test

import (
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"ergasia/app/gear"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// What a crew's gear is called; invented, with words that are like one another.
var slipNames = strings.Split(strings.TrimSpace(`
thermos and food box
landing net, telescopic
pike rod 2.1 m
perch rod 1.9 m
jerkbait box
drop-shot box
wire leaders
spare propeller
propeller wrench
first-aid kit
fire extinguisher
hand flares
smoke signal
handheld radio
anchor, folding
anchor line 40 m
drift sock
boat hook
fenders
mooring lines
bilge pump, hand
bucket with lid
cooler, 25 L
bait bucket
live-bait pump
rod holders, clamp
planer boards
trolling reels
spinning reel
baitcasting reel
soft lures, large
soft lures, small
jig heads
sinkers
hook remover
long pliers
fillet knife
scale, digital
measuring board
weigh bag
headlamp
torch, floating
batteries AA
charger, bank
navigation lights
chart of the sound
compass, hand bearing
binoculars
whistle and mirror
ladder, rope
paddle
fuel can 10 L
funnel with filter
engine oil
spark plugs
tool roll
tape and cable ties
spare fuses
lifejacket, Sune
lifejacket, Ilse
rain jacket
wading boots
gloves, neoprene
towel
sunscreen
seat cushion
dry bag, orange
camera mount
phone holder
bungee cords`), "\n")

// slip makes one slip somewhere: two letters swapped, one left out, doubled or changed.
func slip(r *rand.Rand, text string) string {
	for {
		letters := []rune(text)
		i := r.IntN(len(letters) - 1)
		if letters[i] == ' ' || letters[i+1] == ' ' {
			continue
		}
		switch r.IntN(4) {
		case 0:
			letters[i], letters[i+1] = letters[i+1], letters[i]
		case 1:
			letters = slices.Delete(letters, i, i+1)
		case 2:
			letters = slices.Insert(letters, i, letters[i])
		default:
			letters[i] = rune('a' + r.IntN(26))
		}
		if string(letters) != text {
			return string(letters)
		}
	}
}

func TestSlipsAreForgivenByFind(t *testing.T) {
	w := newWorld(t)
	ids := map[string]uuid.UUID{}
	for _, name := range slipNames {
		ids[name] = w.make(name, 0.1, small).ID
	}
	r := rand.New(rand.NewPCG(11, 33))
	among := func(name, query string) bool {
		hits, err := w.Gear.Find(ctx, w.owner, query)
		require.NoError(t, err)
		return slices.ContainsFunc(hits[:min(3, len(hits))], func(h gear.Hit) bool { return h.ID == ids[name] || h.Name == name })
	}
	share := func(what string, least float64, query func(string) string, asked func(query, name string) bool) {
		found, all := 0, 0
		for _, name := range slipNames {
			for range 3 {
				q := query(name)
				if q == "" {
					continue
				}
				all++
				if asked(q, name) {
					found++
				} else {
					t.Logf("%s: %q for %q", what, q, name)
				}
			}
		}
		t.Logf("%s: %d of %d", what, found, all)
		assert.GreaterOrEqual(t, float64(found), least*float64(all), what)
	}
	whole := func(q, name string) bool { return among(name, q) }
	share("one slip", 0.98, func(n string) string { return slip(r, n) }, whole)
	share("two slips", 0.93, func(n string) string { return slip(r, slip(r, n)) }, whole)
	word := func(n string) string {
		long := slices.DeleteFunc(strings.FieldsFunc(n, func(r rune) bool { return strings.ContainsRune(" ,-.", r) }),
			func(w string) bool { return len(w) < 4 })
		return long[r.IntN(len(long))]
	}
	var meant string
	any := func(q, _ string) bool { // any of those that have the word
		return slices.ContainsFunc(slipNames, func(n string) bool { return strings.Contains(n, meant) && among(n, q) })
	}
	share("a word with a slip", 0.95, func(n string) string { meant = word(n); return slip(r, meant) }, any)
	share("five letters with a slip", 0.75, func(n string) string {
		meant = word(n)
		if len(meant) < 6 {
			return ""
		}
		meant = meant[:5]
		return slip(r, meant)
	}, any)
}
