package show

import (
	"context"
	"sort"
	"time"

	"github.com/google/uuid"

	"clearjar/core/life"
	"clearjar/core/plant"
	"clearjar/core/readiness"
	"clearjar/core/stats"
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
	// Kinds are the grower's own counts, kind by kind.
	Kinds []KindCount `json:"kinds"`
}

// KindCount is what pieces of one kind came to, in the grower's own records.
type KindCount struct {
	Kind  plant.PieceKind `json:"kind"`
	Label string          `json:"label"`
	// Pieces whose fate is known; of those Came gave at least one plant that has grown on, Plants in all, those parted from them among them.
	Pieces int `json:"pieces"`
	Came   int `json:"came"`
	Plants int `json:"plants"`
	Open   int `json:"open"`
	// Low and High hold the share that comes in 9 of 10 cases, 0 to 1.
	Low  float64 `json:"low"`
	High float64 `json:"high"`
	// Months is from the cut to grown on, the middle one; 0 while none has.
	Months float64 `json:"months"`
}

// countKinds counts the pieces of a group kind by kind. A plant that was parted counts for the piece it was parted from.
func countKinds(lives []conclude.Lived) []KindCount {
	out, months := []KindCount{}, map[plant.PieceKind][]float64{}
	at := map[plant.PieceKind]int{}
	for _, l := range lives {
		if l.Row.ParentID != nil {
			continue
		}
		i, known := at[l.Kind]
		if !known {
			i = len(out)
			at[l.Kind] = i
			out = append(out, KindCount{Kind: l.Kind, Label: l.Kind.Row().Label})
		}
		k := &out[i]
		succeeded, decided := l.Succeeded()
		if !decided {
			k.Open++
			continue
		}
		k.Pieces++
		if !succeeded {
			continue
		}
		k.Came++
		k.Plants += l.Offspring.Established
		if l.Fate() == life.Established {
			k.Plants++
			months[l.Kind] = append(months[l.Kind], float64(plant.Days(l.CutOn, l.Outcome.On))/30.44)
		}
	}
	for i := range out {
		k := &out[i]
		if k.Pieces > 0 {
			seen := stats.Beta{A: 1, B: 1}.Saw(k.Came, k.Pieces) // before any record every share is as likely
			k.Low, k.High = seen.Quantile(0.05), seen.Quantile(0.95)
		}
		if m := months[k.Kind]; len(m) > 0 {
			sort.Float64s(m)
			k.Months = m[len(m)/2]
		}
	}
	sort.SliceStable(out, func(i, j int) bool { return out[i].Pieces > out[j].Pieces })
	return out
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
	out := GroupPage{Group: group, Media: []GroupMedium{}, Issued: []IssuedForecast{}, Kinds: []KindCount{}}
	ofGroup, err := g.Store.CuttingsOfGroup(ctx, key)
	if err != nil {
		return out, err
	}
	all, err := conclude.ManyLives(ctx, g, ofGroup)
	if err != nil {
		return out, err
	}
	out.Kinds = countKinds(all)
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
