package door

import (
	"context"
	"encoding/json"
	"errors"
	"reflect"

	"github.com/google/uuid"

	"clearjar/core/plant"
	"clearjar/propagation"
	"clearjar/store"
)

// MostFacts is how many facts one batch may carry.
const MostFacts = 200

// SentFact is one fact of a batch: its kind, and what the operation of that kind takes.
type SentFact struct {
	Kind    string          `json:"kind"`
	Content json.RawMessage `json:"content"`
}

// What became of a fact.
const (
	Kept    = "kept"
	Same    = "same"
	Differs = "differs"
	Refused = "refused"
)

// Receipt tells what became of one fact.
type Receipt struct {
	ID uuid.UUID `json:"id"`
	// Outcome: kept now; the same as was kept before; refused because its id was kept with other content;
	// or refused for what it says.
	Outcome string  `json:"outcome" enum:"kept,same,differs,refused"`
	Touched Touched `json:"touched"`
	// Why is what was wrong, when it was not kept.
	Why error `json:"-"`
}

// factKinds is every kind of fact that can be sent, with what its content is read into.
var factKinds = map[string]reflect.Type{}

func init() {
	for _, f := range []Fact{
		NewMother{},
		StemMap{},
		NewPlan{},
		BenchTick{},
		Cut{},
		Brought{},
		NewVessel{},
		Setting{},
		Care{},
		VesselMove{},
		VesselEnd{},
		CareSchool{},
		PlaceOrder{},
		NewLook{},
		SchoolChoice{},
		CutBack{},
		Potting{},
		Potful{},
		Parting{},
		PotVisit{},
		MotherPotting{},
		Handover{},
		Ending{},
		Watering{},
		NumberChoice{},
		Withdrawal{},
		MotherCorrection{},
		VesselCorrection{},
		PlaceCorrection{},
		OutcomeCorrection{},
		DateCorrection{},
		HouseholdCorrection{},
	} {
		factKinds[f.named().kind] = reflect.TypeOf(f)
	}
}

// Check refuses content that is not what its kind takes.
type Check func(f Fact, kind string, content json.RawMessage) error

// FactKinds gives every kind of fact with the type of its content.
func FactKinds() map[string]reflect.Type { return factKinds }

// KeepAll takes in facts in their order, each in a transaction of its own, and gives a receipt for each:
// one that is refused keeps no other from coming in. Only when the database is gone does it give an
// error; what was kept by then answers that it is the same when it is sent again.
func KeepAll(ctx context.Context, g *propagation.Garden, facts []SentFact, check Check) ([]Receipt, error) {
	out := make([]Receipt, len(facts))
	for i, f := range facts {
		r, err := keepSent(ctx, g, f, check)
		if err != nil {
			return nil, err
		}
		out[i] = r
	}
	return out, nil
}

func keepSent(ctx context.Context, g *propagation.Garden, sent SentFact, check Check) (Receipt, error) {
	var r Receipt
	fact, err := readFact(sent, check)
	if fact != nil {
		r.ID = fact.named().id
	}
	if err == nil {
		var same bool
		r.Touched, same, err = Keep(ctx, g, fact)
		r.Outcome = Kept
		if same {
			r.Outcome = Same
		}
	}
	if err == nil {
		return r, nil
	}
	if store.IsLost(err) || ctx.Err() != nil {
		return r, err
	}
	r.Touched, r.Why, r.Outcome = Touched{}, err, Refused
	if errors.As(err, new(propagation.DiffersError)) {
		r.Outcome = Differs
	}
	return r, nil
}

// readFact reads content into the type of its kind; the id is read as far as it can be, for the receipt.
func readFact(sent SentFact, check Check) (Fact, error) {
	kind, ok := factKinds[sent.Kind]
	if !ok {
		return nil, plant.Refuse("kind", "%q is not a kind of fact", sent.Kind)
	}
	into := reflect.New(kind)
	readErr := json.Unmarshal(sent.Content, into.Interface())
	fact := into.Elem().Interface().(Fact)
	if check != nil {
		if err := check(fact, sent.Kind, sent.Content); err != nil {
			return fact, err
		}
	}
	if readErr != nil {
		return fact, plant.Refuse("content", "cannot be read as what is noted of this kind")
	}
	return fact, nil
}
