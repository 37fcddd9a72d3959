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

// GroupPage is one growth group: what is said of it, what the grower's own records say, and how forecasts went.
type GroupPage struct {
	Group plant.Group `json:"group"`
	// Media are what it rests on in each of its media, the starting values beside the grower's records.
	Media []GroupMedium `json:"media"`
	// Issued are forecasts as they were issued first of each cutting, against what came; Held of Came are those that came within their
	// band.
	Issued []IssuedForecast `json:"issued"`
	Came   int              `json:"came"`
	Held   int              `json:"held"`
}

// GroupMedium is a group in one medium.
type GroupMedium struct {
	Medium plant.Medium     `json:"medium"`
	Rests  []readiness.Rest `json:"rests"`
}

// IssuedForecast is a forecast as it was issued, and the day on which all that was wanted was seen; nil while it has not come.
type IssuedForecast struct {
	ID     uuid.UUID  `json:"id"`
	Code   string     `json:"code"`
	School string     `json:"school"`
	On     time.Time  `json:"on"`
	First  *time.Time `json:"first,omitempty"`
	Middle time.Time  `json:"middle"`
	Last   *time.Time `json:"last,omitempty"`
	Came   *time.Time `json:"came,omitempty"`
	// Ended: it was lost or given away before it came.
	Ended bool `json:"ended"`
	Held  bool `json:"held"`
}

// GroupNow is a group as it stands.
func GroupNow(ctx context.Context, g *propagation.Garden, key string) (GroupPage, error) {
	group, ok := plant.GroupNamed(key)
	if !ok {
		return GroupPage{}, propagation.MissingError{What: "This growth group"}
	}
	out := GroupPage{Group: group, Media: []GroupMedium{}, Issued: []IssuedForecast{}}
	learned, err := conclude.Learned(ctx, g)
	if err != nil {
		return out, err
	}
	numbers, err := g.Numbers(ctx)
	if err != nil {
		return out, err
	}
	for _, m := range group.Media {
		e := readiness.Evidence{Today: g.Today(), Group: group, Kind: group.Kinds[0], Medium: m, SetOn: g.Today(), SetNodes: 1, Southern: g.Southern, Numbers: numbers}
		if l, ok := learned[conclude.LearnedKey(group.Key, m)]; ok {
			e.Learned = &l
		}
		out.Media = append(out.Media, GroupMedium{m, readiness.Expect(e).Rests()})
	}
	rows, err := g.Store.ForecastsOfGroup(ctx, key)
	if err != nil {
		return out, err
	}
	ids, seen := []uuid.UUID{}, map[uuid.UUID]bool{}
	for _, r := range rows {
		if !seen[r.CuttingID] {
			ids, seen[r.CuttingID] = append(ids, r.CuttingID), true
		}
	}
	lives, err := conclude.ManyLives(ctx, g, ids)
	if err != nil {
		return out, err
	}
	at := map[uuid.UUID]conclude.Lived{}
	for _, l := range lives {
		at[l.Row.ID] = l
	}
	for _, r := range rows {
		l := at[r.CuttingID]
		label := r.School
		if s, ok := plant.SchoolNamed(plant.SchoolKey(r.School)); ok {
			label = s.Label
		}
		f := IssuedForecast{ID: r.CuttingID, Code: r.Code, School: label, On: r.IssuedOn.Time, Middle: r.ReadyOn.Time, Ended: !l.Stands()}
		if r.ReadyFirst.Valid {
			f.First = &r.ReadyFirst.Time
		}
		if r.ReadyLast.Valid {
			f.Last = &r.ReadyLast.Time
		}
		if came, ok := readiness.CameReady(l.Evidence(g), plant.SchoolKey(r.School)); ok && plant.Days(r.IssuedOn.Time, came) > 0 {
			f.Came = &came
			out.Came++
			f.Held = (f.First == nil || plant.Days(*f.First, came) >= 0) && (f.Last == nil || plant.Days(came, *f.Last) >= 0)
			if f.Held {
				out.Held++
			}
		}
		out.Issued = append(out.Issued, f)
	}
	sort.SliceStable(out.Issued, func(i, j int) bool { return out.Issued[i].On.After(out.Issued[j].On) })
	return out, nil
}
