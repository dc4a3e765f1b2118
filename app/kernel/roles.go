package kernel

import (
	"slices"
	"strings"

	"ergasia/core/words"
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

// Action is something that a role may or may not do: a key of words.Permissions.
type Action string

// The actions.
const (
	See         Action = "see"
	Try         Action = "try"
	Move        Action = "move"
	ChangeGear  Action = "change_gear"
	ChangeBoat  Action = "change_boat"
	ChangeCrew  Action = "change_crew"
	Invite      Action = "invite"
	OwnSettings Action = "own_settings"
)

// String words the action to follow "may".
func (a Action) String() string { return words.Permissions.Label(string(a)) }

// allowed is who may do what. docs/roles.md has the same table for people; a test
// compares.
var allowed = map[Action][]Role{
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
func Allowed(r Role, a Action) bool { return slices.Contains(allowed[a], r) }

// Actions that the role may do, for an interface that hides the rest.
func Actions(r Role) []Action {
	var can []Action
	for _, word := range words.Permissions {
		if a := Action(word.Key); Allowed(r, a) {
			can = append(can, a)
		}
	}
	return can
}

// Who may do it, in words.
func Who(a Action) string {
	var names []string
	for _, r := range allowed[a] {
		article := "a "
		if r == Owner {
			article = "an "
		}
		names = append(names, article+string(r))
	}
	return strings.Join(names, " or ")
}
