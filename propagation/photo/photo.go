// Package photo keeps the original bytes of photos and makes the pictures for the screen.
package photo

import (
	"context"
	"crypto/sha256"
	"encoding/hex"
	"fmt"
	"time"

	"github.com/google/uuid"

	"clearjar/core/plant"
	"clearjar/propagation"
	"clearjar/propagation/photo/intake"
	"clearjar/store"
	"clearjar/store/sqlgen"
)

// Photo is what is known of a kept photo. Width and height are of the upright picture.
type Photo struct {
	ID       uuid.UUID `json:"id"`
	SHA256   string    `json:"sha256"`
	WidthPX  int       `json:"width_px"`
	HeightPX int       `json:"height_px"`
	TakenAt  time.Time `json:"taken_at"`
	// TakenFrom says where the date comes from: exif, or the upload.
	TakenFrom string `json:"taken_from" enum:"exif,upload"`
	// Turn names how it is turned: pictures of another turn are other pictures.
	Turn int `json:"turn"`
	// Remark says what was odd about the file, in a grower's words.
	Remark string `json:"remark"`
}

// ViewSizes are the longest sides of the pictures made for the screen, in pixels.
var ViewSizes = []int{320, 1600}

// Of is a photo as it is known.
func Of(p sqlgen.PhotoByIDRow) Photo {
	return Photo{p.ID, hex.EncodeToString(p.Sha256), int(p.WidthPx), int(p.HeightPx), p.TakenAt, p.TakenFrom, int(p.Orientation), p.Remark}
}

// Keep keeps the original bytes of a photo, unchanged. The same photo twice is one, under its first id.
func Keep(ctx context.Context, g *propagation.Garden, id uuid.UUID, data []byte) (Photo, error) {
	if err := propagation.CheckID("id", id); err != nil {
		return Photo{}, err
	}
	sum := sha256.Sum256(data)
	if had, err := g.Store.PhotoBySum(ctx, sum[:]); err == nil { // no need to look at it again
		return Of(sqlgen.PhotoByIDRow(had)), namePhoto(ctx, g, id, had.ID)
	} else if !store.IsMissing(err) {
		return Photo{}, err
	}
	pic, views, err := intake.Take(ctx, data, g.Zone, ViewSizes)
	if err != nil {
		return Photo{}, err
	}
	row := sqlgen.AddPhotoParams{
		ID: id, Original: data, MediaType: pic.MediaType, WidthPx: int32(pic.Width), HeightPx: int32(pic.Height),
		Orientation: int32(pic.Orientation), TakenAt: pic.Taken, TakenFrom: "exif",
	}
	row.Sha256 = sum[:]
	switch {
	case pic.Taken.IsZero():
		row.TakenAt, row.TakenFrom, row.Remark = g.Now(), "upload", "The file does not say when it was taken: the time of upload stands in."
	case pic.Taken.After(g.Now().Add(propagation.Slack)):
		row.TakenAt, row.TakenFrom = g.Now(), "upload"
		row.Remark = fmt.Sprintf("The file says %s, which lies in the future: the time of upload stands in. Check the camera's clock.", pic.Taken.Format("2 Jan 2006"))
	}
	err = g.In(ctx, func(g *propagation.Garden) error {
		added, err := g.Store.AddPhoto(ctx, row)
		if err != nil || added == 0 {
			return err
		}
		for most, view := range views {
			if err := g.Store.KeepPhotoView(ctx, sqlgen.KeepPhotoViewParams{PhotoID: id, MostPx: int32(most), Jpeg: view}); err != nil {
				return err
			}
		}
		return nil
	})
	if err != nil {
		return Photo{}, err
	}
	kept, err := g.Store.PhotoBySum(ctx, row.Sha256)
	if store.IsMissing(err) {
		return Photo{}, propagation.ConflictError{Reason: "This id already names another photo. Nothing was kept."}
	}
	if err != nil {
		return Photo{}, err
	}
	return Of(sqlgen.PhotoByIDRow(kept)), namePhoto(ctx, g, id, kept.ID)
}

// Turn turns a photo by quarters to the right, when the camera did not know which way was up. It is refused once something
// was traced on it. What was seen in it before is of the other turn: it is asked anew.
func Turn(ctx context.Context, g *propagation.Garden, id uuid.UUID, quarters int) (Photo, error) {
	named, err := Named(ctx, g, &id)
	if err != nil {
		return Photo{}, err
	}
	row, err := g.Store.PhotoByID(ctx, *named)
	if err != nil {
		return Photo{}, propagation.Missing(err, "This photo")
	}
	p := sqlgen.TurnPhotoParams{ID: row.ID, Was: row.Orientation, Orientation: int32(intake.TurnedRight(int(row.Orientation), quarters)), WidthPx: row.WidthPx, HeightPx: row.HeightPx} //nolint:gosec // 1 to 8
	if quarters%2 != 0 {
		p.WidthPx, p.HeightPx = row.HeightPx, row.WidthPx
	}
	err = g.In(ctx, func(g *propagation.Garden) error {
		n, err := g.Store.TurnPhoto(ctx, p)
		if err != nil {
			return err
		}
		if n == 0 {
			return plant.Refuse("photo", "a look names this photo already, and its lines would lie elsewhere. Nothing was turned.")
		}
		return g.Store.DropPhotoViews(ctx, row.ID)
	})
	if err != nil {
		return Photo{}, err
	}
	if err := MakePictures(ctx, g, row.ID); err != nil {
		return Photo{}, err
	}
	row, err = g.Store.PhotoByID(ctx, row.ID)
	return Of(row), err
}

// namePhoto notes a second id of a photo that is here already: a look that is on its way may name it.
func namePhoto(ctx context.Context, g *propagation.Garden, id, kept uuid.UUID) error {
	if id == kept {
		return nil
	}
	return g.Store.NamePhoto(ctx, sqlgen.NamePhotoParams{ID: id, PhotoID: kept})
}

// photoNamed is the id a photo was kept under, for any id it was sent under.
func Named(ctx context.Context, g *propagation.Garden, id *uuid.UUID) (*uuid.UUID, error) {
	if id == nil {
		return nil, nil
	}
	kept, err := g.Store.PhotoNamed(ctx, *id)
	if store.IsMissing(err) {
		return id, nil
	}
	return &kept, err
}

// View gives an upright JPEG for the screen, made once and kept. most is one of [ViewSizes].
func View(ctx context.Context, g *propagation.Garden, id uuid.UUID, most int) ([]byte, error) {
	known := false
	for _, s := range ViewSizes {
		known = known || s == most
	}
	if !known {
		return nil, plant.Refuse("size", "one of %v", ViewSizes)
	}
	params := sqlgen.PhotoViewParams{PhotoID: id, MostPx: int32(most)}
	if have, err := g.Store.PhotoView(ctx, params); err == nil || !store.IsMissing(err) {
		return have, err
	}
	if err := MakePictures(ctx, g, id); err != nil {
		return nil, err
	}
	view, err := g.Store.PhotoView(ctx, params)
	return view, propagation.Missing(err, "This photo")
}

// Original gives a photo in its full size: with where and by what it was taken only when that is asked for.
func Original(ctx context.Context, g *propagation.Garden, id uuid.UUID, withLocation bool) (data []byte, mediaType string, err error) {
	row, err := g.Store.PhotoOriginal(ctx, id)
	if err != nil {
		return nil, "", propagation.Missing(err, "This photo")
	}
	if withLocation {
		return row.Original, row.MediaType, nil
	}
	bare := intake.Bare(row.Original, row.MediaType, int(row.Orientation))
	if bare == nil {
		return nil, "", plant.Refuse("location", "what this file tells of its place cannot be taken out: ask for it with its location")
	}
	return bare, row.MediaType, nil
}

// WithoutPictures are the photos whose pictures for the screen are missing.
func WithoutPictures(ctx context.Context, g *propagation.Garden) ([]uuid.UUID, error) {
	sizes := make([]int32, len(ViewSizes))
	for i, s := range ViewSizes {
		sizes[i] = int32(s)
	}
	return g.Store.PhotosWithoutViews(ctx, sizes)
}

// MakePictures makes all pictures of a photo for the screen; it is decoded once. A photo that is gone has none to make.
func MakePictures(ctx context.Context, g *propagation.Garden, id uuid.UUID) error {
	original, err := g.Store.PhotoOriginal(ctx, id)
	if store.IsMissing(err) {
		return nil
	}
	if err != nil {
		return err
	}
	views, err := intake.Views(ctx, original.Original, int(original.Orientation), ViewSizes)
	if err != nil {
		return err
	}
	for most, view := range views {
		if err := g.Store.KeepPhotoView(ctx, sqlgen.KeepPhotoViewParams{PhotoID: id, MostPx: int32(most), Jpeg: view}); err != nil {
			return err
		}
	}
	return nil
}
