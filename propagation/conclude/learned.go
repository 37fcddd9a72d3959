package conclude

import (
	"context"
	"encoding/json"
	"errors"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"

	"clearjar/core/learn"
	"clearjar/core/plant"
	"clearjar/core/readiness"
	"clearjar/propagation"
	"clearjar/store/sqlgen"
)

// LearnedKey names a group in a medium.
func LearnedKey(group string, m plant.Medium) string { return group + " in " + string(m) }

// Learned is what the grower's own records say, by group and medium, as it was made on the first look of the day.
func Learned(ctx context.Context, g *propagation.Garden) (map[string]readiness.Learned, error) {
	text, err := g.Store.LearnedOn(ctx, day(g))
	if errors.Is(err, pgx.ErrNoRows) {
		made, err := learnAnew(ctx, g)
		if err != nil {
			return nil, err
		}
		if text, err = json.Marshal(made); err != nil {
			return nil, err
		}
		if err := g.Store.KeepLearned(ctx, sqlgen.KeepLearnedParams{Day: day(g), Made: text}); err != nil {
			return nil, err
		}
		return made, nil
	}
	if err != nil {
		return nil, err
	}
	out := map[string]readiness.Learned{}
	return out, json.Unmarshal(text, &out)
}

// learnAnew learns from everything that was ever set.
func learnAnew(ctx context.Context, g *propagation.Garden) (map[string]readiness.Learned, error) {
	ids, err := g.Store.SetCuttings(ctx)
	if err != nil {
		return nil, err
	}
	records := map[string][]readiness.Record{}
	won, tried := map[string]int{}, map[string]int{}
	for len(ids) > 0 {
		n := min(len(ids), judgedAtOnce)
		lives, err := livesOf(ctx, g, ids[:n])
		if err != nil {
			return nil, err
		}
		for _, l := range lives {
			now, _ := l.SetNow()
			key := LearnedKey(l.Group.Key, now.Medium)
			if r, ok := readiness.RecordOf(readiness.Of(l.Life, g.Today(), g.Southern)); ok {
				records[key] = append(records[key], r)
			}
			if w, of, ok := l.Trial(); ok {
				won[key], tried[key] = won[key]+w, tried[key]+of
			}
		}
		ids = ids[n:]
	}
	out := map[string]readiness.Learned{}
	for key, r := range records {
		out[key] = readiness.Learn(r)
	}
	for key := range tried {
		l := out[key]
		l.Won, l.Tried = won[key], tried[key]
		out[key] = l
	}
	return out, nil
}

// withLearned gives each life what the records of its group and medium say.
func withLearned(ctx context.Context, g *propagation.Garden, lives []Lived) error {
	if len(lives) == 0 {
		return nil
	}
	all, err := Learned(ctx, g)
	if err != nil {
		return err
	}
	for i := range lives {
		now, _ := lives[i].SetNow()
		if l, ok := all[LearnedKey(lives[i].Group.Key, now.Medium)]; ok {
			lives[i].learned = &l
		}
	}
	return nil
}

// Expected is when what stands is ready, as it was kept: without weighing anything anew.
func Expected(ctx context.Context, g *propagation.Garden) (map[uuid.UUID]readiness.Kept, error) {
	rules, err := rules(ctx, g)
	if err != nil {
		return nil, err
	}
	rows, err := g.Store.Expected(ctx, rules)
	if err != nil {
		return nil, err
	}
	out := map[uuid.UUID]readiness.Kept{}
	for _, r := range rows {
		k := readiness.Kept{}
		if err := json.Unmarshal([]byte(r.Expected), &k); err != nil {
			return nil, err
		}
		out[r.ID] = k
	}
	return out, nil
}

// SistersOf is what other pieces of the same cut, set on the same day in the same medium, show of when they root.
func SistersOf(ctx context.Context, g *propagation.Garden, l Lived) ([]learn.Sister, error) {
	rows, err := g.Store.CuttingsOfCuts(ctx, []uuid.UUID{l.Row.CutID})
	if err != nil {
		return nil, err
	}
	ids := []uuid.UUID{}
	for _, r := range rows {
		if r.ID != l.Row.ID {
			ids = append(ids, r.ID)
		}
	}
	lives, err := livesOf(ctx, g, ids)
	if err != nil {
		return nil, err
	}
	out := []learn.Sister{}
	mine, set := l.SetNow()
	for _, s := range lives {
		now, ok := s.SetNow()
		if !ok || !set || now.Medium != mine.Medium || plant.Days(s.FirstSetOn(), l.FirstSetOn()) != 0 {
			continue
		}
		if told, ok := readiness.Expect(s.Evidence(g)).Sister(); ok {
			out = append(out, told)
		}
	}
	return out, nil
}
