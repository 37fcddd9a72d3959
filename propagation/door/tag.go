package door

import (
	"context"
	"crypto/sha256"
	"fmt"
	"strings"

	"github.com/google/uuid"

	"clearjar/core/plant"
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

// Lengths of a tag.
const leastTag, mostTag = 3, 8

// tagFor is the tag a vessel has already, when nothing else has it, else a free one.
func (g *Entry) tagFor(ctx context.Context, v NewVessel) (string, error) {
	if v.Tag == "" {
		return g.freeTag(ctx, v.ID)
	}
	if len(v.Tag) < leastTag || len(v.Tag) > mostTag || strings.Trim(v.Tag, tagLetters) != "" {
		return "", plant.Refuse("tag", "a tag has %d to %d of the letters %s", leastTag, mostTag, tagLetters)
	}
	taken, err := g.Store.TagTaken(ctx, v.Tag)
	if err != nil {
		return "", err
	}
	if taken {
		return "", plant.Refuse("tag", "the tag %s is on something else already", v.Tag)
	}
	return v.Tag, nil
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
