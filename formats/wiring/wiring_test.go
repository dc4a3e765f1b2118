package wiring

import (
	"bytes"
	"fmt"
	"os/exec"
	"strings"
	"testing"

	"ergasia/core/circuits"
	"ergasia/formats/paper"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// large is a boat with so many circuits on four banks, with long names.
func large(count int) Net {
	n := Net{Boat: "Dunlin", Foot: "An estimate. Local rules decide."}
	var net circuits.Net
	add := func(key string, kind circuits.Kind, from ...string) {
		net.Parts = append(net.Parts, circuits.Part{Key: key, Name: key, Kind: kind, From: from})
		n.Parts = append(
			n.Parts,
			Part{Key: key, Name: key + " with a name as long as crews write them", Kind: kind, Says: "12 V, 100 Ah"},
		)
	}
	for i := range 4 {
		add(fmt.Sprint("bank", i), circuits.Bank)
	}
	add("selector", circuits.Selector, "bank0", "bank1")
	add("main", circuits.Breaker, "selector")
	add("panel", circuits.Panel, "main")
	add("second panel", circuits.Panel, "main")
	add("motor", circuits.Breaker, "bank2")
	hangs := []string{"panel", "second panel", "motor", "bank3"}
	for i := range count {
		key := fmt.Sprint("circuit ", i)
		net.Circuits = append(net.Circuits, circuits.Circuit{Key: key, Name: key, From: hangs[i%4]})
		n.Circuits = append(
			n.Circuits,
			Circuit{Key: key, Name: key + ", the pump of the livewell in the fore deck", Panel: hangs[i%4],
				Fuse: "7.5 A", Wire: "14 AWG, 2.08 mm²", Amps: "3.6 A"},
		)
	}
	n.Diagram = net.Drawn()
	return n
}

func pages(text []byte) int { return bytes.Count(text, []byte("/Type /Page\n")) }

func TestFortyCircuitsGoOnOnePageAndNoLabelMeetsAnother(t *testing.T) {
	n := large(40)
	text, err := Diagram(n)
	require.NoError(t, err)
	assert.Equal(t, 1, pages(text))
	f := paper.New("P", "A4", "")
	f.AddPage()
	d := lay(f, n)
	var all []label
	for _, of := range []map[string]label{d.boxes, d.leaves} {
		for _, l := range of {
			all = append(all, l)
		}
	}
	require.Len(t, all, 49)
	for i, a := range all {
		assert.True(t, a.x >= margin && a.x+a.width <= pageWidth-margin+0.01, "%s is on the page", a.name)
		assert.True(t, a.y >= top-1 && a.y+a.height <= pageHeight-foot, "%s is on the page", a.name)
		f.Face(true, a.points)
		assert.LessOrEqual(t, f.GetStringWidth(a.name), a.width, "its name stays in it")
		f.Face(false, a.points*0.85)
		assert.LessOrEqual(t, f.GetStringWidth(a.says), a.width)
		assert.GreaterOrEqual(t, a.points, 6., "it can be read")
		for _, b := range all[:i] {
			apart := a.x+a.width <= b.x || b.x+b.width <= a.x || a.y+a.height <= b.y || b.y+b.height <= a.y
			assert.True(t, apart, "%s meets %s", a.name, b.name)
		}
	}
	for _, l := range n.Diagram.Lines { // nor does a wire cross one on its way across
		from := d.boxes[l.From]
		to, part := d.boxes[l.To]
		if !part {
			to = d.leaves[l.To]
		}
		for key, b := range d.boxes {
			between := b.x > from.x+from.width && b.x+b.width < to.x
			if key != l.From && key != l.To && between && l.Lane == 0 {
				assert.False(t, to.middle() > b.y && to.middle() < b.y+b.height, "%s crosses %s", l.To, key)
			}
		}
	}
}

// read is what is printed, by poppler's pdftotext.
func read(t *testing.T, text []byte, err error) string {
	t.Helper()
	require.NoError(t, err)
	if _, err := exec.LookPath("pdftotext"); err != nil {
		t.Skip("pdftotext is not installed")
	}
	cmd := exec.Command("pdftotext", "-layout", "-", "-")
	cmd.Stdin = bytes.NewReader(text)
	out, err := cmd.Output()
	require.NoError(t, err)
	return string(out)
}

func TestAFewCircuitsLieAcrossThePageWithTheirWholeNames(t *testing.T) {
	n := large(8)
	n.Parts[5].Name = "main breaker, aft"
	text, err := Diagram(n)
	require.NoError(t, err)
	assert.Equal(t, 1, pages(text))
	f := paper.New("L", "A4", "")
	f.AddPage()
	assert.Equal(t, "main breaker, aft", lay(f, n).boxes["main"].name)
}

func TestTheScheduleLabelsAndFlagsNameEachCircuit(t *testing.T) {
	n := large(3)
	n.Circuits[0].Feeds, n.Circuits[1].Fuse = "the pump", ""
	text, err := Schedule(n)
	said := read(t, text, err)
	for _, want := range []string{"Dunlin: fuses", "Circuit", "7.5 A", "none", "14 AWG", "3.6 A", "second panel", "Local rules decide"} {
		assert.Contains(t, said, want)
	}
	for _, night := range []bool{false, true} {
		text, err = Labels(n, night)
		said = read(t, text, err)
		assert.Contains(t, said, "circuit 2")
		assert.Contains(t, said, "7.5 A")
	}
	text, err = Flags(n)
	said = read(t, text, err)
	assert.Equal(t, 4, strings.Count(said, "circuit 0"), "two flags, each read from both sides")
	assert.Contains(t, said, "at the panel")
}

func TestManyGoOnMorePagesAndNoneIsEmpty(t *testing.T) {
	for count, sheets := range map[int][3]int{0: {1, 1, 1}, 40: {2, 1, 2}, 100: {4, 3, 5}} {
		n := large(count)
		schedule, err := Schedule(n)
		require.NoError(t, err)
		labels, err := Labels(n, true)
		require.NoError(t, err)
		flags, err := Flags(n)
		require.NoError(t, err)
		assert.Equal(t, sheets, [3]int{pages(schedule), pages(labels), pages(flags)}, "%d circuits", count)
	}
}
