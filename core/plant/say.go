package plant

import (
	"fmt"
	"strings"
	"time"
)

// Counted says how many there are: "1 root", "3 roots", "no roots".
func Counted(n int, one, many string) string {
	switch n {
	case 0:
		return "no " + many
	case 1:
		return "1 " + one
	}
	return fmt.Sprintf("%d %s", n, many)
}

// DaysLong says a number of days: "1 day", "3 days", "0 days".
func DaysLong(n int) string {
	if n == 0 {
		return "0 days"
	}
	return Counted(n, "day", "days")
}

// Ago says how long ago a day was: "today", "yesterday", "3 days ago".
func Ago(on, today time.Time) string {
	switch n := Days(on, today); n {
	case 0:
		return "today"
	case 1:
		return "yesterday"
	case -1:
		return "tomorrow"
	default:
		if n < 0 {
			return fmt.Sprintf("in %d days", -n)
		}
		return fmt.Sprintf("%d days ago", n)
	}
}

// Date says a day; the year only when it is not that of today.
func Date(on, today time.Time) string {
	if on.Year() == today.Year() {
		return on.Format("2 Jan")
	}
	return on.Format("2 Jan 2006")
}

// SpanText says nodes first to last: "3" or "3-4".
func SpanText(first, last int) string {
	if first == last {
		return fmt.Sprint(first)
	}
	return fmt.Sprintf("%d-%d", first, last)
}

// Listed joins words as a sentence does: "a", "a and b", "a, b and c".
func Listed(words []string) string {
	switch len(words) {
	case 0:
		return ""
	case 1:
		return words[0]
	}
	return strings.Join(words[:len(words)-1], ", ") + " and " + words[len(words)-1]
}

// Numbered joins numbers as a sentence does.
func Numbered(list []int) string {
	words := make([]string, len(list))
	for i, n := range list {
		words[i] = fmt.Sprint(n)
	}
	return Listed(words)
}

// Upper makes the first letter of a sentence large.
func Upper(s string) string { return first(s, strings.ToUpper) }

// Lower makes the first letter of a sentence small.
func Lower(s string) string { return first(s, strings.ToLower) }

func first(s string, change func(string) string) string {
	if s == "" {
		return s
	}
	return change(s[:1]) + s[1:]
}

// Printable puts a mark in place of what the font cannot draw: it has no character beyond the basic plane.
func Printable(text string) string {
	return strings.Map(func(r rune) rune {
		switch {
		case r == '\u200d' || r == '\u200c' || (r >= 0xfe00 && r <= 0xfe0f):
			return -1
		case r > 0xffff:
			return '\u25a1'
		}
		return r
	}, text)
}
