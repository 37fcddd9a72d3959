package plant

import (
	"errors"
	"fmt"
	"strings"
	"unicode"
	"unicode/utf8"
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
	case utf8.RuneCountInString(name) > most:
		return "", Refuse(field, "at most %d characters", most)
	case strings.ContainsFunc(name, unseen):
		return "", Refuse(field, "no line breaks, control characters or characters that cannot be seen")
	case !strings.ContainsFunc(name, func(r rune) bool { return unicode.IsGraphic(r) && !unicode.IsSpace(r) && !joiner(r) }):
		return "", Refuse(field, "write something that can be read")
	}
	return name, nil
}

// CleanText trims a longer text and refuses an over-long one, and characters no text has.
func CleanText(field, text string, most int) (string, error) {
	text = strings.TrimSpace(text)
	switch {
	case utf8.RuneCountInString(text) > most:
		return "", Refuse(field, "at most %d characters", most)
	case strings.ContainsFunc(text, func(r rune) bool { return unseen(r) && r != '\n' && r != '\t' && r != '\r' }):
		return "", Refuse(field, "no control characters or characters that cannot be seen")
	}
	return text, nil
}

// joiner joins letters of some scripts and parts of pictures.
func joiner(r rune) bool { return r == '\u200c' || r == '\u200d' || (r >= 0xfe00 && r <= 0xfe0f) }

// unseen tells whether a character is a control or format character, or no character at all.
func unseen(r rune) bool {
	return r == utf8.RuneError || unicode.IsControl(r) || (unicode.Is(unicode.Cf, r) && !joiner(r)) || unicode.Is(unicode.Co, r)
}
