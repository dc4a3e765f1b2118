package gear

import (
	"fmt"
	"slices"
	"strconv"
	"strings"
	"time"

	"ergasia/app/kernel"
	"ergasia/app/refuse"
	"ergasia/core/check"
	"ergasia/core/words"
	"ergasia/store/model"

	"github.com/google/uuid"
)

// GearInput is what is said of a thing, or of some alike that go together. Each of
// its fields has a line in fields.
type GearInput struct {
	Name         string       `json:"name"`
	Nickname     string       `json:"nickname,omitempty"`
	Tags         []string     `json:"tags,omitempty" maxItems:"20"`
	OwnerID      *uuid.UUID   `json:"owner_id,omitempty" format:"uuid" doc:"A member; absent when it is the crew's"`
	Shape        string       `json:"shape,omitempty" words:"shapes" doc:"box where absent"`
	Size         model.Vec    `json:"size_m" doc:"Stowed, along x, y and z as it usually lies; of loose things, all of them together"`
	UseSize      model.Vec    `json:"use_size_m,omitempty" doc:"In use, where that is another; nought as stowed"`
	Inside       model.Vec    `json:"inside_m,omitempty" doc:"What it holds; nought where it is no container"`
	HoldsKg      float64      `json:"holds_kg,omitempty" doc:"Most that it holds; nought is no limit"`
	KeepsDry     bool         `json:"keeps_dry,omitempty" doc:"A container that keeps water out"`
	Kg           float64      `json:"kg" doc:"Of one"`
	MassKnown    string       `json:"mass_known" words:"mass_known"`
	Count        int          `json:"count"`
	RestockAt    int          `json:"restock_at,omitempty" doc:"Of what is used up: the count at which to buy more; nought is not used up"`
	NeedsDry     bool         `json:"needs_dry"`
	Fragile      bool         `json:"fragile,omitempty"`
	Metal        bool         `json:"metal,omitempty"`
	Buoyant      bool         `json:"buoyant,omitempty"`
	Hazards      []string     `json:"hazards,omitempty" maxItems:"20" words:"hazards"`
	Turn         string       `json:"turn" words:"turns" doc:"How it may be turned to fit"`
	Serial       string       `json:"serial,omitempty"`
	Cost         *float64     `json:"cost,omitempty" doc:"In the crew's money"`
	ExpiresOn    *kernel.Date `json:"expires_on,omitempty" doc:"Its last good day"`
	Condition    string       `json:"condition,omitempty" words:"conditions" doc:"good where absent"`
	SparesFor    *uuid.UUID   `json:"spares_for,omitempty" format:"uuid" doc:"The gear that it is a spare for"`
	Uses         *float64     `json:"uses_per_day,omitempty" doc:"How often it is fetched on a day it is along; once where absent"`
	UsedFrom     string       `json:"used_from,omitempty" doc:"The post where it is used; empty is wherever people are"`
	Brought      bool         `json:"brought,omitempty" doc:"It is brought to the post and stowed again: two ways a use; else it is used where it lies, one"`
	SafetyClass  string       `json:"safety_class,omitempty" words:"safety_classes" doc:"What it is as safety equipment; empty where it is none"`
	SafetyAlso   []string     `json:"safety_also,omitempty" maxItems:"6" words:"safety_classes" doc:"What it serves as instead: it does one of these jobs at a time"`
	FitsLow      float64      `json:"fits_low_kg,omitempty" doc:"The lightest body that it fits; 0 is not said"`
	FitsHigh     float64      `json:"fits_high_kg,omitempty" doc:"The heaviest"`
	WornBy       *uuid.UUID   `json:"worn_by,omitempty" format:"uuid" doc:"The member who wears it"`
	Registration string       `json:"registration,omitempty" doc:"Under which it is registered, as a beacon is"`
	Chemistry    string       `json:"chemistry,omitempty" words:"chemistries" doc:"Of a battery; empty where it is none"`
	Volts        float64      `json:"volts,omitempty" doc:"Of a battery, nominal"`
	AmpHours     float64      `json:"amp_hours,omitempty" doc:"as new"`
	Cranking     float64      `json:"cranking_a,omitempty" doc:"Cold-cranking amperes; 0 is not said"`
	InUseSince   *kernel.Date `json:"in_use_since,omitempty" doc:"Batteries hold less each year"`
	ChargedBy    string       `json:"charged_by,omitempty" words:"charged_by" doc:"How it is charged before a day; empty where it is not"`
	Charges      string       `json:"charges,omitempty" words:"charged_by" doc:"Of a charger: what it charges"`
	Sockets      int          `json:"sockets,omitempty" doc:"Of a charger: so many at once"`
	Guide        float64      `json:"guide_m,omitempty" doc:"Of a rod, the height of its largest guide: what its tip takes up; nought where it does not taper"`
}

// Kind says how a field is typed in a form, and what a table's cell has.
type Kind string

// The kinds.
const (
	Text    Kind = "text"
	Tags    Kind = "tags"
	Side    Kind = "side" // metres; a table has centimetres
	Mass    Kind = "mass"
	Number  Kind = "number"
	Count   Kind = "count" // whole
	Flag    Kind = "flag"
	Choice  Kind = "choice"  // one of a list of core/words
	Choices Kind = "choices" // several of one
	Day     Kind = "day"
	Member  Kind = "member"
	Piece   Kind = "piece" // another gear
	Post    Kind = "post"
)

// Field is one thing that can be said of gear: the view, the row, the table's
// column and the form (web/src/domain/gear.gen.ts) are made of these. To add one,
// add it to GearInput, to model.Gear with a migration, and here.
type Field struct {
	Key    string `json:"key"` // in GearInput, as the interface has it
	Label  string `json:"label"`
	Hint   string `json:"hint,omitempty"`
	Kind   Kind   `json:"kind"`
	Group  string `json:"group"`          // of the form
	List   string `json:"list,omitempty"` // of core/words
	Needed bool   `json:"needed,omitempty"`
	None   string `json:"none,omitempty"` // what is shown where it is left empty, of a choice that may be

	column    string  // of a table
	low, high float64 // bounds of a number in SI; of a text, how many letters
	usual     string  // where a choice is left out
	in        func(*GearInput) any
	row       func(*model.Gear) any
}

// The groups of the form, in order; the first is always open.
const (
	groupWhat  = "Name and owner"
	groupSize  = "Size and mass"
	groupCare  = "Care"
	groupUse   = "Use"
	groupHolds = "A box: what it holds"
	groupPaper = "Dates, serial number, cost"
	groupSafe  = "Safety equipment"
	groupPower = "Batteries and charging"
)

// Groups of the form, in order.
var Groups = []string{groupWhat, groupSize, groupCare, groupUse, groupSafe, groupPower, groupHolds, groupPaper}

// Fields in the order of a table's columns.
var Fields = slices.Concat(
	[]Field{
		{Key: "name", Label: "Name", Kind: Text, Group: groupWhat, Needed: true, column: "name", low: 1, high: 80,
			in: func(g *GearInput) any { return &g.Name }, row: func(g *model.Gear) any { return &g.Name }},
		{Key: "nickname", Label: "Also called", Kind: Text, Group: groupWhat, column: "nickname", high: 80,
			in: func(g *GearInput) any { return &g.Nickname }, row: func(g *model.Gear) any { return &g.Nickname }},
		{
			Key:    "count",
			Label:  "How many",
			Hint:   "kept together",
			Kind:   Count,
			Group:  groupWhat,
			Needed: true,
			column: "count",
			high:   10000,
			in:     func(g *GearInput) any { return &g.Count },
			row:    func(g *model.Gear) any { return &g.Count },
		},
	},
	sides("size_m", "", groupSize, [3]string{"Length, stowed", "Breadth", "Height"}, "", 0.001,
		func(g *GearInput) *model.Vec { return &g.Size },
		func(g *model.Gear) [3]*float64 { return [3]*float64{&g.Length, &g.Breadth, &g.Height} }),
	[]Field{
		{Key: "kg", Label: "Mass of one", Kind: Mass, Group: groupSize, Needed: true, column: "kg", high: 500,
			in: func(g *GearInput) any { return &g.Kg }, row: func(g *model.Gear) any { return &g.Kg }},
		{
			Key:    "mass_known",
			Label:  "Source of the mass",
			Kind:   Choice,
			Group:  groupSize,
			List:   "mass_known",
			Needed: true,
			column: "mass_known",
			in:     func(g *GearInput) any { return &g.MassKnown },
			row:    func(g *model.Gear) any { return &g.MassKnown },
		},
		{Key: "owner_id", Label: "Owner", None: "the crew", Kind: Member, Group: groupWhat, column: "owner",
			in: func(g *GearInput) any { return &g.OwnerID }, row: func(g *model.Gear) any { return &g.OwnerID }},
		{Key: "tags", Label: "Tags", Hint: "with commas", Kind: Tags, Group: groupWhat, column: "tags", high: 40,
			in: func(g *GearInput) any { return &g.Tags }, row: func(g *model.Gear) any { return &g.Tags }},
		{Key: "shape", Label: "Shape", Kind: Choice, Group: groupSize, List: "shapes", column: "shape", usual: "box",
			in: func(g *GearInput) any { return &g.Shape }, row: func(g *model.Gear) any { return &g.Shape }},
		{Key: "turn", Label: "Turning", Kind: Choice, Group: groupSize, List: "turns", Needed: true, column: "turn",
			in: func(g *GearInput) any { return &g.Turn }, row: func(g *model.Gear) any { return &g.Turn }},
		{Key: "needs_dry", Label: "must stay dry", Kind: Flag, Group: groupCare, column: "needs_dry",
			in: func(g *GearInput) any { return &g.NeedsDry }, row: func(g *model.Gear) any { return &g.NeedsDry }},
		{Key: "fragile", Label: "fragile", Kind: Flag, Group: groupCare, column: "fragile",
			in: func(g *GearInput) any { return &g.Fragile }, row: func(g *model.Gear) any { return &g.Fragile }},
		{Key: "metal", Label: "metal", Kind: Flag, Group: groupCare, column: "metal",
			in: func(g *GearInput) any { return &g.Metal }, row: func(g *model.Gear) any { return &g.Metal }},
		{Key: "buoyant", Label: "floats", Kind: Flag, Group: groupCare, column: "buoyant",
			in: func(g *GearInput) any { return &g.Buoyant }, row: func(g *model.Gear) any { return &g.Buoyant }},
		{Key: "hazards", Label: "Hazards", Kind: Choices, Group: groupCare, List: "hazards", column: "hazards",
			in: func(g *GearInput) any { return &g.Hazards }, row: func(g *model.Gear) any { return &g.Hazards }},
	},
	sides("use_size_m", "use_", groupUse, [3]string{"Length in use", "Breadth in use", "Height in use"},
		"0: as stowed", 0,
		func(g *GearInput) *model.Vec { return &g.UseSize },
		func(g *model.Gear) [3]*float64 { return [3]*float64{&g.UseLength, &g.UseBreadth, &g.UseHeight} }),
	sides(
		"inside_m",
		"inside_",
		groupHolds,
		[3]string{"Length inside", "Breadth inside", "Height inside"},
		"0: no box",
		0,
		func(g *GearInput) *model.Vec { return &g.Inside },
		func(g *model.Gear) [3]*float64 {
			return [3]*float64{&g.InsideLength, &g.InsideBreadth, &g.InsideHeight}
		},
	),
	[]Field{
		{
			Key:    "holds_kg",
			Label:  "Holds at most",
			Hint:   "0: no limit",
			Kind:   Mass,
			Group:  groupHolds,
			column: "holds_kg",
			high:   1000,
			in:     func(g *GearInput) any { return &g.HoldsKg },
			row:    func(g *model.Gear) any { return &g.HoldsKg },
		},
		{Key: "keeps_dry", Label: "keeps dry what it holds", Kind: Flag, Group: groupHolds, column: "keeps_dry",
			in: func(g *GearInput) any { return &g.KeepsDry }, row: func(g *model.Gear) any { return &g.KeepsDry }},
		{
			Key:    "restock_at",
			Label:  "Buy more at",
			Hint:   "0: not used up",
			Kind:   Count,
			Group:  groupUse,
			column: "restock_at",
			high:   10000,
			in:     func(g *GearInput) any { return &g.RestockAt },
			row:    func(g *model.Gear) any { return &g.RestockAt },
		},
		{Key: "condition", Label: "Condition", Kind: Choice, Group: groupCare, List: "conditions", column: "condition",
			usual: "good",
			in:    func(g *GearInput) any { return &g.Condition }, row: func(g *model.Gear) any { return &g.Condition }},
		{Key: "expires_on", Label: "Last good day", Kind: Day, Group: groupPaper, column: "expires_on",
			in: func(g *GearInput) any { return &g.ExpiresOn }, row: func(g *model.Gear) any { return &g.ExpiresOn }},
		{Key: "serial", Label: "Serial number", Kind: Text, Group: groupPaper, column: "serial", high: 80,
			in: func(g *GearInput) any { return &g.Serial }, row: func(g *model.Gear) any { return &g.Serial }},
		{Key: "cost", Label: "Cost", Kind: Number, Group: groupPaper, column: "cost", high: 1e7,
			in: func(g *GearInput) any { return &g.Cost }, row: func(g *model.Gear) any { return &g.Cost }},
		{Key: "spares_for", Label: "Spare for", Kind: Piece, Group: groupPaper, column: "spares_for",
			in: func(g *GearInput) any { return &g.SparesFor }, row: func(g *model.Gear) any { return &g.SparesFor }},
		{
			Key:    "uses_per_day",
			Label:  "Fetched",
			Hint:   "times a day",
			Kind:   Number,
			Group:  groupUse,
			column: "uses_per_day",
			high:   1000,
			usual:  "1",
			in:     func(g *GearInput) any { return &g.Uses },
			row:    func(g *model.Gear) any { return &g.UsesPerDay },
		},
		{Key: "used_from", Label: "Used at", Hint: "a post; empty: anywhere", Kind: Post, Group: groupUse,
			column: "used_from", high: 80,
			in: func(g *GearInput) any { return &g.UsedFrom }, row: func(g *model.Gear) any { return &g.UsedFrom }},
		{Key: "brought", Label: "brought to the post, and stowed again", Kind: Flag, Group: groupUse, column: "brought",
			in: func(g *GearInput) any { return &g.Brought }, row: func(g *model.Gear) any { return &g.Brought }},
		{Key: "guide_m", Label: "Height of a rod's largest guide", Hint: "0: as usual", Kind: Side, Group: groupSize,
			column: "guide_cm", high: 0.2,
			in: func(g *GearInput) any { return &g.Guide }, row: func(g *model.Gear) any { return &g.Guide }},
		{
			Key:    "safety_class",
			Label:  "As safety equipment",
			None:   "none",
			Kind:   Choice,
			Group:  groupSafe,
			List:   "safety_classes",
			column: "safety_class",
			in:     func(g *GearInput) any { return &g.SafetyClass },
			row:    func(g *model.Gear) any { return &g.SafetyClass },
		},
		{Key: "safety_also", Label: "Serves instead as", Hint: "one job at a time", Kind: Choices, Group: groupSafe,
			List: "safety_classes", column: "safety_also",
			in: func(g *GearInput) any { return &g.SafetyAlso }, row: func(g *model.Gear) any { return &g.SafetyAlso }},
		{
			Key:    "fits_low_kg",
			Label:  "Fits bodies from",
			Hint:   "0: not said",
			Kind:   Mass,
			Group:  groupSafe,
			column: "fits_low_kg",
			high:   400,
			in:     func(g *GearInput) any { return &g.FitsLow },
			row:    func(g *model.Gear) any { return &g.FitsLow },
		},
		{
			Key:    "fits_high_kg",
			Label:  "Fits bodies to",
			Hint:   "0: not said",
			Kind:   Mass,
			Group:  groupSafe,
			column: "fits_high_kg",
			high:   400,
			in:     func(g *GearInput) any { return &g.FitsHigh },
			row:    func(g *model.Gear) any { return &g.FitsHigh },
		},
		{Key: "worn_by", Label: "Worn by", None: "anyone", Kind: Member, Group: groupSafe, column: "worn_by",
			in: func(g *GearInput) any { return &g.WornBy }, row: func(g *model.Gear) any { return &g.WornBy }},
		{Key: "registration", Label: "Registered as", Kind: Text, Group: groupSafe, column: "registration", high: 80,
			in: func(g *GearInput) any { return &g.Registration }, row: func(g *model.Gear) any { return &g.Registration }},
		{Key: "chemistry", Label: "Chemistry", None: "no battery", Kind: Choice, Group: groupPower, List: "chemistries",
			column: "chemistry",
			in:     func(g *GearInput) any { return &g.Chemistry }, row: func(g *model.Gear) any { return &g.Chemistry }},
		{Key: "volts", Label: "Volts", Hint: "12, 24", Kind: Number, Group: groupPower, column: "volts", high: 100,
			in: func(g *GearInput) any { return &g.Volts }, row: func(g *model.Gear) any { return &g.Volts }},
		{Key: "amp_hours", Label: "Ampere-hours", Hint: "as new", Kind: Number, Group: groupPower, column: "amp_hours",
			high: 2000,
			in:   func(g *GearInput) any { return &g.AmpHours }, row: func(g *model.Gear) any { return &g.AmpHours }},
		{Key: "cranking_a", Label: "Cold-cranking amperes", Hint: "0: not said", Kind: Number, Group: groupPower,
			column: "cranking_a", high: 3000,
			in: func(g *GearInput) any { return &g.Cranking }, row: func(g *model.Gear) any { return &g.Cranking }},
		{Key: "in_use_since", Label: "In use since", Kind: Day, Group: groupPower, column: "in_use_since",
			in: func(g *GearInput) any { return &g.InUseSince }, row: func(g *model.Gear) any { return &g.InUseSince }},
		{Key: "charged_by", Label: "Charged before a day with", None: "nothing", Kind: Choice, Group: groupPower,
			List: "charged_by", column: "charged_by",
			in: func(g *GearInput) any { return &g.ChargedBy }, row: func(g *model.Gear) any { return &g.ChargedBy }},
		{Key: "charges", Label: "As a charger, it charges", None: "nothing", Kind: Choice, Group: groupPower, List: "charged_by",
			column: "charges",
			in:     func(g *GearInput) any { return &g.Charges }, row: func(g *model.Gear) any { return &g.Charges }},
		{Key: "sockets", Label: "So many at once", Kind: Count, Group: groupPower, column: "sockets", high: 100,
			in: func(g *GearInput) any { return &g.Sockets }, row: func(g *model.Gear) any { return &g.Sockets }},
	},
)

// sides are the three fields of a size.
func sides(key, column, group string, labels [3]string, hint string, low float64,
	in func(*GearInput) *model.Vec, row func(*model.Gear) [3]*float64) (list []Field) {
	for i, side := range []string{"length_cm", "breadth_cm", "height_cm"} {
		list = append(
			list,
			Field{Key: fmt.Sprintf("%s[%d]", key, i), Label: labels[i], Hint: hint, Kind: Side, Group: group,
				Needed: low > 0, column: column + side, low: low, high: 10,
				in:  func(g *GearInput) any { return &in(g)[i] },
				row: func(g *model.Gear) any { return row(g)[i] }},
		)
	}
	return list
}

// inputOf is a row as it is said.
func inputOf(g model.Gear) (in GearInput) {
	for _, f := range Fields {
		switch to := f.in(&in).(type) {
		case *string:
			*to = *f.row(&g).(*string)
		case *float64:
			*to = *f.row(&g).(*float64)
		case *int:
			*to = *f.row(&g).(*int)
		case *bool:
			*to = *f.row(&g).(*bool)
		case *[]string:
			*to = *f.row(&g).(*model.Strings)
		case **uuid.UUID:
			*to = *f.row(&g).(**uuid.UUID)
		case **kernel.Date:
			*to = kernel.DateOf(*f.row(&g).(**time.Time))
		case **float64:
			if row, is := f.row(&g).(*float64); is { // left out, it has a usual
				n := *row
				*to = &n
			} else {
				*to = *f.row(&g).(**float64)
			}
		}
	}
	return in
}

// Row is what is said as a row; what is left out is as usual.
func (in GearInput) Row(actor kernel.Actor) model.Gear {
	g := model.Gear{CrewID: actor.Crew}
	for _, f := range Fields {
		switch from := f.in(&in).(type) {
		case *string:
			*f.row(&g).(*string) = *from
			if *from == "" {
				*f.row(&g).(*string) = f.usual
			}
		case *float64:
			*f.row(&g).(*float64) = *from
		case *int:
			*f.row(&g).(*int) = *from
		case *bool:
			*f.row(&g).(*bool) = *from
		case *[]string:
			*f.row(&g).(*model.Strings) = Listed(*from)
		case **uuid.UUID:
			*f.row(&g).(**uuid.UUID) = *from
		case **kernel.Date:
			*f.row(&g).(**time.Time) = (*from).Time()
		case **float64:
			if row, is := f.row(&g).(*float64); !is {
				*f.row(&g).(**float64) = *from
			} else if *from == nil {
				*row, _ = strconv.ParseFloat(f.usual, 64) // a literal of this file
			} else {
				*row = **from
			}
		}
	}
	g.Tags = TidyTags(in.Tags)
	return g
}

// check holds every field to its bounds, and then to one another.
func (in GearInput) check() error {
	var fs check.Faults
	for _, f := range Fields {
		switch v := f.in(&in).(type) {
		case *string:
			f.checkText(&fs, *v)
		case *float64:
			fs.Within(f.Key, *v, f.low, f.high)
		case *int:
			fs.Within(f.Key, float64(*v), f.low, f.high)
		case **float64:
			if *v != nil {
				fs.Within(f.Key, **v, f.low, f.high)
			}
		case *[]string:
			f.checkList(&fs, *v)
		}
	}
	in.checkTogether(&fs)
	return refuse.Faulty(fs.Err())
}

func (f Field) checkText(fs *check.Faults, text string) {
	if f.Kind == Choice {
		keys := words.Lists[f.List].Keys()
		if !f.Needed {
			keys = append(keys, "")
		}
		fs.OneOf(f.Key, text, keys...)
		return
	}
	oneLine := strings.NewReplacer("\n", " ", "\t", " ").Replace(text) // what was pasted may have these
	fs.Text(f.Key, oneLine, int(f.low), int(f.high))
	if f.Needed && strings.TrimSpace(text) == "" {
		fs.Add(f.Key, text, "must have a letter or digit")
	}
}

func (f Field) checkList(fs *check.Faults, list []string) {
	for i, one := range list {
		key := fmt.Sprintf("%s[%d]", f.Key, i)
		if f.Kind == Choices {
			fs.OneOf(key, one, words.Lists[f.List].Keys()...)
			continue
		}
		fs.Text(key, one, 1, int(f.high))
		if strings.Contains(one, ";") {
			fs.Add(key, one, "must have no semicolon: that separates tags in a table")
		}
	}
}

// checkTogether sees what no field says by itself.
func (in GearInput) checkTogether(fs *check.Faults) {
	if in.FitsLow > in.FitsHigh {
		fs.Add("fits_high_kg", in.FitsHigh, fmt.Sprintf("must be from %g, the lightest body that it fits", in.FitsLow))
	}
	given := 0
	for i, side := range in.Inside {
		if side > 0 {
			given++
		}
		if side > in.Size[i] {
			fs.Add(
				fmt.Sprintf("inside_m[%d]", i),
				side,
				fmt.Sprintf("must be at most %g, its size outside", in.Size[i]),
			)
		}
	}
	if given != 0 && given != 3 {
		fs.Add("inside_m", in.Inside, "give all three sides, or none where it holds nothing")
	}
	fewest, most := 1.0, 100.0
	if in.RestockAt > 0 {
		fewest = 0 // what is used up may be all gone
	}
	if in.Shape == "loose" {
		most = 10000 // laid as one bag
	}
	fs.Within("count", float64(in.Count), fewest, most)
}

// cell is the field in a table. What is nought is left empty, but for what always
// has a number.
func (f Field) cell(in GearInput) string {
	always := f.Needed || f.usual != ""
	switch v := f.in(&in).(type) {
	case *string:
		return *v
	case *float64:
		if *v == 0 && !f.Needed {
			return ""
		}
		return number(*v / f.scale())
	case *int:
		if *v == 0 && !always {
			return ""
		}
		return strconv.Itoa(*v)
	case *bool:
		if *v {
			return "yes"
		}
	case *[]string:
		return strings.Join(*v, "; ")
	case **float64:
		if *v != nil {
			return number(**v)
		}
		return f.usual
	case **kernel.Date:
		if *v != nil {
			return (*v).String()
		}
	case **uuid.UUID:
		if *v != nil {
			return (*v).String()
		}
	}
	return ""
}

// number is written with as many digits as come back the same.
func number(n float64) string { return strconv.FormatFloat(n, 'g', 12, 64) }

// scale is one of the column's unit in SI.
func (f Field) scale() float64 {
	if f.Kind == Side {
		return 0.01
	}
	return 1
}
