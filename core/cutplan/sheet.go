package cutplan

import (
	"errors"
	"fmt"

	"clearjar/core/number"
	"clearjar/core/plant"
	"clearjar/core/stats"
)

// Sheet is the numbers a plan is worked out with. The zero Sheet holds the starting values.
type Sheet struct{ number.Table }

// Change puts a value in place of a starting value.
type Change = number.Change

// With gives the sheet with the changes laid over it. A key that is no number of the job, or a value
// outside its range, is refused.
func (s Sheet) With(changes ...Change) (Sheet, error) {
	t, err := s.Table.With(changes...)
	var not number.ChangeError
	if errors.As(err, &not) {
		return Sheet{}, plant.Refuse(fmt.Sprintf("changes[%d].%s", not.Change, not.Field), "%s", not.Reason)
	}
	return Sheet{t}, err
}

// FromRecords is a starting chance with records in its place: a beta distribution that starts
// out weighing as many records as the sheet says, [PriorWeight].
func (s Sheet) FromRecords(key string, won, tried int) (Change, error) {
	start, ok := number.Start(key)
	if !ok || start.Unit != "fraction" {
		return Change{}, plant.Refuse("key", "%q is not a chance", key)
	}
	if won < 0 || tried < 1 || won > tried {
		return Change{}, plant.Refuse("tried", "records need at least one try, and not more successes than tries")
	}
	return Change{Key: key, Value: stats.Believe(start.Value, s.value(PriorWeight)).Saw(won, tried).Mean(), Won: won, Tried: tried}, nil
}

func (s Sheet) value(n plant.Number) float64 { return s.Of(n) }

// Numbers lists every number of the planner as it is in use, in the order of the tables.
func (s Sheet) Numbers() []plant.Number {
	out := Numbers()
	for i, n := range out {
		out[i] = s.Now(n)
	}
	return out
}

// BaselineKey is the key of the chance that one set node of the group wakes in the medium.
func BaselineKey(group string, m plant.Medium) string { return plant.WakeKey(group, m) }

// Baselines are the chances that one set node with a leaf roots and shoots, by growth group
// and medium, in the bright half of the year.
func Baselines() []plant.Number { return baselines }

var baselines = func() []plant.Number {
	out := []plant.Number{}
	for _, g := range plant.Groups() {
		for _, row := range plant.Media() {
			m, basis := row.Medium, wakeBasis
			if !g.Suits(m) {
				basis = plant.Assumed("not a medium the group is usually rooted in; a guess")
			}
			out = append(out, number.Define(plant.Number{
				Key: BaselineKey(g.Key, m), Label: fmt.Sprintf("One node of %s in %s", plant.Lower(g.Name), m),
				Value: g.WakeIn(m), Unit: "fraction", Basis: basis,
			}))
		}
	}
	return out
}()

var wakeBasis = plant.Assumed("set so that two nodes give the success growers quote for the group; your records can replace it")
