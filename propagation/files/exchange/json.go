package exchange

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"strings"

	"clearjar/core/plant"
)

type envelope[T any] struct {
	Format  string `json:"format"`
	Version int    `json:"version"`
	Records []T    `json:"records"`
}

var formats = map[string]string{StemMaps: "clearjar/stem-maps", CutPlans: "clearjar/cut-plans"}

// WriteJSON writes records of stems or plans.
func WriteJSON[T StemRecord | PlanRecord](what string, records []T) ([]byte, error) {
	out, err := json.MarshalIndent(envelope[T]{formats[what], Version, records}, "", "  ")
	return append(out, '\n'), err
}

// readJSON reads the envelope, then each record by itself, so that one bad record does not hide the others.
func readJSON[T any](what string, data []byte) (records []T, lines []int, wrong Bad, err error) {
	var e envelope[json.RawMessage]
	if err := json.Unmarshal(bytes.TrimPrefix(data, []byte("\xef\xbb\xbf")), &e); err != nil {
		return nil, nil, Bad{}, plant.Refuse("file", "is not JSON: %s", plainly(err))
	}
	if e.Format != formats[what] {
		return nil, nil, Bad{}, plant.Refuse("file", "format is %q; this reads %q", e.Format, formats[what])
	}
	if e.Version < 1 || e.Version > Version {
		return nil, nil, Bad{}, plant.Refuse("file", "version %d; this reads version 1 to %d", e.Version, Version)
	}
	if len(e.Records) > MostRecords {
		return nil, nil, Bad{}, plant.Refuse("file", "%d records: at most %d at once", len(e.Records), MostRecords)
	}
	for i, raw := range e.Records {
		var r T
		d := json.NewDecoder(bytes.NewReader(raw))
		d.DisallowUnknownFields()
		if err := d.Decode(&r); err != nil {
			wrong.add(i+1, "record", "%s", plainly(err))
			continue
		}
		records, lines = append(records, r), append(lines, i+1)
	}
	return records, lines, wrong, nil
}

// ReadStems reads stem maps. The error is for a file that cannot be read at all.
func ReadStems(format string, data []byte) ([]StemRecord, Bad, error) {
	if err := checkFile(format, data); err != nil {
		return nil, Bad{}, err
	}
	var records []StemRecord
	var wrong Bad
	var err error
	if format == CSV {
		records, wrong, err = stemsFromCSV(data)
	} else {
		var lines []int
		if records, lines, wrong, err = readJSON[StemRecord](StemMaps, data); err == nil {
			for i := range records {
				records[i].Line = lines[i]
			}
		}
	}
	if err != nil {
		return nil, Bad{}, err
	}
	good, seen := []StemRecord{}, map[string]int{}
	for _, r := range records {
		name := r.Mother + "-" + r.Stem
		if first, ok := seen[name]; ok {
			wrong.add(r.Line, "stem", "%s was in this file already, at %d", name, first)
			continue
		}
		seen[name] = r.Line
		if wrong.check(r) {
			good = append(good, r)
		}
	}
	return good, wrong.sorted(), nil
}

// ReadPlans reads cut plans. The error is for a file that cannot be read at all.
func ReadPlans(format string, data []byte) ([]PlanRecord, Bad, error) {
	if err := checkFile(format, data); err != nil {
		return nil, Bad{}, err
	}
	if format == CSV {
		records, wrong, err := plansFromCSV(data)
		return records, wrong.sorted(), err
	}
	records, lines, wrong, err := readJSON[PlanRecord](CutPlans, data)
	if err != nil {
		return nil, Bad{}, err
	}
	good := []PlanRecord{}
	for i, r := range records {
		r.Line = lines[i]
		switch {
		case r.Mother == "":
			wrong.add(r.Line, "mother", "the mother's code is missing")
		case len(r.Stems) == 0:
			wrong.add(r.Line, "stems", "a plan needs a stem")
		default:
			good = append(good, r)
		}
	}
	return good, wrong.sorted(), nil
}

// plainly says what is wrong with JSON without speaking of the program that reads it.
func plainly(err error) string {
	var kind *json.UnmarshalTypeError
	var syntax *json.SyntaxError
	switch text := err.Error(); {
	case errors.As(err, &kind):
		what := map[string]string{"string": "text", "float64": "a number", "int": "a whole number", "bool": "true or false"}[kind.Type.String()]
		if what == "" {
			what = "something else"
		}
		return fmt.Sprintf("%s should be %s, not %s", kind.Field, what, kind.Value)
	case errors.As(err, &syntax):
		return fmt.Sprintf("it breaks off or is miswritten at byte %d", syntax.Offset)
	case strings.Contains(text, "unknown field"):
		return "the field " + text[strings.Index(text, `"`):] + " is not known"
	case strings.Contains(text, "EOF"):
		return "it breaks off"
	case strings.Contains(text, "parsing time"):
		return "a date is written like 2026-05-01T10:00:00Z"
	}
	return "it cannot be read"
}

func checkFile(format string, data []byte) error {
	switch {
	case format != CSV && format != JSON:
		return plant.Refuse("format", "json or csv")
	case len(data) > MostBytes:
		return plant.Refuse("file", "larger than %d MB", MostBytes>>20)
	case len(bytes.TrimSpace(data)) == 0:
		return plant.Refuse("file", "the file is empty")
	}
	return nil
}

// Name is the file name of an export.
func Name(what, format string) string { return fmt.Sprintf("clearjar-%s.%s", what, format) }
