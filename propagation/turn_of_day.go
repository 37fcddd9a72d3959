package propagation

import (
	"context"

	"github.com/google/uuid"

	"clearjar/propagation/intake"
	"clearjar/store"
	"clearjar/store/sqlgen"
)

// TurnOfDay judges everything that stands for the new day and issues its forecasts, so that the first look at the
// shelf waits for nothing. It gives the photos whose pictures are missing.
func (g *Garden) TurnOfDay(ctx context.Context) ([]uuid.UUID, error) {
	if _, err := g.concluded(ctx, only{standing: true}); err != nil {
		return nil, err
	}
	sizes := make([]int32, len(ViewSizes))
	for i, s := range ViewSizes {
		sizes[i] = int32(s)
	}
	return g.store.PhotosWithoutViews(ctx, sizes)
}

// MakePictures makes all pictures of a photo for the screen; it is decoded once. A photo that is gone has none to make.
func (g *Garden) MakePictures(ctx context.Context, id uuid.UUID) error {
	original, err := g.store.PhotoOriginal(ctx, id)
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
		if err := g.store.KeepPhotoView(ctx, sqlgen.KeepPhotoViewParams{PhotoID: id, MostPx: int32(most), Jpeg: view}); err != nil {
			return err
		}
	}
	return nil
}
