package plant

import (
	"errors"
	"fmt"
	"strings"
)

// FieldError is a value that cannot be taken: which field, which limit, and a
// sentence a grower understands.
type FieldError struct {
	Field  string `json:"field"`
	Reason string `json:"reason"`
}

func (e FieldError) Error() string { return e.Field + ": " + e.Reason }

// Refuse makes a [FieldError].
func Refuse(field, format string, args ...any) error {
	return FieldError{Field: field, Reason: fmt.Sprintf(format, args...)}
}

// Refusals collects every [FieldError] inside err, joined or wrapped, in order.
// It is empty when err holds none.
func Refusals(err error) []FieldError {
	var one FieldError
	switch e := err.(type) {
	case nil:
		return nil
	case FieldError:
		return []FieldError{e}
	case interface{ Unwrap() []error }:
		var all []FieldError
		for _, inner := range e.Unwrap() {
			all = append(all, Refusals(inner)...)
		}
		return all
	}
	if errors.As(err, &one) {
		return []FieldError{one}
	}
	return nil
}

// CleanName trims a name and refuses an empty, over-long or unprintable one.
func CleanName(field, name string, most int) (string, error) {
	name = strings.TrimSpace(name)
	switch {
	case name == "":
		return "", Refuse(field, "write something here")
	case len([]rune(name)) > most:
		return "", Refuse(field, "at most %d characters", most)
	case strings.ContainsFunc(name, func(r rune) bool { return r < ' ' || r == 0x7f }):
		return "", Refuse(field, "no line breaks or control characters")
	}
	return name, nil
}
