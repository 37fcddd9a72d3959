package propagation

import (
	"context"
	"embed"
	"encoding/hex"
	"encoding/json"
	"fmt"
	"hash/fnv"
	"strings"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5/pgtype"

	"clearjar/core"
	"clearjar/core/cutplan"
	"clearjar/core/plant"
	"clearjar/core/readiness"
	"clearjar/store/sqlgen"
)

// What is kept of a conclusion has its shape from these files: when it changes, so does the version.
//
//go:embed lives.go shelf_cutting.go conclude.go
var shape embed.FS

// code is the version of the program's part of what a conclusion rests on.
var code = func() string {
	sum := fnv.New64a()
	for _, name := range []string{"lives.go", "shelf_cutting.go", "conclude.go"} {
		text, err := shape.ReadFile(name)
		if err != nil {
			panic(err) // it is compiled in
		}
		_, _ = sum.Write(text)
	}
	return core.Rules + "-" + hex.EncodeToString(sum.Sum(nil))
}()

// rules is the version of all that a conclusion rests on beside the facts and the day: the program, and the
// household's numbers.
func (g *Garden) rules(ctx context.Context) (string, error) {
	numbers, err := g.numbers(ctx)
	return fmt.Sprintf("%s-%s-%s-%t", code, numbers.Version(), g.zone, g.southern), err
}

// only says which cuttings are asked for: those that stand, or else those with the ids, or of the mothers.
type only struct {
	ids, mothers []uuid.UUID
	standing     bool
}

// concluded is what the core concluded of one cutting.
type concluded struct {
	id, cutID, motherID uuid.UUID
	urgency             int
	// verdict is the one under its own school.
	verdict           plant.Verdict
	vesselID, placeID *uuid.UUID
	// shelf is a [ShelfCutting] as it is sent, without the names of its vessel and place.
	shelf string
}

// view reads what the shelf draws.
func (c concluded) view(in standings) (ShelfCutting, error) {
	var v ShelfCutting
	err := json.Unmarshal([]byte(c.shelf), &v)
	v.Today = in.of(c.vesselID, c.placeID)
	return v, err
}

// named is what the shelf draws as it is sent, with the names of today.
func (c concluded) named(in standings) OnShelf {
	text, _ := json.Marshal(in.of(c.vesselID, c.placeID))
	out := make(OnShelf, 0, len(c.shelf)+len(text))
	out = append(append(out, strings.TrimSuffix(c.shelf, "}")...), ',')
	return append(out, text[1:]...)
}

func (g *Garden) day() pgtype.Date {
	t := g.Today()
	return pgtype.Date{Time: time.Date(t.Year(), t.Month(), t.Day(), 0, 0, 0, 0, time.UTC), Valid: true}
}

// concluded gives what is concluded of cuttings, by the day they were cut. What is kept is given when it
// holds: for as many facts, under the same rules, on the same day; everything else is judged anew and kept.
func (g *Garden) concluded(ctx context.Context, which only) ([]concluded, error) {
	if which.ids == nil {
		which.ids = []uuid.UUID{}
	}
	if which.mothers == nil {
		which.mothers = []uuid.UUID{}
	}
	rules, err := g.rules(ctx)
	if err != nil {
		return nil, err
	}
	rows, err := g.conclusions(ctx, rules, which)
	if err != nil {
		return nil, err
	}
	out, at, anew := make([]concluded, len(rows)), map[uuid.UUID]int{}, []uuid.UUID{}
	for i, r := range rows {
		at[r.ID] = i
		out[i] = concluded{id: r.ID, cutID: r.CutID, motherID: r.MotherID, urgency: int(r.Urgency), verdict: plant.Verdict(r.Verdict), vesselID: r.VesselID, placeID: r.PlaceID, shelf: r.Shelf}
		if !r.Holds {
			anew = append(anew, r.ID)
		}
	}
	judged, err := g.conclude(ctx, rules, anew)
	for _, c := range judged {
		out[at[c.id]] = c
	}
	return out, err
}

// conclusions are the rows of what is asked for, whether they hold or not.
func (g *Garden) conclusions(ctx context.Context, rules string, which only) ([]sqlgen.ConclusionsRow, error) {
	if !which.standing {
		return g.store.Conclusions(ctx, sqlgen.ConclusionsParams{Rules: rules, Day: g.day(), Ids: which.ids, MotherIds: which.mothers})
	}
	rows, err := g.store.StandingConclusions(ctx, sqlgen.StandingConclusionsParams{Rules: rules, Day: g.day()})
	out := make([]sqlgen.ConclusionsRow, len(rows))
	for i, r := range rows {
		out[i] = sqlgen.ConclusionsRow(r)
	}
	return out, err
}

// judgedAtOnce is how many cuttings are loaded and judged at a time.
const judgedAtOnce = 500

// conclude judges cuttings anew and keeps what follows.
func (g *Garden) conclude(ctx context.Context, rules string, ids []uuid.UUID) ([]concluded, error) {
	out := []concluded{}
	for len(ids) > 0 {
		n := min(len(ids), judgedAtOnce)
		lives, err := g.livesOf(ctx, ids[:n])
		if err != nil {
			return nil, err
		}
		kept, issued := make([]kept, len(lives)), []issued{}
		for i, l := range lives {
			c, k, f, err := g.judge(l)
			if err != nil {
				return nil, err
			}
			out, kept[i], issued = append(out, c), k, append(issued, f...)
		}
		if err := g.keepConclusions(ctx, rules, kept, issued); err != nil {
			return nil, err
		}
		ids = ids[n:]
	}
	return out, nil
}

// kept and issued are rows as they are written.
type kept struct {
	CuttingID uuid.UUID                         `json:"cutting_id"`
	Facts     int32                             `json:"facts"`
	School    plant.SchoolKey                   `json:"school"`
	Verdicts  map[plant.SchoolKey]plant.Verdict `json:"verdicts"`
	Shelf     string                            `json:"shelf"`
	Urgency   int                               `json:"urgency"`
	VesselID  *uuid.UUID                        `json:"vessel_id"`
	PlaceID   *uuid.UUID                        `json:"place_id"`
	GroupKey  string                            `json:"group_key"`
	Medium    string                            `json:"medium"`
	Won       *int                              `json:"won"`
	Tried     *int                              `json:"tried"`
}

type issued struct {
	CuttingID  uuid.UUID       `json:"cutting_id"`
	School     plant.SchoolKey `json:"school"`
	Facts      int32           `json:"facts"`
	ReadyOn    string          `json:"ready_on"`
	ReadyFirst *string         `json:"ready_first"`
	ReadyLast  *string         `json:"ready_last"`
	Forecast   any             `json:"forecast"`
}

// judge gives the verdict under each school, what the shelf draws, and the forecasts that follow.
func (g *Garden) judge(l lived) (concluded, kept, []issued, error) {
	f := l.facts()
	k := kept{
		CuttingID: f.ID, Facts: l.row.Facts, School: l.school(), Verdicts: map[plant.SchoolKey]plant.Verdict{}, VesselID: f.VesselID, PlaceID: l.row.PottedPlaceID,
		GroupKey: f.GroupKey, Medium: string(f.Medium),
	}
	if won, tried, ok := l.Trial(); ok {
		k.Won, k.Tried = &won, &tried
	}
	forecasts := []issued{}
	f.Piece = f.Piece.Brief()
	f.Today = Today{}
	shelf := ShelfCutting{CuttingFacts: f}
	for _, s := range plant.Schools() {
		j, err := readiness.Judge(l.evidence(g), s.Key)
		if err != nil {
			return concluded{}, kept{}, nil, err
		}
		k.Verdicts[s.Key] = j.Verdict
		if s.Key == l.school() {
			shelf.Judgement = shelfVerdict(j)
		}
		if j.Forecast != nil && j.ReadyOn != nil && l.Stands() {
			// Its looks are facts and its band follows from it: neither is kept again each day.
			brief := *j.Forecast
			brief.Looks, brief.Band = nil, nil
			forecasts = append(forecasts, issued{f.ID, s.Key, l.row.Facts, dateOf(*j.ReadyOn), dateOrNil(j.ReadyFirst), dateOrNil(j.ReadyLast), brief})
		}
	}
	Whole(&shelf)
	text, err := json.Marshal(shelf)
	if err != nil {
		return concluded{}, kept{}, nil, err
	}
	// Where that is today is put in when it is shown.
	k.Shelf = strings.Replace(string(text), `,"vessel_name":"","place_name":""`, "", 1)
	k.Urgency = readiness.Urgency(shelf.Judgement.Verdict)
	return concluded{f.ID, l.row.CutID, f.MotherID, k.Urgency, k.Verdicts[k.School], k.VesselID, k.PlaceID, k.Shelf}, k, forecasts, nil
}

func dateOf(t time.Time) string { return t.Format(time.DateOnly) }

func dateOrNil(t *time.Time) *string {
	if t == nil {
		return nil
	}
	text := dateOf(*t)
	return &text
}

func (g *Garden) keepConclusions(ctx context.Context, rules string, k []kept, f []issued) error {
	text, err := json.Marshal(k)
	if err != nil {
		return err
	}
	if err := g.store.KeepConclusions(ctx, sqlgen.KeepConclusionsParams{Rules: rules, Day: g.day(), Kept: text}); err != nil || len(f) == 0 {
		return err
	}
	if text, err = json.Marshal(f); err != nil {
		return err
	}
	return g.store.IssueForecasts(ctx, sqlgen.IssueForecastsParams{Rules: rules, IssuedOn: g.day(), Issued: text})
}

// records are the grower's own, by the key of the planner's number they speak about: of all whose fate is known.
func (g *Garden) records(ctx context.Context) (map[string]cutplan.Record, error) {
	rules, err := g.rules(ctx)
	if err != nil {
		return nil, err
	}
	for {
		ids, err := g.store.DecidedUnconcluded(ctx, rules)
		if err != nil {
			return nil, err
		}
		if len(ids) == 0 {
			break
		}
		if _, err := g.conclude(ctx, rules, ids); err != nil {
			return nil, err
		}
	}
	rows, err := g.store.Records(ctx, rules)
	if err != nil {
		return nil, err
	}
	trials := make([]cutplan.Trial, len(rows))
	for i, r := range rows {
		trials[i] = cutplan.Trial{Group: r.GroupKey, Medium: plant.Medium(r.Medium), Record: cutplan.Record{Won: int(r.Won), Tried: int(r.Tried)}}
	}
	return cutplan.Records(trials), nil
}

// standings are the vessels and shelves, by their ids.
type standings struct {
	vessels map[uuid.UUID]VesselView
	places  map[uuid.UUID]sqlgen.Place
}

// of tells where that is today: a pot stands where it was put, anything else where its vessel stands.
func (s standings) of(vessel, potted *uuid.UUID) Today {
	t := Today{PlaceID: potted}
	if vessel != nil {
		v := s.vessels[*vessel]
		t.VesselName = v.Name
		if potted == nil {
			t.PlaceID = &v.PlaceID
		}
	}
	if t.PlaceID != nil {
		t.PlaceName = s.places[*t.PlaceID].Name
	}
	return t
}

func (g *Garden) standings(ctx context.Context) (standings, error) {
	s := standings{map[uuid.UUID]VesselView{}, map[uuid.UUID]sqlgen.Place{}}
	vessels, err := g.store.Vessels(ctx)
	if err != nil {
		return s, err
	}
	for _, v := range vessels {
		s.vessels[v.ID] = vesselView(v)
	}
	places, err := g.store.Places(ctx)
	for _, p := range places {
		s.places[p.ID] = p
	}
	return s, err
}

// views are what the lists draw of cuttings, by the day they were cut.
func (g *Garden) views(ctx context.Context, which only) ([]ShelfCutting, error) {
	all, err := g.concluded(ctx, which)
	if err != nil || len(all) == 0 {
		return []ShelfCutting{}, err
	}
	in, err := g.standings(ctx)
	if err != nil {
		return nil, err
	}
	out := make([]ShelfCutting, len(all))
	for i, c := range all {
		if out[i], err = c.view(in); err != nil {
			return nil, err
		}
	}
	return out, nil
}
