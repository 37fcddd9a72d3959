// Package conclude loads lives and judges them: what is concluded is kept beside the facts, is valid only while
// the facts, the rules and the day stay the same, and can be thrown away at will.
package conclude

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
	"clearjar/core/plant"
	"clearjar/core/readiness"
	"clearjar/propagation"
	"clearjar/store/sqlgen"
)

// What is kept of a conclusion has its shape from these files: when it changes, so does the version.
//
//go:embed lives.go shelf_cutting.go conclude.go tend.go learned.go
var shape embed.FS

// code is the version of the program's part of what a conclusion rests on.
var code = func() string {
	sum := fnv.New64a()
	for _, name := range []string{"lives.go", "shelf_cutting.go", "conclude.go", "tend.go", "learned.go"} {
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
func rules(ctx context.Context, g *propagation.Garden) (string, error) {
	numbers, err := g.Numbers(ctx)
	return fmt.Sprintf("%s-%s-%s-%t", code, numbers.Version(), g.Zone, g.Southern), err
}

// Only says which cuttings are asked for: those that stand, or else those with the ids, or of the mothers.
type Only struct {
	IDs, Mothers []uuid.UUID
	Standing     bool
}

// concluded is what the core concluded of one cutting.
type concluded struct {
	ID, cutID, motherID uuid.UUID
	Urgency             int
	// DayLoss is what is lost by leaving it a day, in the chance of one plant.
	DayLoss float64
	// verdict is the one under its own school.
	Verdict           plant.Verdict
	vesselID, placeID *uuid.UUID
	// tend is what its care rests on, as it was kept.
	tend string
	// shelf is a [ShelfCutting] as it is sent, without the names of its vessel and place.
	shelf string
}

// view reads what the shelf draws.
func (c concluded) view(in Standings) (ShelfCutting, error) {
	var v ShelfCutting
	err := json.Unmarshal([]byte(c.shelf), &v)
	v.Today = in.Of(c.vesselID, c.placeID)
	return v, err
}

// Named is what the shelf draws as it is sent, with the names of today.
func (c concluded) Named(in Standings) OnShelf {
	text, _ := json.Marshal(in.Of(c.vesselID, c.placeID))
	out := make(OnShelf, 0, len(c.shelf)+len(text))
	out = append(append(out, strings.TrimSuffix(c.shelf, "}")...), ',')
	return append(out, text[1:]...)
}

func day(g *propagation.Garden) pgtype.Date {
	t := g.Today()
	return pgtype.Date{Time: time.Date(t.Year(), t.Month(), t.Day(), 0, 0, 0, 0, time.UTC), Valid: true}
}

// Concluded gives what is concluded of cuttings, by the day they were cut. What is kept is given when it
// holds: for as many facts, under the same rules, on the same day; everything else is judged anew and kept.
func Concluded(ctx context.Context, g *propagation.Garden, which Only) ([]concluded, error) {
	if which.IDs == nil {
		which.IDs = []uuid.UUID{}
	}
	if which.Mothers == nil {
		which.Mothers = []uuid.UUID{}
	}
	rules, err := rules(ctx, g)
	if err != nil {
		return nil, err
	}
	rows, err := conclusions(ctx, g, rules, which)
	if err != nil {
		return nil, err
	}
	out, at, anew, before := make([]concluded, len(rows)), map[uuid.UUID]int{}, []uuid.UUID{}, map[uuid.UUID]judgedAs{}
	for i, r := range rows {
		at[r.ID] = i
		out[i] = concluded{ID: r.ID, cutID: r.CutID, motherID: r.MotherID, Urgency: int(r.Urgency), DayLoss: float64(r.DayLoss), Verdict: plant.Verdict(r.Verdict), vesselID: r.VesselID, placeID: r.PlaceID, tend: r.Tend, shelf: r.Shelf}
		if !r.Holds {
			anew = append(anew, r.ID)
		}
		if r.RuledSchool != "" {
			before[r.ID] = judgedAs{plant.SchoolKey(r.RuledSchool), plant.Verdict(r.Verdict)}
		}
	}
	judged, err := conclude(ctx, g, rules, anew, before)
	for _, c := range judged {
		out[at[c.ID]] = c
	}
	return out, err
}

// conclusions are the rows of what is asked for, whether they hold or not.
func conclusions(ctx context.Context, g *propagation.Garden, rules string, which Only) ([]sqlgen.ConclusionsRow, error) {
	if !which.Standing {
		return g.Store.Conclusions(ctx, sqlgen.ConclusionsParams{Rules: rules, Day: day(g), Ids: which.IDs, MotherIds: which.Mothers})
	}
	rows, err := g.Store.StandingConclusions(ctx, sqlgen.StandingConclusionsParams{Rules: rules, Day: day(g)})
	out := make([]sqlgen.ConclusionsRow, len(rows))
	for i, r := range rows {
		out[i] = sqlgen.ConclusionsRow(r)
	}
	return out, err
}

// judgedAtOnce is how many cuttings are loaded and judged at a time.
const judgedAtOnce = 500

// judgedAs is a verdict that was kept, and under which school.
type judgedAs struct {
	school  plant.SchoolKey
	verdict plant.Verdict
}

// conclude judges cuttings anew and keeps what follows. before are the verdicts that were kept under these rules.
func conclude(ctx context.Context, g *propagation.Garden, rules string, ids []uuid.UUID, before map[uuid.UUID]judgedAs) ([]concluded, error) {
	out := []concluded{}
	for len(ids) > 0 {
		n := min(len(ids), judgedAtOnce)
		lives, err := livesOf(ctx, g, ids[:n])
		if err != nil {
			return nil, err
		}
		if err := withLearned(ctx, g, lives); err != nil {
			return nil, err
		}
		kept, issued := make([]kept, len(lives)), []issued{}
		for i, l := range lives {
			c, k, f, err := judge(g, l, before[l.Row.ID])
			if err != nil {
				return nil, err
			}
			out, kept[i], issued = append(out, c), k, append(issued, f...)
		}
		if err := keepConclusions(ctx, g, rules, kept, issued); err != nil {
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
	Tend      Tended                            `json:"tend"`
	Urgency   int                               `json:"urgency"`
	DayLoss   float64                           `json:"day_loss"`
	Expected  *readiness.Kept                   `json:"expected"`
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

// issuedAs are the chances a forecast was issued with: that it was ready then, and that it never is.
type issuedAs struct {
	Ready float64 `json:"p_ready"`
	Never float64 `json:"never"`
}

// judge gives the verdict under its school, what the shelf draws, and the forecast that follows.
func judge(g *propagation.Garden, l Lived, before judgedAs) (concluded, kept, []issued, error) {
	f := l.Facts()
	k := kept{
		CuttingID: f.ID, Facts: l.Row.Facts, School: l.School(), Verdicts: map[plant.SchoolKey]plant.Verdict{}, VesselID: f.VesselID, PlaceID: l.Row.PottedPlaceID,
		GroupKey: f.GroupKey, Medium: string(f.Medium),
	}
	if won, tried, ok := l.Trial(); ok {
		k.Won, k.Tried = &won, &tried
	}
	forecasts := []issued{}
	f.Piece = f.Piece.Brief()
	f.Today = Today{}
	shelf := ShelfCutting{CuttingFacts: f}
	evidence := l.Evidence(g)
	if before.school == l.School() { // a verdict under another school holds nothing up
		evidence.Previous = before.verdict
	}
	outlook := readiness.Expect(evidence)
	d, err := outlook.Decide(l.School())
	if err != nil {
		return concluded{}, kept{}, nil, err
	}
	k.Verdicts[l.School()] = d.Verdict
	shelf.Judgement = shelfVerdict(readiness.Say(d))
	if keeps, ok := outlook.Keep(l.School()); ok && l.Stands() {
		k.Expected = &keeps
	}
	if c := d.Comes; c != nil && c.Middle != nil && l.Stands() {
		forecasts = append(forecasts, issued{f.ID, l.School(), l.Row.Facts, dateOf(*c.Middle), dateOrNil(c.First), dateOrNil(c.Last), issuedAs{*d.Likely, c.Never}})
	}
	propagation.Whole(&shelf)
	text, err := json.Marshal(shelf)
	if err != nil {
		return concluded{}, kept{}, nil, err
	}
	// Where that is today is put in when it is shown.
	k.Shelf = strings.Replace(string(text), `,"vessel_name":"","place_name":""`, "", 1)
	k.Urgency, k.DayLoss = readiness.Urgency(shelf.Judgement.Verdict), d.DayLoss
	k.Tend = tended(l)
	tend, err := json.Marshal(k.Tend)
	return concluded{f.ID, l.Row.CutID, f.MotherID, k.Urgency, k.DayLoss, k.Verdicts[k.School], k.VesselID, k.PlaceID, string(tend), k.Shelf}, k, forecasts, err
}

func dateOf(t time.Time) string { return t.Format(time.DateOnly) }

func dateOrNil(t *time.Time) *string {
	if t == nil {
		return nil
	}
	text := dateOf(*t)
	return &text
}

func keepConclusions(ctx context.Context, g *propagation.Garden, rules string, k []kept, f []issued) error {
	text, err := json.Marshal(k)
	if err != nil {
		return err
	}
	if err := g.Store.KeepConclusions(ctx, sqlgen.KeepConclusionsParams{Rules: rules, Day: day(g), Kept: text}); err != nil || len(f) == 0 {
		return err
	}
	if text, err = json.Marshal(f); err != nil {
		return err
	}
	return g.Store.IssueForecasts(ctx, sqlgen.IssueForecastsParams{Rules: rules, IssuedOn: day(g), Issued: text})
}

// Standings are the vessels and shelves, by their ids.
type Standings struct {
	Vessels map[uuid.UUID]propagation.VesselView
	Places  map[uuid.UUID]sqlgen.Place
}

// Of tells where that is today: a pot stands where it was put, anything else where its vessel stands.
func (s Standings) Of(vessel, potted *uuid.UUID) Today {
	t := Today{PlaceID: potted}
	if vessel != nil {
		v := s.Vessels[*vessel]
		t.VesselName = v.Name
		if potted == nil {
			t.PlaceID = &v.PlaceID
		}
	}
	if t.PlaceID != nil {
		t.PlaceName = s.Places[*t.PlaceID].Name
	}
	return t
}

// StandingsNow loads all vessels, those that were emptied too, and places.
func StandingsNow(ctx context.Context, g *propagation.Garden) (Standings, error) {
	s := Standings{map[uuid.UUID]propagation.VesselView{}, map[uuid.UUID]sqlgen.Place{}}
	vessels, err := g.Store.VesselsEver(ctx)
	if err != nil {
		return s, err
	}
	for _, v := range vessels {
		s.Vessels[v.ID] = propagation.VesselOf(v)
	}
	places, err := g.Store.Places(ctx)
	for _, p := range places {
		s.Places[p.ID] = p
	}
	return s, err
}

// Views are what the lists draw of cuttings, by the day they were cut.
func Views(ctx context.Context, g *propagation.Garden, which Only) ([]ShelfCutting, error) {
	all, err := Concluded(ctx, g, which)
	if err != nil || len(all) == 0 {
		return []ShelfCutting{}, err
	}
	in, err := StandingsNow(ctx, g)
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

// JudgeStanding judges everything that stands for the day and issues its forecasts, so that the first look at the
// shelf waits for nothing.
func JudgeStanding(ctx context.Context, g *propagation.Garden) error {
	_, err := Concluded(ctx, g, Only{Standing: true})
	return err
}
