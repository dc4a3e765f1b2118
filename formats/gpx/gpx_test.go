package gpx

import (
	"bufio"
	"fmt"
	"io"
	"strings"
	"testing"

	"ergasia/core/way"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

const head = `<?xml version="1.0" encoding="UTF-8"?><gpx version="1.1" creator="x" xmlns="http://www.topografix.com/GPX/1/1">`

func TestTracksAndRoutesAreRead(t *testing.T) {
	lines, err := Read(strings.NewReader(head + `<metadata><name>all</name></metadata><wpt lat="1" lon="1"><name>w</name></wpt>
		<trk><name> out to the
		skerries </name><trkseg><trkpt lat="58.0" lon="11.0"><time>2026-06-01T08:00:00Z</time></trkpt><trkpt lat="58.1" lon="11.0"/></trkseg>
		<trkseg><trkpt lat="58.2" lon="11.0"/><trkpt lat="58.3" lon="11.0"><time>2026-06-01T10:00:00Z</time></trkpt></trkseg></trk>
		<rte><name>home</name><rtept lat="58.3" lon="11.0"/><rtept lat="NaN" lon="11"/><rtept lat="58.0" lon="11.0"/><rtept lat="95" lon="11"/></rte>
		<trk><trkseg><trkpt lat="1" lon="1"/></trkseg></trk></gpx>`))
	require.NoError(t, err)
	require.Len(t, lines, 2, "one point is no line")
	tenth := way.Distance(way.Point{Lat: 58}, way.Point{Lat: 58.1})
	out, home := lines[0], lines[1]
	assert.Equal(t, "out to the skerries", out.Name)
	assert.InDelta(t, 2*tenth, out.Metres, 1)
	assert.Equal(t, 1, out.Gaps)
	assert.InDelta(t, tenth, out.Gap, 1)
	assert.InDelta(t, 7200, out.Seconds, 1e-9)
	assert.Len(t, out.Kept, 4)
	assert.InDelta(t, 3*tenth, home.Metres, 1)
	assert.Equal(t, 2, home.Bad)
	assert.Zero(t, home.Seconds)
}

func TestWhatIsNoGPXIsRefusedWithASentence(t *testing.T) {
	for what, text := range map[string]string{
		"no gpx element":     `<html></html>`,
		"no track or route":  head + `<wpt lat="1" lon="1"/></gpx>`,
		"has a DTD":          `<?xml version="1.0"?><!DOCTYPE gpx [<!ENTITY a "aaaa"><!ENTITY b "&a;&a;">]><gpx><trk><name>&b;</name></trk></gpx>`,
		"XML":                head + `<trk><trkseg><trkpt lat="1" lon="1"></trk>`,
		"invalid character":  head + `<trk><name>&b;</name></trk></gpx>`,
		"not UTF-8":          `<?xml version="1.0" encoding="UTF-7"?><gpx></gpx>`,
		"nested too deep":    head + strings.Repeat("<a>", 100),
		"more than 50 track": head + strings.Repeat("<trk></trk>", 60),
	} {
		_, err := Read(strings.NewReader(text))
		require.ErrorIs(t, err, ErrUnreadable, what)
		assert.Contains(t, err.Error(), what)
	}
	_, err := Read(strings.NewReader(""))
	assert.ErrorIs(t, err, ErrUnreadable)
}

// points is a file of so many points, made while it is read.
func points(n int) io.Reader {
	in, out := io.Pipe()
	go func() {
		text := bufio.NewWriterSize(out, 1<<20)
		_, _ = text.WriteString(head + "<trk><trkseg>")
		for i := range n {
			_, _ = fmt.Fprintf(text, `<trkpt lat="%.5f" lon="11"/>`, 50+10*float64(i)/float64(n))
		}
		_, _ = text.WriteString("</trkseg></trk></gpx>")
		_, _ = text.Flush(), out.Close()
	}()
	return in
}

func TestAMillionPointsAreThinnedAndTheirWayIsWhole(t *testing.T) {
	lines, err := Read(points(1_000_000))
	require.NoError(t, err)
	assert.Equal(t, 1_000_000, lines[0].Points)
	assert.LessOrEqual(t, len(lines[0].Kept), most)
	assert.InEpsilon(t, way.Distance(way.Point{Lat: 50}, way.Point{Lat: 60}), lines[0].Metres, 1e-4)
	_, err = read(points(1001), 1000)
	assert.ErrorContains(t, err, "more than 1000 points")
}

func TestTimesThatRunBackwardsSayNothing(t *testing.T) {
	lines, err := Read(strings.NewReader(head + `<trk><trkseg><trkpt lat="58" lon="11"><time>2026-06-01T10:00:00Z</time></trkpt>
		<trkpt lat="58.1" lon="11"><time>2026-06-01T08:00:00Z</time></trkpt><trkpt lat="58.2" lon="11"><time>2026-06-01T11:00:00Z</time></trkpt></trkseg></trk></gpx>`))
	require.NoError(t, err)
	assert.Zero(t, lines[0].Seconds)
}
