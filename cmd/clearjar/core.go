package main

import (
	"encoding/json"
	"fmt"
	"io"
	"time"

	"github.com/spf13/cobra"

	"clearjar/core/climate"
	"clearjar/core/cutplan"
	"clearjar/core/number"
	"clearjar/core/plant"
	"clearjar/core/potting"
	"clearjar/core/readiness"
	"clearjar/core/solution"
	"clearjar/propagation/show"
	"clearjar/server"
)

// mostInput bounds what a script may send on standard input.
const mostInput = 4 << 20

// jsonCommand reads one JSON object from standard input and writes one to standard output. Unknown fields are refused.
func jsonCommand[In, Out any](use, short, long string, do func(In) (Out, error)) *cobra.Command {
	return &cobra.Command{
		Use: use, Short: short, Long: long, Args: cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			var in In
			d := json.NewDecoder(io.LimitReader(cmd.InOrStdin(), mostInput))
			d.DisallowUnknownFields()
			if err := d.Decode(&in); err != nil {
				return fmt.Errorf("standard input is not the JSON this command reads (clearjar help %s): %w", use, err)
			}
			out, err := do(in)
			if err != nil {
				return err
			}
			e := json.NewEncoder(cmd.OutOrStdout())
			e.SetIndent("", "  ")
			return e.Encode(out)
		},
	}
}

func groupNamed(key string) (plant.Group, error) {
	g, ok := plant.GroupNamed(key)
	if !ok {
		known := ""
		for _, g := range plant.Groups() {
			known += " " + g.Key
		}
		return g, plant.Refuse("group", "%q is not a growth group; known:%s", key, known)
	}
	return g, nil
}

type planIn struct {
	Group      string             `json:"group"`
	Stem       plant.Stem         `json:"stem"`
	Taken      []int              `json:"taken"`
	Skip       []int              `json:"skip"`
	Dark       bool               `json:"dark"`
	Limits     *cutplan.Limits    `json:"limits"`
	Aim        cutplan.Aim        `json:"aim"`
	Conditions cutplan.Conditions `json:"conditions"`
	Numbers    []cutplan.Change   `json:"numbers"`
	KnivesMM   []float64          `json:"knives_mm"`
}

func (in planIn) plan() (cutplan.Plan, error) {
	group, err := groupNamed(in.Group)
	if err != nil {
		return cutplan.Plan{}, err
	}
	sheet, err := cutplan.Sheet{}.With(in.Numbers...)
	if err != nil {
		return cutplan.Plan{}, err
	}
	bench := cutplan.Bench{
		Stem: in.Stem, Group: group, Taken: marked(in.Taken), Skip: marked(in.Skip), Dark: in.Dark, Conditions: in.Conditions, Sheet: sheet,
	}
	limits := cutplan.LimitsFor(in.Stem.What())
	if in.Limits != nil {
		limits = *in.Limits
	}
	if in.KnivesMM != nil {
		return cutplan.Check(bench, limits, in.KnivesMM)
	}
	return cutplan.Propose(bench, limits, in.Aim)
}

func marked(nodes []int) map[int]bool {
	out := map[int]bool{}
	for _, n := range nodes {
		out[n] = true
	}
	return out
}

func planCommand() *cobra.Command {
	return jsonCommand("plan", "Where to cut a mapped stem (JSON in, JSON out)", `Reads a stem, proposes cuts. Lengths in mm, nodes from the base up.

  group       growth group, such as thick_climber
  stem        {"nodes": [{"below_mm": 40, "leaf": true, "aerial_root": false, "bud": "dormant"}, ...],
               "beyond_mm": 20, "thickness_mm": 8, "tip_intact": true}
              below_mm is the internode below the node; bud: dormant, swelling, shooting, leaf_open;
              stripe: none, some, strong; organ: stem, rhizome, runner, clump, tuber, leaf (with form);
              wood: green, half_ripe, woody
  taken       node numbers already cut; skip: nodes not to be used
  dark        true in the dark half of the year
  limits      {"least_nodes": 2, "most_nodes": 3, "tip_most": 4, "tip_bare": 1, "keep_leaves": 1, "keep_nodes": 1,
               "most_pieces": 0, "most_length_mm": 0, "no_strip": false}
  aim         {"kind": "expected"}, {"kind": "at_least", "at_least": 3}, {"kind": "value"}, {"kind": "reshape", "cut_back_to": 4}
  conditions  {"medium": "moss", "cover": "covered", "knife": "mid", "leaves": "keep", "hormone": false, "set_wet": false}
              knife: mid, below_node, trim, long; leaves: keep, halve, strip
  numbers     [{"key": "wake.thick_climber.moss", "value": 0.7}, ...] in place of starting values (clearjar handbook lists them)
  knives_mm   instead of a proposal: work out what these cuts make

Writes knives_mm, pieces (first, last, chance 0-1, effects as odds ratios with their basis), offcuts, expected plants,
the chance of each number of plants.`, planIn.plan)
}

type judgeIn struct {
	Group  string          `json:"group"`
	School plant.SchoolKey `json:"school"`
	// Vessel may stand in for the medium.
	Vessel plant.VesselKind `json:"vessel"`
	readiness.Evidence
}

// judged is a verdict, and what is to be expected of a piece that roots.
type judged struct {
	readiness.Judgement
	*readiness.Chance
}

func judgeCommand() *cobra.Command {
	return jsonCommand("judge", "The verdict on one cutting (JSON in, JSON out)", `Reads the facts of a cutting, gives the verdict with its reasons.

  group      growth group, such as velvet_climber
  school     early_roots, first_leaf, full_roots or straight_to_mix (default: the group's)
  today      RFC 3339 time, such as 2026-05-02T12:00:00Z (default: now)
  set_on     when it was set
  medium     water, moss, perlite or mix
  set_nodes  how many nodes are in the medium
  node_mm    where each node sits above the base, such as [14, 54]; tells which are sound above rot
  kind       tip, stem, leaf_bud, wet_stick, leaf, division, rhizome, tuber, runner
  vessel     kind of vessel, such as jar or lidded_box, in place of medium: what is usually in it
  medium_on  when it came into this medium, if later than set_on
  leaf_kept  true or false: whether a leaf feeds it
  aerial_root  true when an aerial root is in the medium
  cover      none, vented, ajar or on (straight_to_mix: none says that it was uncovered)
  previous   the verdict before: one that holds is not taken back for a little
  moves      [{"on": time, "medium": "moss"}], in place of medium and medium_on
  care       [{"on": time, "act": "change_water"}]: glance, top_up, change_water, water, mist, air, feel, clear, cover
  cut_backs  [{"on": time, "removed_mm": 30, "gone_nodes": 1, "bare_nodes": [2]}]
  temperature_c  how warm it stands (default: not known)
  southern   true south of the equator (which half of the year is dark)
  looks      [{"on": time, "look": {"roots_counted": true, "roots": [{"node": 1, "order": 1, "length_mm": 31,
              "low_mm": 29, "high_mm": 33, "colour": "white", "how": "typed"}], "stem": "firm", "tug": "holds",
              "root_feel": "firm", "rot_mm": 0, "buds": [{"node": 1, "bud": "swelling"}]}}]
             what is left out was not noted
  potted     {"on": time}          outcome   {"on": time, "kind": "established" or "lost"}

Writes verdict, act (pot_up, uncover, look, wait, rescue, leave_alone), sentence, brief, reasons (met, unmet, unknown, contrary),
contradictions, next_look, do_not_open_until, question, day_loss; for one that rots ways, for a potted one after (stays, checks,
leaf_by); for a piece that roots also p_ready, never, lacks, p_rot, ready_days (p10, p50, p90: days since setting, 0 for already),
best_day (curve, day, from, to: days from today; why: dark_season, rot, overgrowth) and questions, each with net worth, seconds,
disturbance, not_now, and what each answer would do: a simulated world, by assumption.`,
		func(in judgeIn) (judged, error) {
			group, err := groupNamed(in.Group)
			if err != nil {
				return judged{}, err
			}
			if in.School == "" {
				in.School = readiness.DefaultSchool(group)
			}
			if in.Today.IsZero() {
				in.Today = time.Now()
			}
			in.Evidence.Group = group
			if in.Vessel != "" {
				sort, ok := in.Vessel.Sort()
				if !ok {
					return judged{}, plant.Refuse("vessel", "%q is not a vessel", in.Vessel)
				}
				in.Medium = sort.Medium
			}
			if err := in.Check(); err != nil {
				return judged{}, err
			}
			out := judged{}
			if out.Judgement, err = readiness.Judge(in.Evidence, in.School); err != nil {
				return out, err
			}
			if c, ok := readiness.Foresee(in.Evidence, in.School); ok {
				out.Chance = &c
			}
			return out, nil
		})
}

type potIn struct {
	Group     string          `json:"group"`
	Kind      plant.PieceKind `json:"kind"`
	LongestMM float64         `json:"longest_mm"`
	// Plants are several plants that are potted together.
	Plants []potPlant `json:"plants"`
}

type potPlant struct {
	Name      string          `json:"name"`
	Group     string          `json:"group"`
	Kind      plant.PieceKind `json:"kind"`
	LongestMM float64         `json:"longest_mm"`
}

// together lays out several plants.
func (in potIn) together() (any, error) {
	pieces := make([]potting.Piece, len(in.Plants))
	for i, p := range in.Plants {
		group, err := groupNamed(p.Group)
		if err != nil {
			return nil, err
		}
		pieces[i] = potting.Piece{Name: p.Name, Group: group, Kind: p.Kind, LongestMM: p.LongestMM}
	}
	return potting.Together(number.Table{}, pieces)
}

func potCommand() *cobra.Command {
	return jsonCommand("pot", "Which pot and how much mix (JSON in, JSON out)", `Reads a growth group and the longest root, suggests a first pot.

  group        growth group, such as wax_vine
  kind         tip, stem, leaf_bud, wet_stick, leaf, division, rhizome, tuber, runner, plantlet, head, pair, strand, pup, back_rhizome
               (a division or a pup gets a pot that fits its roots)
  longest_mm   length of the longest root in mm, 0 when unknown

  plants       instead: several plants, [{"name": "CIS-A5-6", "group": "cissus_kin", "kind": "stem", "longest_mm": 15}, ...]

Writes pot (top_mm, bottom_mm, depth_mm), mix_ml, mix (parts and ml of each), reasons; of several plants pots, each with its places
(mm from the middle, seen from above, and where the shoot points, in degrees; how deep its base stands), apart_mm, rim_mm, spread
(longest root over the shortest), mix_ml, alone (why one stays apart) and cautions, and mixes for all of them, as loose as they are
filled in.`,
		func(in potIn) (any, error) {
			if len(in.Plants) > 0 {
				return in.together()
			}
			group, err := groupNamed(in.Group)
			if err != nil {
				return nil, err
			}
			return potting.Suggest(number.Table{}, group, in.Kind, in.LongestMM)
		})
}

type climateIn struct {
	climate.Air
	LeafC *float64         `json:"leaf_c"`
	Stage climate.StageKey `json:"stage"`
	// DayMinC and DayMaxC are the extremes of a day, for its warmth above the base.
	DayMinC *float64          `json:"day_min_c"`
	DayMaxC *float64          `json:"day_max_c"`
	Base    climate.Threshold `json:"base"`
	Light   []climate.Light   `json:"light"`
}

type climateOut struct {
	climate.Judged
	DegreeDays *float64 `json:"degree_days,omitempty"`
	DLI        *float64 `json:"dli_mol_m2,omitempty"`
}

func climateCommand() *cobra.Command {
	return jsonCommand("climate", "The air of a box held against what its pieces want (JSON in, JSON out)", `Reads what a hygrometer says, judges it for a stage.

  temp_c, humidity_pct   the air: degrees C, relative humidity 0 to 100
  leaf_c                 temperature of a leaf (default: that of the air)
  stage                  unrooted, rooting or hardening (default: unrooted)
  day_min_c, day_max_c   extremes of a day, for degree_days above base
  base                   {"base_c": 10, "upper_c": 32, "has_upper": true, "clipped": false}
  light                  [{"ppfd": 80, "hours": 12}, ...] micromol per m2 and second, for the light of a day

Writes deficit_kpa and leaf_deficit_kpa (FAO-56 equation 11), dew_c, water_g_m3, findings with what to do, says.`,
		func(in climateIn) (climateOut, error) {
			if in.Stage == "" {
				in.Stage = climate.Unrooted
			}
			var out climateOut
			var err error
			if out.Judged, err = climate.Judge(number.Table{}, in.Air, in.LeafC, in.Stage); err != nil {
				return out, err
			}
			if in.DayMinC != nil && in.DayMaxC != nil {
				if *in.DayMaxC < *in.DayMinC {
					return out, plant.Refuse("day_max_c", "below day_min_c")
				}
				d := in.Base.DegreeDays(*in.DayMinC, *in.DayMaxC)
				out.DegreeDays = &d
			}
			if len(in.Light) > 0 {
				d := climate.DLI(in.Light...)
				out.DLI = &d
			}
			return out, nil
		})
}

func solveCommand() *cobra.Command {
	long := "Reads the name of a calculator and its values.\n\n"
	for _, c := range solution.Calculators() {
		long += fmt.Sprintf("  %-14s %s: %s\n", c.Key, c.Title, c.Formula)
		for _, f := range c.Fields {
			long += fmt.Sprintf("  %14s   %s (%s %s)\n", "", f.Key, f.Label, f.Unit)
		}
	}
	return jsonCommand("solve", "A calculation of the mixing corner (JSON in, JSON out)", long+`
  {"calculator": "dilute", "values": {"stock": 1000, "target": 300, "final_ml": 100}}

strength takes "from" and "to" (percent, ppm, mg_per_l, g_per_l); parts takes "parts": [1, 1, 1]; pot_volume takes "square".
Writes results and shown, the formula with the numbers put in.`, solution.Solve)
}

func openapiCommand() *cobra.Command {
	return &cobra.Command{
		Use: "openapi", Short: "Write the HTTP contract as OpenAPI 3.1", Args: cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			doc, err := server.Contract()
			if err != nil {
				return err
			}
			_, err = cmd.OutOrStdout().Write(append(doc, '\n'))
			return err
		},
	}
}

func handbookCommand() *cobra.Command {
	return &cobra.Command{
		Use: "handbook", Short: "Write every number of the job with its basis, as Markdown", Args: cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			_, err := io.WriteString(cmd.OutOrStdout(), show.Book().Markdown())
			return err
		},
	}
}
