package main

import (
	"errors"
	"fmt"
	"time"

	"github.com/spf13/cobra"

	"clearjar/core/care"
	"clearjar/core/number"
	"clearjar/core/plant"
)

type dueIn struct {
	At       time.Time       `json:"at"`
	Zone     string          `json:"zone"`
	Schools  care.Chosen     `json:"schools"`
	Southern bool            `json:"southern"`
	Numbers  []number.Change `json:"numbers"`
	Vessels  []dueVessel     `json:"vessels"`
}

type dueVessel struct {
	ID       string           `json:"id"`
	Kind     plant.VesselKind `json:"kind"`
	Medium   plant.Medium     `json:"medium"`
	Since    time.Time        `json:"since"`
	Cover    plant.CoverState `json:"cover"`
	HottestC *float64         `json:"hottest_c"`
	// DeficitKPa is that of the mean air over the last day.
	DeficitKPa *float64     `json:"deficit_kpa"`
	Visits     []care.Visit `json:"visits"`
	Pieces     []duePiece   `json:"pieces"`
}

type duePiece struct {
	Code     string          `json:"code"`
	Group    string          `json:"group"`
	Kind     plant.PieceKind `json:"kind"`
	Form     plant.LeafForm  `json:"form"`
	CutOn    time.Time       `json:"cut_on"`
	SetOn    time.Time       `json:"set_on"`
	LeftOn   *time.Time      `json:"left_on"`
	RootedOn *time.Time      `json:"rooted_on"`
	ShootOn  *time.Time      `json:"shoot_on"`
	DroopsOn *time.Time      `json:"droops_on"`
}

type dueOut struct {
	ID string `json:"id"`
	care.Due
}

func (v dueVessel) vessel(at time.Time) (care.Vessel, error) {
	sort, ok := v.Kind.Sort()
	if !ok {
		return care.Vessel{}, plant.Refuse("kind", "%q is not a vessel", v.Kind)
	}
	if v.Medium == "" {
		v.Medium = sort.Medium
	}
	in := sort.Usual
	in.Medium = v.Medium
	errs := []error{in.Check()}
	if v.Cover != "" {
		errs = append(errs, in.CheckCover("cover", v.Cover))
	}
	for i, visit := range v.Visits {
		if err := visit.Check(in, true); err != nil {
			errs = append(errs, fmt.Errorf("visits[%d]: %w", i, err))
		}
	}
	out := care.Vessel{Kind: v.Kind, Medium: v.Medium, Since: v.Since, Cover: v.Cover, Record: care.Sum(v.Visits, at), HottestC: v.HottestC, DeficitKPa: v.DeficitKPa}
	for i, p := range v.Pieces {
		group, err := groupNamed(p.Group)
		if err != nil {
			errs = append(errs, fmt.Errorf("pieces[%d]: %w", i, err))
		}
		if row := p.Kind.Row(); row.Kind != p.Kind {
			errs = append(errs, fmt.Errorf("pieces[%d]: %w", i, plant.Refuse("kind", "%q is not a kind of piece", p.Kind)))
		}
		if p.CutOn.IsZero() {
			p.CutOn = p.SetOn
		}
		out.Pieces = append(out.Pieces, care.Piece{
			Code: p.Code, Group: group, Kind: p.Kind, Form: p.Form, CutOn: p.CutOn, SetOn: p.SetOn, LeftOn: p.LeftOn, RootedOn: p.RootedOn, ShootOn: p.ShootOn, DroopsOn: p.DroopsOn,
		})
	}
	return out, errors.Join(errs...)
}

func due(in dueIn) ([]dueOut, error) {
	if in.At.IsZero() {
		return nil, plant.Refuse("at", "say for which instant")
	}
	if in.Zone != "" {
		zone, err := time.LoadLocation(in.Zone)
		if err != nil {
			return nil, plant.Refuse("zone", "%q is not a time zone", in.Zone)
		}
		in.At = in.At.In(zone)
	}
	usual := care.Usual()
	for _, about := range care.Abouts() {
		if key := in.Schools.Of(about); key != "" {
			var err error
			if usual, err = usual.With(about, key); err != nil {
				return nil, err
			}
		}
	}
	numbers, err := number.Table{}.With(in.Numbers...)
	if err != nil {
		return nil, err
	}
	out := []dueOut{}
	for i, v := range in.Vessels {
		vessel, err := v.vessel(in.At)
		if err != nil {
			return nil, fmt.Errorf("vessels[%d] %s: %w", i, v.ID, err)
		}
		out = append(out, dueOut{v.ID, care.On(vessel, in.At, care.Where{Schools: usual, Numbers: numbers, Southern: in.Southern})})
	}
	return out, nil
}

func dueCommand() *cobra.Command {
	long := `Reads vessels with what was done and seen, says for each what is due and what to leave alone.

  at          instant asked for, such as "2026-11-20T09:00:00+01:00"
  zone        time zone of days, such as Europe/Vienna (default: the offset of at)
  southern    true south of the equator
  schools     {"water": ..., "air": ..., "look": ...}; what is left out is the first marked *
`
	for _, s := range care.Schools() {
		mark := " "
		if care.Usual().Of(s.About) == s.Key {
			mark = "*"
		}
		long += fmt.Sprintf("              %-5s %-11s %s %s\n", s.About, s.Key, mark, s.Label)
	}
	long += `  numbers     [{"key": "care.water.every_7_14.from", "value": 5}, ...] (clearjar handbook lists them)
  vessels     id       any text, given back
              kind     `
	for _, v := range plant.VesselSorts() {
		long += string(v.Kind) + " "
	}
	long += `
              medium   default: what is usual in the kind; since: when it was put to use
              cover    how it came: on, vented, ajar, by_day, off
              hottest_c  highest temperature there over the last day, when it is measured
              deficit_kpa  what the mean air of the last day still took up, when it is measured
              visits   [{"at": time, "acts": [...], "seen": [...], "cover": ..., "put_off": ...}]
                       acts: `
	for _, a := range plant.Acts() {
		long += string(a.Act) + " "
	}
	long += "\n                       seen: "
	for _, s := range plant.Signs() {
		long += string(s.Sign) + " "
	}
	long += `
              pieces   [{"code": "CIS-A5", "group": "cissus_kin", "kind": "stem", "cut_on": time, "set_on": time,
                       "left_on": time, "rooted_on": time, "shoot_on": time, "droops_on": time}]; the last four when known

Writes for each vessel tasks (act, cover, since, late, urgent, why), leave (codes, open, until, unless_shoot, why),
harden (steps with days, held, pot_from), notes, put_off, next, cover.`
	return jsonCommand("due", "What is due for vessels on a day (JSON in, JSON out)", long, due)
}
