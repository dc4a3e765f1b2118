package e2e

import (
	"encoding/csv"
	"net/url"
	"regexp"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// counted has the page count its requests, so that one sees when it has come to rest.
const counted = `() => {
	if (window.flying !== undefined) return;
	window.flying = 0;
	window.still = performance.now();
	const send = window.fetch;
	window.fetch = (...a) => {
		window.flying++;
		return send(...a).finally(() => { window.flying--; window.still = performance.now(); });
	};
}`

// turnTo goes to a page as a link does, and waits until nothing is asked any more.
func (p *page) turnTo(path string) {
	p.MustEval(counted)
	p.MustEval(`(path) => { window.still = performance.now(); history.pushState({}, '', path); dispatchEvent(new PopStateEvent('popstate')) }`, path)
	p.until(path+" comes to rest", `() => window.flying === 0 && performance.now() - window.still > 250 && !/^(Loading|Looking|Making)[^.]*…$/m.test(document.body.innerText)`)
}

// ids and tokens in an address stand for any.
var anyID = regexp.MustCompile(`[0-9a-f]{8}-[0-9a-f-]{27}`)

// walk calls look on every page that links lead to, one of each kind.
func (p *page) walk(look func(path string)) int {
	seen, todo := map[string]bool{}, []string{p.MustEval(`() => location.pathname`).Str()}
	for len(todo) > 0 {
		path := todo[0]
		todo = todo[1:]
		kind := anyID.ReplaceAllString(path, "*")
		if seen[kind] {
			continue
		}
		seen[kind] = true
		p.turnTo(path)
		look(path)
		for _, to := range p.MustEval(`() => [...document.querySelectorAll('a[href^="/"]')].map(a => a.getAttribute('href')).filter(h => !h.startsWith('/api/'))`).Arr() {
			if u, err := url.Parse(to.Str()); err == nil {
				todo = append(todo, u.Path)
			}
		}
	}
	return len(seen)
}

// What a page says in the units of the other system. Names are the crew's own words, and
// what the law asks is told in both.
var (
	inMetric = regexp.MustCompile(`\d[\d.]* ?(lb|lbs|inch|inches|ft|feet|gal|mi|°F|psi|lbf|qt|oz|mph)\b|\d[\d.]* in(?:$|[.,;)]|\n)`)
	inUS     = regexp.MustCompile(`\d[\d.,]* ?(kg|g|mm|cm|m|km|L|l|N·m|N|daN|bar|°C|km/h|m/s)\b(?:[^²]|$)`)
	// Also the usual things that a field offers, and wire, hardware and what stands on a wire's insulation, which are sold so everywhere.
	legal = regexp.MustCompile(`(?i)plate|[\d.,]+ kg, [\d.,]+ lb|[\d.,]+ lb, [\d.,]+ kg|AWG|A4|letter|mm²|M\d+ x|insulation|stands 105|^(rope|cooler|rod|fire extinguisher|fuel can), `)
)

// named takes everything that the crew has given a name out of a text.
func (p *page) named() *strings.Replacer {
	var session struct {
		Crews []struct {
			CrewID string `json:"crew_id"`
			Boats  []struct{ ID, Name string }
			Trips  []struct{ Name string }
		}
	}
	p.get("/api/session", &session)
	crew := session.Crews[0]
	var names []string
	take := func(path string) {
		text := p.MustEval(`async (path) => (await fetch(path)).text()`, "/api/crews/"+crew.CrewID+path).Str()
		for _, m := range regexp.MustCompile(`"(?:name|text|note|what|title|why|at|tag|brand|sort)":"((?:[^"\\]|\\.)*)"`).FindAllStringSubmatch(text, -1) {
			if strings.ContainsAny(m[1], "0123456789") {
				names = append(names, m[1])
			}
		}
	}
	for _, path := range []string{"/trips", "/kits", "/shed", "/papers"} {
		take(path)
	}
	table := p.MustEval(`async (path) => (await fetch(path)).text()`, "/api/crews/"+crew.CrewID+"/gear.csv").Str()
	rows, err := csv.NewReader(strings.NewReader(table)).ReadAll()
	require.NoError(p.t, err)
	for _, row := range rows {
		for _, cell := range row {
			if strings.ContainsAny(cell, "0123456789") && regexp.MustCompile(`[A-Za-z]{2}.* `).MatchString(cell) {
				names = append(names, cell)
			}
		}
	}
	for _, b := range crew.Boats {
		for _, path := range []string{"/rigging", "/power", "/bench", ""} {
			take("/boats/" + b.ID + path)
		}
	}
	slices.SortFunc(names, func(a, b string) int { return len(b) - len(a) }) // the longest first
	var pairs []string
	for _, n := range names {
		pairs = append(pairs, strings.ToUpper(n[:1])+n[1:], "·")
		for _, broken := range inLines(n) {
			pairs = append(pairs, broken, "·")
		}
	}
	return strings.NewReplacer(pairs...)
}

// inLines are the ways in which a name may stand in a drawing, where it is broken into lines
// and the space between them is gone.
func inLines(name string) []string {
	all := []string{""}
	for i, word := range strings.Split(name, " ") {
		var next []string
		for _, begun := range all {
			if i > 0 && i < 5 {
				next = append(next, begun+word)
			}
			next = append(next, begun+strings.Repeat(" ", min(i, 1))+word)
		}
		all = next
	}
	return all
}

// foreign are the lines that speak in the units of the other system.
func foreign(text string, other *regexp.Regexp) (lines []string) {
	for line := range strings.Lines(text) {
		if other.MatchString(line) && !legal.MatchString(line) {
			lines = append(lines, line)
		}
	}
	return lines
}

// Every page in both systems: none has a unit of the other.
func TestNoPageSpeaksInTheOtherSystemsUnits(t *testing.T) {
	d := demoProgram(t)
	p := browse(t, 1280, 800)
	p.signIn(d, "Ilse")
	names := p.named()
	for _, system := range []struct {
		name  string
		other *regexp.Regexp
	}{{"metric", inMetric}, {"US", inUS}} {
		if system.name == "US" {
			p.tap(`change to US`)
			p.until("the units changed", `() => [...document.querySelectorAll('button')].some(b => /change to metric/.test(b.innerText + b.getAttribute('aria-label')))`)
		}
		home := p.MustEval(`() => location.pathname`).Str()
		n := p.walk(func(path string) {
			read := func() string { return p.MustEval(readable).Str() }
			if len(foreign(names.Replace(read()), system.other)) > 0 { // what was kept from before may show until it is asked anew
				p.until("nothing is old", `() => window.flying === 0 && performance.now() - window.still > 1500`)
			}
			if system.name == "metric" {
				p.readsWell("the demo", path, names.Replace(read()))
			}
			for _, line := range foreign(names.Replace(read()), system.other) {
				assert.Fail(t, "a unit of the other system", "%s: %s: %q in %q", system.name, anyID.ReplaceAllString(path, "*"), system.other.FindString(line), strings.TrimSpace(line))
			}
		})
		require.Greater(t, n, 40, "every page was walked over")
		p.turnTo(home)
	}
	*p.complaints = nil // a page that is asked for what is not there says so
}
