package door

import (
	"context"
	"crypto/sha256"
	"fmt"

	"github.com/google/uuid"

	"clearjar/propagation"
)

// freeTag is a short tag that nothing has yet.
func (g *Entry) freeTag(ctx context.Context, id uuid.UUID) (string, error) {
	for try := range 50 {
		tag := ShortTag(id, try)
		taken, err := g.Store.TagTaken(ctx, tag)
		if err != nil || !taken {
			return tag, err
		}
	}
	return "", propagation.ConflictError{Reason: "No free tag was found. Nothing was kept; try again."}
}

// tagLetters has no letter or digit that is read for another.
const tagLetters = "23456789ABCDEFGHJKMNPQRTUVWXY"

// ShortTag is the short id a tag shows, drawn from the id of the thing; try > 0 gives another.
func ShortTag(id uuid.UUID, try int) string {
	sum := sha256.Sum256(fmt.Appendf(nil, "%s/%d", id, try))
	tag := make([]byte, 5)
	for i := range tag {
		tag[i] = tagLetters[int(sum[i])%len(tagLetters)]
	}
	return string(tag)
}
