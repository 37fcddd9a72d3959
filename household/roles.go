package household

import "slices"

// Right is something that may be done.
type Right string

// The rights.
const (
	// Open asks for nobody: the ways in, and what has a key of its own.
	Open Right = "open"
	// Own is about one's own account.
	Own Right = "own"
	// Read sees what is there.
	Read Right = "read"
	// Record notes facts, and takes back one's own.
	Record Right = "record"
	// TakeBack takes back what others noted.
	TakeBack Right = "take_back"
	// Settle changes what everything is judged by: numbers, where the household is, the ways of care.
	Settle Right = "settle"
	// Keys makes and revokes keys for devices and calendars.
	Keys Right = "keys"
	// People invites, and says who may do what.
	People Right = "people"
)

// RoleKey names a role.
type RoleKey string

// The roles.
const (
	Keeper RoleKey = "keeper"
	Helper RoleKey = "helper"
	Guest  RoleKey = "guest"
)

// Role is what a member may do.
type Role struct {
	Key    RoleKey `json:"key"`
	Name   string  `json:"name"`
	Says   string  `json:"says"`
	Rights []Right `json:"rights"`
	// Stays says that one of this role at least stays in a household.
	Stays bool `json:"stays"`
}

var roles = []Role{
	{Keeper, "Keeper", "does everything: records, takes back, settings, keys, people", []Right{Own, Read, Record, TakeBack, Settle, Keys, People}, true},
	{Helper, "Helper", "records what was done and seen, and takes back only what they noted themselves; no settings, no keys", []Right{Own, Read, Record}, false},
	{Guest, "Guest", "reads, and notes nothing", []Right{Own, Read}, false},
}

// Roles are all roles, the widest first.
func Roles() []Role { return slices.Clone(roles) }

// Row is the role of a key; one that is not known may do nothing.
func (k RoleKey) Row() Role {
	for _, r := range roles {
		if r.Key == k {
			return r
		}
	}
	return Role{Key: k}
}

func (r Role) may(right Right) bool { return slices.Contains(r.Rights, right) }
