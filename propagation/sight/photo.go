package sight

import (
	"context"

	"github.com/google/uuid"

	"clearjar/core/plant"
	"clearjar/core/rootphoto/measure"
	"clearjar/core/rootphoto/tag"
	"clearjar/propagation"
	"clearjar/propagation/photo"
	"clearjar/propagation/photo/intake"
	"clearjar/store/sqlgen"
)

// PhotoOf is a photo and the cuttings that are in it.
type PhotoOf struct {
	Photo photo.Photo `json:"photo"`
	// Tags are all that were read in it; of a tag nobody here knows Whose is empty.
	Tags     []TagSeen       `json:"tags"`
	Cuttings []CuttingInside `json:"cuttings"`
	Says     []string        `json:"says"`
}

// CuttingInside is a cutting in a photo, by its own tag or by that of what it stands in.
type CuttingInside struct {
	ID     uuid.UUID `json:"id"`
	Code   string    `json:"code"`
	Mother string    `json:"mother"`
	Vessel string    `json:"vessel"`
	ByTag  bool      `json:"by_tag"`
	// Looked tells that it was looked at in this photo already.
	Looked bool `json:"looked"`
}

// In reads the tags in a photo, of one jar or of a whole shelf, and tells which cuttings are in it.
func In(ctx context.Context, g *propagation.Garden, id uuid.UUID) (PhotoOf, error) {
	named, err := photo.Named(ctx, g, &id)
	if err != nil {
		return PhotoOf{}, err
	}
	row, err := g.Store.PhotoByID(ctx, *named)
	if err != nil {
		return PhotoOf{}, propagation.Missing(err, "This photo")
	}
	original, err := g.Store.PhotoOriginal(ctx, row.ID)
	if err != nil {
		return PhotoOf{}, propagation.Missing(err, "This photo")
	}
	_, img, done, err := intake.OpenAs(ctx, original.Original, int(original.Orientation))
	defer done()
	if err != nil {
		return PhotoOf{}, err
	}
	out := PhotoOf{Photo: photo.Of(row), Tags: []TagSeen{}, Cuttings: []CuttingInside{}, Says: []string{}}
	found := measure.Tags(img)
	for _, f := range found {
		t := TagSeen{TagAt: plant.TagAt{Payload: f.Payload, Corners: f.Corners[:]}}
		whose, err := g.Store.TagNames(ctx, short(f.Payload))
		if err != nil {
			return out, err
		}
		for _, n := range whose {
			t.Whose = n.Code
		}
		out.Tags = append(out.Tags, t)
	}
	in, err := g.Store.InPhoto(ctx, sqlgen.InPhotoParams{Tags: shorts(found), Vessels: []uuid.UUID{}})
	if err != nil {
		return out, err
	}
	ids := []uuid.UUID{}
	for _, c := range in {
		out.Cuttings = append(out.Cuttings, CuttingInside{ID: c.ID, Code: c.Code, Mother: c.MotherName, Vessel: c.VesselName, ByTag: c.ByTag})
		ids = append(ids, c.ID)
	}
	looks, err := g.Store.LooksOfCuttings(ctx, ids)
	if err != nil {
		return out, err
	}
	for i := range out.Cuttings {
		for _, l := range looks {
			if l.CuttingID == out.Cuttings[i].ID && l.PhotoID != nil && *l.PhotoID == row.ID {
				out.Cuttings[i].Looked = true
			}
		}
	}
	out.Says = saysOfTags(found, out)
	return out, nil
}

// saysOfTags are words about the tags of a photo.
func saysOfTags(found []tag.Found, in PhotoOf) []string {
	out := []string{}
	strange := 0
	for _, t := range in.Tags {
		if t.Whose == "" {
			strange++
		}
	}
	switch {
	case len(found) == 0:
		out = append(out, "No tag was read. Go nearer, hold still, keep glare off the code; or choose the cutting on the shelf and measure by two points.")
	case len(in.Cuttings) == 0 && strange == len(found):
		out = append(out, "The tags in this photo name nothing here: they may be another household's.")
	case len(in.Cuttings) == 0:
		out = append(out, "The tags name vessels in which nothing stands now.")
	case strange > 0:
		out = append(out, plant.Counted(strange, "tag names", "tags name")+" nothing here.")
	}
	return out
}
