package kernel

import (
	"slices"
	"strings"
)

// Role is what a member is in a crew.
type Role string

// The roles, from most to least.
const (
	Owner   Role = "owner"
	Skipper Role = "skipper"
	Hand    Role = "hand"
	Guest   Role = "guest"
)

// Roles lists them in that order.
var Roles = []Role{Owner, Skipper, Hand, Guest}

// Action is something that a role may or may not do, worded to follow "may".
type Action string

// The actions. docs/roles.md has the same table for people; a test compares.
const (
	See         Action = "see boats, gear and people"
	Try         Action = "try a move without making it"
	Move        Action = "move gear and people"
	ChangeGear  Action = "change gear"
	ChangeBoat  Action = "change boats, places, posts and limits"
	ChangeCrew  Action = "change people's names and masses"
	Invite      Action = "invite, make reset links and give roles"
	OwnSettings Action = "choose their own units and theme"
)

var MayDo = map[Action][]Role{
	See:         {Owner, Skipper, Hand, Guest},
	Try:         {Owner, Skipper, Hand, Guest},
	Move:        {Owner, Skipper, Hand},
	ChangeGear:  {Owner, Skipper, Hand},
	ChangeBoat:  {Owner, Skipper},
	ChangeCrew:  {Owner, Skipper},
	Invite:      {Owner},
	OwnSettings: {Owner, Skipper, Hand, Guest},
}

// Allowed says whether the role may do the action.
func Allowed(r Role, a Action) bool { return slices.Contains(MayDo[a], r) }

// Actions that the role may do, for an interface that hides the rest.
func Actions(r Role) []Action {
	var can []Action
	for _, a := range []Action{See, Try, Move, ChangeGear, ChangeBoat, ChangeCrew, Invite, OwnSettings} {
		if Allowed(r, a) {
			can = append(can, a)
		}
	}
	return can
}

// Who may, in words.
func Who(a Action) string {
	var names []string
	for _, r := range MayDo[a] {
		article := "a "
		if r == Owner {
			article = "an "
		}
		names = append(names, article+string(r))
	}
	return strings.Join(names, " or ")
}
