package propagation

import (
	"context"
	"crypto/sha256"
	"encoding/hex"
	"fmt"
	"time"

	"github.com/google/uuid"

	"clearjar/core/plant"
	"clearjar/propagation/intake"
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
	// Remark says what was odd about the file, in a grower's words.
	Remark string `json:"remark"`
}

// ViewSizes are the longest sides of the pictures made for the screen, in pixels.
var ViewSizes = []int{320, 1600}

func photo(p sqlgen.PhotoByIDRow) Photo {
	return Photo{p.ID, hex.EncodeToString(p.Sha256), int(p.WidthPx), int(p.HeightPx), p.TakenAt, p.TakenFrom, p.Remark}
}

// KeepPhoto keeps the original bytes of a photo, unchanged. The same photo twice is one, under its first id.
func (g *Garden) KeepPhoto(ctx context.Context, id uuid.UUID, data []byte) (Photo, error) {
	if err := checkID("id", id); err != nil {
		return Photo{}, err
	}
	sum := sha256.Sum256(data)
	if had, err := g.store.PhotoBySum(ctx, sum[:]); err == nil { // no need to look at it again
		return photo(sqlgen.PhotoByIDRow(had)), g.namePhoto(ctx, id, had.ID)
	} else if !store.IsMissing(err) {
		return Photo{}, err
	}
	pic, views, err := intake.Take(ctx, data, g.zone, ViewSizes)
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
		row.TakenAt, row.TakenFrom, row.Remark = g.now(), "upload", "The file does not say when it was taken: the time of upload stands in."
	case pic.Taken.After(g.now().Add(slack)):
		row.TakenAt, row.TakenFrom = g.now(), "upload"
		row.Remark = fmt.Sprintf("The file says %s, which lies in the future: the time of upload stands in. Check the camera's clock.", pic.Taken.Format("2 Jan 2006"))
	}
	err = g.In(ctx, func(g *Garden) error {
		added, err := g.store.AddPhoto(ctx, row)
		if err != nil || added == 0 {
			return err
		}
		for most, view := range views {
			if err := g.store.KeepPhotoView(ctx, sqlgen.KeepPhotoViewParams{PhotoID: id, MostPx: int32(most), Jpeg: view}); err != nil {
				return err
			}
		}
		return nil
	})
	if err != nil {
		return Photo{}, err
	}
	kept, err := g.store.PhotoBySum(ctx, row.Sha256)
	if store.IsMissing(err) {
		return Photo{}, ConflictError{Reason: "This id already names another photo. Nothing was kept."}
	}
	if err != nil {
		return Photo{}, err
	}
	return photo(sqlgen.PhotoByIDRow(kept)), g.namePhoto(ctx, id, kept.ID)
}

// namePhoto notes a second id of a photo that is here already: a look that is on its way may name it.
func (g *Garden) namePhoto(ctx context.Context, id, kept uuid.UUID) error {
	if id == kept {
		return nil
	}
	return g.store.NamePhoto(ctx, sqlgen.NamePhotoParams{ID: id, PhotoID: kept})
}

// photoNamed is the id a photo was kept under, for any id it was sent under.
func (g *Garden) photoNamed(ctx context.Context, id *uuid.UUID) (*uuid.UUID, error) {
	if id == nil {
		return nil, nil
	}
	kept, err := g.store.PhotoNamed(ctx, *id)
	if store.IsMissing(err) {
		return id, nil
	}
	return &kept, err
}

// PhotoView gives an upright JPEG for the screen, made once and kept. most is one of [ViewSizes].
func (g *Garden) PhotoView(ctx context.Context, id uuid.UUID, most int) ([]byte, error) {
	known := false
	for _, s := range ViewSizes {
		known = known || s == most
	}
	if !known {
		return nil, plant.Refuse("size", "one of %v", ViewSizes)
	}
	params := sqlgen.PhotoViewParams{PhotoID: id, MostPx: int32(most)}
	if have, err := g.store.PhotoView(ctx, params); err == nil || !store.IsMissing(err) {
		return have, err
	}
	if err := g.MakePictures(ctx, id); err != nil {
		return nil, err
	}
	view, err := g.store.PhotoView(ctx, params)
	return view, missing(err, "This photo")
}

// PhotoOriginal gives a photo in its full size: with where and by what it was taken only when that is asked for.
func (g *Garden) PhotoOriginal(ctx context.Context, id uuid.UUID, withLocation bool) (data []byte, mediaType string, err error) {
	row, err := g.store.PhotoOriginal(ctx, id)
	if err != nil {
		return nil, "", missing(err, "This photo")
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
