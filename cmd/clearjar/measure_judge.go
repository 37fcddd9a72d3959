package main

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"text/tabwriter"

	"github.com/spf13/cobra"

	"clearjar/core/rootphoto/exam"
	"clearjar/core/rootphoto/find"
	"clearjar/core/rootphoto/likely"
	"clearjar/core/rootphoto/measure"
	"clearjar/core/rootphoto/truth"
	"clearjar/propagation/photo/intake"
)

// casesOf are the photos with truth files of folders, by their names.
func casesOf(ctx context.Context, folders []string) ([]exam.Case, error) {
	out := []exam.Case{}
	for _, folder := range folders {
		files, err := filepath.Glob(filepath.Join(folder, "*.json"))
		if err != nil {
			return nil, err
		}
		slices.Sort(files)
		for _, name := range files {
			raw, err := os.ReadFile(name) //nolint:gosec // a file its user names
			if err != nil {
				return nil, err
			}
			t, err := truth.Read(raw)
			if err != nil {
				return nil, fmt.Errorf("%s: %w", name, err)
			}
			data, err := readBounded(strings.TrimSuffix(name, ".json") + ".jpg")
			if err != nil {
				return nil, err
			}
			p, img, done, err := intake.Open(ctx, data)
			done()
			if err != nil {
				return nil, err
			}
			out = append(out, exam.Case{Truth: t, Picture: img, Focal35: p.Focal35})
		}
	}
	if len(out) == 0 {
		return nil, errors.New("there are no truth files (*.json beside *.jpg) in these folders")
	}
	return out, nil
}

func progressTo(cmd *cobra.Command) func(string) {
	return func(what string) { fmt.Fprintln(cmd.ErrOrStderr(), what) }
}

func trainMeasuring(cmd *cobra.Command, f measureFlags) error {
	// The first table is of the first folder: the photos one measures oneself by.
	mine, err := casesOf(cmd.Context(), f.train[:1])
	if err != nil {
		return err
	}
	cases := slices.Clone(mine)
	for _, folder := range f.train[1:] {
		more, err := casesOf(cmd.Context(), []string{folder})
		if err != nil {
			return err
		}
		cases = append(cases, more...)
	}
	whole, judgedBy, err := exam.LearnFrom(cases, folds, progressTo(cmd))
	if err != nil {
		return err
	}
	if err := writeTables(whole, f.into); err != nil {
		return err
	}
	photos := []exam.Photo{}
	for i, c := range cases {
		photos = append(photos, c.Look(judgedBy(i), i))
		photos[i].Forget()
	}
	out := cmd.OutOrStdout()
	fmt.Fprintf(out, "The %d photos of %s, each measured by tables learned without it and its series:\n", len(mine), filepath.Base(f.train[0]))
	if err := sayTable(out, exam.Table(photos[:len(mine)])); err != nil {
		return err
	}
	fmt.Fprintf(out, "\nAll %d photos, in the same way:\n", len(photos))
	return sayTable(out, exam.Table(photos))
}

// writeTables writes what was learned into the folders of the packages that ship it.
func writeTables(t *measure.Tables, into string) error {
	for name, write := range map[string]func(io.Writer) error{
		"likely/tables.gz": t.Likely.Write, "find/tables.gz": t.Find.Write,
		"measure/learned.json": func(w io.Writer) error {
			e := json.NewEncoder(w)
			e.SetIndent("", " ")
			return e.Encode(t.Small)
		},
	} {
		path := filepath.Join(into, filepath.FromSlash(name))
		if err := os.MkdirAll(filepath.Dir(path), 0o750); err != nil {
			return err
		}
		file, err := os.Create(path) //nolint:gosec // the folder its user names
		if err != nil {
			return err
		}
		if err := errors.Join(write(file), file.Close()); err != nil {
			return err
		}
	}
	return nil
}

// readTables reads tables that were written into a folder.
func readTables(from string) (*measure.Tables, error) {
	t := &measure.Tables{}
	one, err := os.Open(filepath.Join(from, "likely", "tables.gz")) //nolint:gosec // the folder its user names
	if err != nil {
		return nil, err
	}
	defer func() { _ = one.Close() }()
	if t.Likely, err = likely.ReadTables(one); err != nil {
		return nil, err
	}
	two, err := os.Open(filepath.Join(from, "find", "tables.gz")) //nolint:gosec // the folder its user names
	if err != nil {
		return nil, err
	}
	defer func() { _ = two.Close() }()
	if t.Find, err = find.ReadTables(two); err != nil {
		return nil, err
	}
	raw, err := os.ReadFile(filepath.Join(from, "measure", "learned.json")) //nolint:gosec // the folder its user names
	if err != nil {
		return nil, err
	}
	return t, json.Unmarshal(raw, &t.Small)
}

func judgeMeasuring(cmd *cobra.Command, f measureFlags) error {
	cases, err := casesOf(cmd.Context(), []string{f.truth})
	if err != nil {
		return err
	}
	shipped, err := f.learned()
	if err != nil {
		return err
	}
	by := func(int) *measure.Tables { return shipped }
	if f.cross != "" {
		all, err := casesOf(cmd.Context(), strings.Split(f.cross, ","))
		if err != nil {
			return err
		}
		_, judgedBy, err := exam.LearnFrom(all, folds, progressTo(cmd))
		if err != nil {
			return err
		}
		number := map[string]int{}
		for i, c := range all {
			number[c.Truth.Name] = i
		}
		by = func(i int) *measure.Tables {
			if n, ok := number[cases[i].Truth.Name]; ok {
				return judgedBy(n)
			}
			return judgedBy(0)
		}
	} else if learned := learnedFrom(shipped, cases); learned > 0 {
		fmt.Fprintf(cmd.ErrOrStderr(), "Note: the tables were learned from %d of these %d photos, so they look better than new ones would; --cross learns without each.\n", learned, len(cases))
	}
	photos := []exam.Photo{}
	for i, c := range cases {
		photos = append(photos, c.Look(by(i), i))
		photos[i].Forget()
	}
	rows := exam.Table(photos)
	if f.json {
		return json.NewEncoder(cmd.OutOrStdout()).Encode(map[string]any{"rows": rows, "photos": photos})
	}
	return sayTable(cmd.OutOrStdout(), rows)
}

func learnedFrom(t *measure.Tables, cases []exam.Case) (n int) {
	for _, c := range cases {
		if slices.Contains(t.Likely.LearnedFrom, c.Truth.Name) {
			n++
		}
	}
	return n
}

func sayTable(w io.Writer, rows []exam.Row) error {
	tw := tabwriter.NewWriter(w, 0, 4, 2, ' ', 0)
	fmt.Fprintln(tw, "mode\tfigure\tmeasured\tmust\taim\theld\tof")
	for _, r := range rows {
		sign := "at most"
		if r.Least {
			sign = "at least"
		}
		held := "yes"
		if !r.Held {
			held = "NO"
		}
		fmt.Fprintf(tw, "%s\t%s\t%.2f %s\t%s %g\t%g\t%s\t%d\n", r.Mode, r.Figure, r.Measured, r.Unit, sign, r.Must, r.Aim, held, r.Of)
	}
	return tw.Flush()
}
