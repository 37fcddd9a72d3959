package door

import (
	"context"
	"encoding/json"
	"errors"
	"time"

	"github.com/google/uuid"

	"clearjar/core/cutplan"
	"clearjar/core/plant"
	"clearjar/propagation"
	"clearjar/store/sqlgen"
)

// Brought is the fact that a piece without a mapped mother joined the collection: bought, traded, or found in a jar.
type Brought struct {
	ID   uuid.UUID `json:"id"`
	Name string    `json:"name" maxLength:"400"`
	// MotherID is set when she is here already; otherwise a mother is made of whom only the name is known.
	MotherID *uuid.UUID      `json:"mother_id,omitempty"`
	GroupKey string          `json:"group_key"`
	Kind     plant.PieceKind `json:"kind"`
	Form     plant.LeafForm  `json:"form,omitempty" enum:"whole,half,half_across,wedge,section,pulled,heel"`
	Nodes    int             `json:"nodes" minimum:"1" maximum:"20"`
	Leaves   int             `json:"leaves" minimum:"0" maximum:"20"`
	// OwnRoots says that it came with roots, as a division does.
	OwnRoots bool   `json:"own_roots,omitempty"`
	Pattern  string `json:"pattern,omitempty" enum:"plain,stable,unstable"`
	// Since is when it was cut, or came; KnownTo how exactly that is known.
	Since   time.Time `json:"since"`
	KnownTo string    `json:"known_to" enum:"day,week,month"`
	// VesselID is where it stands, or Vessel a new one; both left out when it is not set yet.
	VesselID *uuid.UUID `json:"vessel_id,omitempty"`
	Vessel   *NewVessel `json:"vessel,omitempty"`
	SetNodes int        `json:"set_nodes,omitempty" minimum:"0" maximum:"20"`
	// Seen is what has been seen of it on coming; left out when nobody looked.
	Seen *plant.Look `json:"seen,omitempty"`
	// SeenOn is when; left out for today.
	SeenOn *time.Time `json:"seen_on,omitempty"`
}

// ids of what comes with a piece follow from its own, so that the same fact again makes the same things.
func (b Brought) part(what string) uuid.UUID { return uuid.NewSHA1(b.ID, []byte(what)) }

// usual lengths of a piece nobody measured, in mm.
const (
	broughtInternodeMM = 40
	broughtEndMM       = 15
	broughtThickMM     = 6
)

// stem is the map of a piece that nobody mapped: so many nodes at usual distances.
func (b Brought) stem() plant.Stem {
	s := plant.Stem{Organ: organOf(b.Kind), Form: b.Form, ThicknessMM: broughtThickMM, BeyondMM: broughtEndMM, TipIntact: b.Kind == plant.Tip}
	if s.Organ == plant.LeafOrgan && s.Form == "" {
		s.Form = plant.WholeLeaf
	}
	if s.Organ != plant.LeafOrgan {
		s.Form = ""
	}
	for i := range b.Nodes {
		n := plant.Node{BelowMM: broughtInternodeMM, Bud: plant.BudDormant, Leaf: i >= b.Nodes-b.Leaves, Rooted: b.OwnRoots && b.Kind.Row().Pose == plant.Crown}
		if i == 0 {
			n.BelowMM = broughtEndMM
		}
		s.Nodes = append(s.Nodes, n)
	}
	return s
}

func organOf(k plant.PieceKind) plant.Organ {
	for _, r := range plant.OrganRules() {
		if r.Kind == k {
			return r.Organ
		}
	}
	return plant.StemOrgan
}

func (b Brought) check(g *Entry) error {
	if k := b.Kind.Row(); k.Kind != b.Kind {
		return plant.Refuse("kind", "%q is not a kind of piece", b.Kind)
	}
	if b.Nodes < 1 || b.Nodes > 20 {
		return plant.Refuse("nodes", "1 to 20: a piece without a node never grows")
	}
	if b.Leaves < 0 || b.Leaves > b.Nodes {
		return plant.Refuse("leaves", "0 to %d, one a node", b.Nodes)
	}
	if b.KnownTo != "day" && b.KnownTo != "week" && b.KnownTo != "month" {
		return plant.Refuse("known_to", "day, week or month")
	}
	if b.VesselID != nil && b.Vessel != nil {
		return plant.Refuse("vessel", "a vessel that is here, or a new one, not both")
	}
	if b.Seen != nil {
		if err := b.Seen.Check(); err != nil {
			return err
		}
	}
	if err := b.stem().Check(); err != nil {
		return err
	}
	return g.CheckDay("since", b.Since, propagation.EarliestRecord, "any record")
}

func (b Brought) named() named { return named{b.ID, "brought", b.CuttingID()} }

// CutID is the id of the cut it is taken to come of.
func (b Brought) CutID() uuid.UUID { return b.part("cut") }

// CuttingID is the id of the cutting that comes of it.
func (b Brought) CuttingID() uuid.UUID { return uuid.NewSHA1(b.CutID(), []byte("piece 0")) }

func (b Brought) write(ctx context.Context, g *Entry) error {
	if err := b.check(g); err != nil {
		return err
	}
	motherID, err := g.motherOfBrought(ctx, b)
	if err != nil {
		return err
	}
	mother, err := g.Store.MotherByID(ctx, motherID)
	if err != nil {
		return propagation.Missing(err, "This mother")
	}
	stemID := b.part("stem")
	letter, err := g.nextLetter(ctx, motherID, b.stem().What())
	if err != nil {
		return err
	}
	stem := sqlgen.Stem{ID: stemID, MotherID: motherID, Letter: letter}
	mark(&g.touched.Stems, stemID)
	if _, err := g.Store.AddStem(ctx, sqlgen.AddStemParams{ID: stemID, MotherID: motherID, Letter: stem.Letter}); err != nil {
		return err
	}
	if _, err := g.Store.AddStemMap(ctx, sqlgen.AddStemMapParams{StemID: stemID, Version: 1, FactID: b.part("map"), Map: b.stem(), MappedOn: b.Since}); err != nil {
		return err
	}
	if _, err := g.Store.AddCut(ctx, sqlgen.AddCutParams{ID: b.CutID(), StemID: stemID, MapVersion: 1, CutOn: b.Since, KnownTo: b.KnownTo, Taken: []int32{}}); err != nil {
		return err
	}
	sheet, err := g.Sheet(ctx)
	if err != nil {
		return err
	}
	piece := b.piece(sheet)
	id, err := g.take(ctx, b.CutID(), stem, mother, piece, 0, b.Nodes)
	if err != nil {
		return err
	}
	if err := g.setBrought(ctx, b, id, piece.Set); err != nil {
		return err
	}
	if b.Seen == nil {
		return nil
	}
	on := made(g.Garden, b.ID)
	if b.SeenOn != nil {
		on = *b.SeenOn
	}
	return NewLook{ID: b.part("look"), CuttingID: id, LookedAt: on, Seen: *b.Seen}.write(ctx, g)
}

// piece is the whole of it: nothing was stripped that anyone knows of.
func (b Brought) piece(sheet cutplan.Sheet) cutplan.Piece {
	stem := b.stem()
	set := b.SetNodes
	if set < 1 {
		set = cutplan.SetUsually(sheet, b.Kind, b.Nodes)
	}
	return cutplan.Piece{
		First: 1, Last: b.Nodes, Kind: b.Kind, ToMM: stem.LengthMM(), BelowMM: broughtEndMM, AboveMM: broughtEndMM, Set: min(set, b.Nodes),
		Leaves: b.Leaves, Effects: []cutplan.Effect{}, Strip: []int{},
	}
}

// motherOfBrought is the mother named, else one of this name that is known by name only, else a new one.
func (g *Entry) motherOfBrought(ctx context.Context, b Brought) (uuid.UUID, error) {
	if b.MotherID != nil {
		return *b.MotherID, g.lockMother(ctx, *b.MotherID)
	}
	words := MotherWords{Name: b.Name, GroupKey: b.GroupKey, Pattern: b.Pattern}
	if words.Pattern == "" {
		words.Pattern = "plain"
	}
	words, err := words.Clean()
	if err != nil {
		return uuid.Nil, err
	}
	same, err := g.Store.MothersNamed(ctx, words.Name)
	if err != nil {
		return uuid.Nil, err
	}
	for _, m := range same {
		if !m.Known && m.GroupKey == words.GroupKey {
			return m.ID, g.lockMother(ctx, m.ID)
		}
	}
	id := b.part("mother")
	_, err = g.addMother(ctx, id, words, "", nil, false)
	return id, err
}

// setBrought sets it into its vessel, when it stands in one.
func (g *Entry) setBrought(ctx context.Context, b Brought, cutting uuid.UUID, nodes int) error {
	vessel := b.VesselID
	if b.Vessel != nil {
		v := *b.Vessel
		v.ID = b.part("vessel")
		if err := v.write(ctx, g); err != nil {
			return err
		}
		vessel = &v.ID
	}
	if vessel == nil {
		return nil
	}
	return g.set(ctx, Setting{ID: b.part("setting"), CuttingID: cutting, VesselID: *vessel, SetOn: b.Since, SetNodes: nodes}, 0)
}

// withdrawBrought takes a piece that was brought in back, with all that came with it and is used by nothing else.
func withdrawBrought(ctx context.Context, g *Entry, id uuid.UUID) (int64, error) {
	f, err := g.Store.FactByID(ctx, id)
	if err != nil {
		return 0, err
	}
	var b Brought
	if err := json.Unmarshal(f.Content, &b); err != nil {
		return 0, err
	}
	if _, err := g.Store.WithdrawSetting(ctx, b.part("setting")); err != nil {
		return 0, err
	}
	if _, err := g.Store.WithdrawLook(ctx, b.part("look")); err != nil {
		return 0, err
	}
	n, err := g.withdrawOneCut(ctx, b.CutID())
	if err != nil {
		return 0, err
	}
	if _, err := g.Store.WithdrawStem(ctx, b.part("stem")); err != nil {
		return 0, err
	}
	if uses, err := g.Store.UsesOfMother(ctx, b.part("mother")); err != nil {
		return 0, err
	} else if uses == 0 {
		if _, err := g.Store.WithdrawMother(ctx, b.part("mother")); err != nil {
			return 0, err
		}
	}
	if _, err := g.lockVessel(ctx, b.part("vessel")); err != nil && !errors.As(err, new(propagation.MissingError)) {
		return 0, err
	}
	if uses, err := g.Store.CountInVesselEver(ctx, b.part("vessel")); err != nil {
		return 0, err
	} else if uses == 0 {
		if _, err := g.Store.WithdrawVessel(ctx, b.part("vessel")); err != nil {
			return 0, err
		}
	}
	return n, nil
}
