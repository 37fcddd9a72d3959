package show

import (
	"context"
	"strings"

	"github.com/google/uuid"

	"clearjar/core/plant"
	"clearjar/propagation"
	"clearjar/store/sqlgen"
)

// Found is what a search found: cuttings in whatever state, and vessels, empty ones too.
type Found struct {
	Cuttings []FoundCutting `json:"cuttings"`
	Vessels  []FoundVessel  `json:"vessels"`
	// More says that there are more than are listed: say more of what is looked for.
	More bool `json:"more"`
}

// FoundCutting is one cutting a search found.
type FoundCutting struct {
	ID         uuid.UUID `json:"id"`
	Code       string    `json:"code"`
	Tag        string    `json:"tag"`
	MotherName string    `json:"mother_name"`
	// State says where it is: standing, potted, given, established or lost; Says it in words.
	State string `json:"state" enum:"standing,potted,given,established,lost,parted"`
	Says  string `json:"says"`
}

// FoundVessel is one vessel a search found.
type FoundVessel struct {
	ID     uuid.UUID    `json:"id"`
	Name   string       `json:"name"`
	Tag    string       `json:"tag"`
	Place  string       `json:"place"`
	Medium plant.Medium `json:"medium"`
}

// mostFound is how many of each a search lists.
const mostFound = 20

// Find looks for cuttings and vessels by code, tag or name: every word must be in it.
func Find(ctx context.Context, g *propagation.Garden, asked string) (Found, error) {
	out := Found{Cuttings: []FoundCutting{}, Vessels: []FoundVessel{}}
	words := strings.Fields(strings.ToLower(asked))
	if len(words) == 0 {
		return out, nil
	}
	rows, err := g.Store.FindCuttings(ctx, sqlgen.FindCuttingsParams{Words: words, Most: mostFound + 1})
	if err != nil {
		return out, err
	}
	for _, r := range rows {
		if len(out.Cuttings) == mostFound {
			out.More = true
			break
		}
		c := FoundCutting{ID: r.ID, Code: r.Code, Tag: r.Tag, MotherName: r.MotherName, State: "standing"}
		switch {
		case r.OutcomeKind != nil:
			c.State = *r.OutcomeKind
		case r.GivenOn != nil:
			c.State = "given"
		case r.PottedOn != nil:
			c.State = "potted"
		}
		c.Says = map[string]string{"standing": "rooting", "potted": "potted", "given": "given away", "established": "established", "lost": "lost", "parted": "parted"}[c.State]
		out.Cuttings = append(out.Cuttings, c)
	}
	vessels, err := g.Store.Vessels(ctx)
	if err != nil {
		return out, err
	}
	places, err := g.Store.Places(ctx)
	if err != nil {
		return out, err
	}
	placeName := map[uuid.UUID]string{}
	for _, p := range places {
		placeName[p.ID] = p.Name
	}
	for _, row := range vessels {
		v := propagation.VesselOf(row)
		text := strings.ToLower(v.Name + " " + v.Tag + " " + placeName[v.PlaceID])
		all := true
		for _, w := range words {
			all = all && strings.Contains(text, w)
		}
		if !all {
			continue
		}
		if len(out.Vessels) == mostFound {
			out.More = true
			break
		}
		out.Vessels = append(out.Vessels, FoundVessel{v.ID, v.Name, v.Tag, placeName[v.PlaceID], v.Medium})
	}
	return out, nil
}
