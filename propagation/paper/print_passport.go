package paper

import (
	"context"

	"github.com/google/uuid"

	"clearjar/core/plant"
	"clearjar/core/potting"
	"clearjar/propagation"
	"clearjar/propagation/paper/passport"
	"clearjar/propagation/show"
)

// PrintPassport prints the passport of one cutting as PDF, for whoever it is given to; it gives its code too.
func PrintPassport(ctx context.Context, g *propagation.Garden, id uuid.UUID) (data []byte, code string, err error) {
	page, err := show.OneCutting(ctx, g, id)
	if err != nil {
		return nil, "", err
	}
	mother, err := show.MotherPage(ctx, g, page.Cutting.MotherID)
	if err != nil {
		return nil, "", err
	}
	numbers, err := g.Numbers(ctx)
	if err != nil {
		return nil, "", err
	}
	c := page.Cutting
	p := passport.Passport{Code: c.Code, Name: c.MotherName, Group: page.Group.Name + ", " + page.Words.Label, Made: g.Today()}
	if len(page.History) > 0 {
		p.Came = page.History[0].Text
	}
	if mother.Provenance != "" {
		p.Provenance = "Its mother: " + mother.Provenance + "."
	}
	for _, e := range page.History {
		p.History = append(p.History, passport.Line{On: e.On.In(g.Zone), Text: e.Text})
	}
	if mix, known := potting.MixNamed(numbers, page.Group.Mix); known {
		p.Keep = append(p.Keep, "Mix: "+mix.Why+".")
	}
	p.Keep = append(p.Keep, keeping[page.Group.Keeping], page.Group.Note, page.NotNormal)
	for _, k := range append(page.Caution, plant.CautionsFor(plant.TradeRules)...) {
		p.Cautions = append(p.Cautions, k.Text)
	}
	data, err = passport.Print(p)
	return data, c.Code, err
}

// keeping says how a plant is kept, by how its group is. Common practice, no source.
var keeping = map[plant.Keeping]string{
	plant.Damp: "Evenly damp, never soaked; bright, without direct sun at first. Feed at a quarter of the label strength once it grows.",
	plant.Dry:  "Water only when about 80 % of the mix is dry; bright. Feed at a quarter of the label strength, in growth only.",
}
