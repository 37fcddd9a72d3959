package door

import (
	"context"
	"fmt"
	"time"

	"github.com/google/uuid"

	"clearjar/core/care"
	"clearjar/core/plant"
	"clearjar/propagation"
	"clearjar/store"
	"clearjar/store/sqlgen"
)

// Care is the fact of one visit to one vessel: what was done, what was seen, how its cover was left; or why it was put
// off. Visits are added up, so two phones on one round are both kept and nothing counts twice.
type Care struct {
	ID       uuid.UUID `json:"id"`
	VesselID uuid.UUID `json:"vessel_id"`
	// At is when.
	At    time.Time        `json:"at"`
	Acts  []plant.Act      `json:"acts" maxItems:"20"`
	Seen  []plant.Sign     `json:"seen" maxItems:"20"`
	Cover plant.CoverState `json:"cover,omitempty"`
	// Well: nothing else was to be seen.
	Well   bool   `json:"well"`
	PutOff string `json:"put_off,omitempty" maxLength:"800"`
	Note   string `json:"note,omitempty" maxLength:"2000"`
}

func (c Care) named() named { return named{c.ID, "care", c.VesselID} }

func (c Care) write(ctx context.Context, g *Entry) error {
	putOff, err := plant.CleanText("put_off", c.PutOff, 200)
	if err != nil {
		return err
	}
	note, err := plant.CleanText("note", c.Note, 500)
	if err != nil {
		return err
	}
	v, err := g.lockVessel(ctx, c.VesselID)
	if err != nil {
		return err
	}
	if err := g.CheckDay("at", c.At, v.Since, "it was put to use"); err != nil {
		return err
	}
	if v.EndedOn != nil && plant.Days(v.EndedOn.In(g.Zone), c.At.In(g.Zone)) > 0 {
		return endedError(v, g)
	}
	visit := care.Visit{At: c.At, Acts: c.Acts, Seen: c.Seen, Cover: c.Cover, PutOff: putOff}
	if err := visit.Check(propagation.VesselOf(v).Vessel, c.Well); err != nil {
		return err
	}
	if _, err = g.Store.AddCare(ctx, sqlgen.AddCareParams{
		ID: c.ID, VesselID: c.VesselID, DoneAt: c.At, Acts: texts(c.Acts), Seen: texts(c.Seen), Cover: string(c.Cover), Well: c.Well, PutOff: putOff, Note: note, MadeAt: g.decided,
	}); err != nil || len(c.Acts) == 0 && c.Cover == "" {
		return err
	}
	return g.caredFor(ctx, c.VesselID)
}

// caredFor counts a fact of all that stands in a vessel: what was done for it may answer what was seen of them.
func (g *Entry) caredFor(ctx context.Context, vessel uuid.UUID) error {
	rows, err := g.Store.StandingIn(ctx, vessel)
	if err != nil {
		return err
	}
	ids := make([]uuid.UUID, len(rows))
	for i, r := range rows {
		ids[i] = r.ID
	}
	return g.Store.TouchCuttings(ctx, ids)
}

// texts are keys, each once.
func texts[T ~string](keys []T) []string {
	out := []string{}
	have := map[T]bool{}
	for _, k := range keys {
		if !have[k] {
			have[k] = true
			out = append(out, string(k))
		}
	}
	return out
}

// endedError says that a vessel stands on no shelf any more.
func endedError(v sqlgen.VesselNow, g *Entry) error {
	how := "was emptied"
	if v.EndedHow != nil && *v.EndedHow == "broken" {
		how = "broke"
	}
	return propagation.ConflictError{Reason: fmt.Sprintf("%s %s on %s. Nothing was noted; take that back first, if it was a slip.", v.Name, how, v.EndedOn.In(g.Zone).Format("2 Jan 2006"))}
}

// VesselMove is the fact that a vessel was carried to another shelf, with all that stands in it.
type VesselMove struct {
	ID       uuid.UUID `json:"id"`
	VesselID uuid.UUID `json:"vessel_id"`
	// Place is the name of the shelf; a new name makes a new shelf.
	Place   string    `json:"place" maxLength:"400"`
	MovedOn time.Time `json:"moved_on"`
}

func (m VesselMove) named() named { return named{m.ID, "vessel_move", m.VesselID} }

func (m VesselMove) write(ctx context.Context, g *Entry) error {
	v, err := g.lockVessel(ctx, m.VesselID)
	if err != nil {
		return err
	}
	if v.EndedOn != nil {
		return endedError(v, g)
	}
	if err := g.CheckDay("moved_on", m.MovedOn, v.Since, "it was put to use"); err != nil {
		return err
	}
	place, err := g.placeNamed(ctx, m.Place)
	if err != nil {
		return err
	}
	mark(&g.touched.Places, v.PlaceID, place.ID)
	_, err = g.Store.AddVesselMove(ctx, sqlgen.AddVesselMoveParams{ID: m.ID, VesselID: m.VesselID, PlaceID: place.ID, MovedOn: m.MovedOn, MadeAt: g.decided})
	return err
}

// VesselEnd is the fact that a vessel was emptied, or broke: it leaves the shelf. What stands in it is moved first.
type VesselEnd struct {
	ID       uuid.UUID `json:"id"`
	VesselID uuid.UUID `json:"vessel_id"`
	EndedOn  time.Time `json:"ended_on"`
	How      string    `json:"how" enum:"emptied,broken"`
	Note     string    `json:"note,omitempty" maxLength:"2000"`
}

func (e VesselEnd) named() named { return named{e.ID, "vessel_end", e.VesselID} }

func (e VesselEnd) write(ctx context.Context, g *Entry) error {
	note, err := plant.CleanText("note", e.Note, 500)
	if err != nil {
		return err
	}
	v, err := g.lockVessel(ctx, e.VesselID)
	if err != nil {
		return err
	}
	if e.How != "emptied" && e.How != "broken" {
		return plant.Refuse("how", "emptied or broken")
	}
	if err := g.CheckDay("ended_on", e.EndedOn, v.Since, "it was put to use"); err != nil {
		return err
	}
	standing, err := g.Store.StandingIn(ctx, e.VesselID)
	if err != nil {
		return err
	}
	if len(standing) > 0 {
		codes := make([]string, len(standing))
		for i, s := range standing {
			codes[i] = s.Code
		}
		return propagation.ConflictError{Reason: fmt.Sprintf("%s stand in %s. Move, pot or close them first; nothing was changed.", plant.Listed(codes), v.Name)}
	}
	_, err = g.Store.AddVesselEnd(ctx, sqlgen.AddVesselEndParams{ID: e.ID, VesselID: e.VesselID, EndedOn: e.EndedOn, How: e.How, Note: note, MadeAt: g.decided})
	if store.BrokenRule(err) == "vessel_end_once" {
		return endedError(v, g)
	}
	return err
}

// CareSchool is the fact that the grower goes by a school of care, for all vessels or for one. The choice made last
// holds; that of one vessel before that of all. An empty school of one vessel goes back to that of all.
type CareSchool struct {
	ID       uuid.UUID      `json:"id"`
	VesselID *uuid.UUID     `json:"vessel_id,omitempty"`
	About    care.About     `json:"about" enum:"water,air,look"`
	School   care.SchoolKey `json:"school"`
}

func (s CareSchool) named() named {
	about := uuid.Nil
	if s.VesselID != nil {
		about = *s.VesselID
	}
	return named{s.ID, "care_school", about}
}

func (s CareSchool) write(ctx context.Context, g *Entry) error {
	if s.VesselID != nil {
		if _, err := g.lockVessel(ctx, *s.VesselID); err != nil {
			return err
		}
	}
	if s.VesselID == nil || s.School != "" {
		if _, err := care.Usual().With(s.About, s.School); err != nil {
			return err
		}
	}
	g.touched.Care = true
	_, err := g.Store.AddCareSchool(ctx, sqlgen.AddCareSchoolParams{ID: s.ID, VesselID: s.VesselID, About: string(s.About), School: string(s.School), MadeAt: g.decided})
	return err
}
