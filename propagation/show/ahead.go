package show

import (
	"context"
	"sort"
	"time"

	"github.com/google/uuid"

	"clearjar/core/plant"
	"clearjar/core/readiness"
	"clearjar/propagation"
	"clearjar/propagation/conclude"
)

// weeksAhead is how far the calendar looks.
const weeksAhead = 8

// Ahead is the calendar of the coming weeks.
type Ahead struct {
	Today time.Time `json:"today"`
	Until time.Time `json:"until"`
	// Pieces are those that come ready by then, with their bands, the first one first; Later those that come later or may never.
	Pieces []AheadPiece `json:"pieces"`
	Later  []AheadPiece `json:"later"`
	// Rescue are those that rot: they are rescued first.
	Rescue []Named `json:"rescue"`
	// Looks are the days on which looks pay, and whose; Potting the fewest days on which all that comes ready can be potted.
	Looks   []AheadDay `json:"looks"`
	Potting []AheadDay `json:"potting"`
	// Dark are the weeks in the dark half of the year.
	Dark []Weeks `json:"dark"`
}

// AheadPiece is one piece in the calendar.
type AheadPiece struct {
	ID         uuid.UUID     `json:"id"`
	Code       string        `json:"code"`
	VesselName string        `json:"vessel_name"`
	Verdict    plant.Verdict `json:"verdict"`
	// First, Middle and Last are the days by which it is ready in 1, 5 and 9 of 10 cases, given it comes; Never that it does not.
	First  *time.Time `json:"first,omitempty"`
	Middle *time.Time `json:"middle,omitempty"`
	Last   *time.Time `json:"last,omitempty"`
	Never  float64    `json:"never"`
	Likely float64    `json:"likely"`
	// InTheDark: it likely comes ready in the dark half of the year.
	InTheDark bool `json:"in_the_dark"`
}

// AheadDay is a day with what is worth doing on it.
type AheadDay struct {
	On     time.Time `json:"on"`
	Pieces []Named   `json:"pieces"`
}

// Named is a piece by its code.
type Named struct {
	ID   uuid.UUID `json:"id"`
	Code string    `json:"code"`
}

// AheadNow is the calendar from today on.
func AheadNow(ctx context.Context, g *propagation.Garden) (Ahead, error) {
	today := g.Today()
	out := Ahead{
		Today: today, Until: today.AddDate(0, 0, 7*weeksAhead), Pieces: []AheadPiece{}, Later: []AheadPiece{}, Rescue: []Named{}, Looks: []AheadDay{}, Potting: []AheadDay{},
		Dark: darkWeeks(today, g.Southern, 7*weeksAhead),
	}
	all, err := conclude.Views(ctx, g, conclude.Only{Standing: true})
	if err != nil {
		return out, err
	}
	kept, err := conclude.Expected(ctx, g)
	if err != nil {
		return out, err
	}
	numbers, err := g.Numbers(ctx)
	if err != nil {
		return out, err
	}
	due, named, looks := []readiness.Due{}, map[string]Named{}, map[string]*AheadDay{}
	for _, c := range all {
		j := c.Judgement
		n := Named{c.ID, c.Code}
		named[c.ID.String()] = n
		if on := j.NextLook; on != nil && on.After(today) && on.Before(out.Until) {
			key := on.Format(time.DateOnly)
			if looks[key] == nil {
				looks[key] = &AheadDay{On: *on, Pieces: []Named{}}
			}
			looks[key].Pieces = append(looks[key].Pieces, n)
		}
		if j.Act == readiness.CutRot {
			out.Rescue = append(out.Rescue, n)
			continue
		}
		if k, ok := kept[c.ID]; ok && j.Act != readiness.Uncover {
			due = append(due, readiness.Due{Name: c.ID.String(), Kept: k, Overdue: j.Verdict == plant.Overdue})
		}
		if j.Comes == nil || j.Likely == nil {
			continue
		}
		p := AheadPiece{c.ID, c.Code, c.VesselName, j.Verdict, j.Comes.First, j.Comes.Middle, j.Comes.Last, j.Comes.Never, *j.Likely, false}
		if m := p.Middle; m == nil || m.After(out.Until) {
			out.Later = append(out.Later, p)
			continue
		}
		on := *p.Middle
		if on.Before(today) {
			on = today
		}
		p.InTheDark = plant.InDarkHalf(on, g.Southern)
		out.Pieces = append(out.Pieces, p)
	}
	middle := func(p AheadPiece) string {
		if p.Middle == nil {
			return "9999"
		}
		return p.Middle.Format(time.RFC3339)
	}
	for _, list := range [][]AheadPiece{out.Pieces, out.Later} {
		sort.SliceStable(list, func(i, j int) bool { return middle(list[i]) < middle(list[j]) })
	}
	for _, d := range looks {
		out.Looks = append(out.Looks, *d)
	}
	sort.Slice(out.Looks, func(i, j int) bool { return out.Looks[i].On.Before(out.Looks[j].On) })
	for _, d := range readiness.PottingDays(numbers, due, today, 7*weeksAhead) {
		day := AheadDay{On: d.On, Pieces: []Named{}}
		for _, name := range d.Names {
			day.Pieces = append(day.Pieces, named[name])
		}
		sort.Slice(day.Pieces, func(i, j int) bool { return day.Pieces[i].Code < day.Pieces[j].Code })
		out.Potting = append(out.Potting, day)
	}
	return out, nil
}
