package files

import (
	"context"
	"fmt"
	"strings"
	"time"

	ics "github.com/arran4/golang-ical"
	"github.com/google/uuid"

	"clearjar/core/care"
	"clearjar/core/plant"
	"clearjar/propagation"
	"clearjar/propagation/show"
)

// calendarDays is how far ahead the calendar tells what is due.
const calendarDays = 28

// Calendar is what is due over the next weeks as iCalendar (RFC 5545): one event for each day with a round. Instants are
// written in UTC, so that no clock that is put forward or back moves a round from its hour.
func Calendar(ctx context.Context, g *propagation.Garden) ([]byte, error) {
	days, err := show.RoundsAhead(ctx, g, calendarDays)
	if err != nil {
		return nil, err
	}
	numbers, err := g.Numbers(ctx)
	if err != nil {
		return nil, err
	}
	household, err := g.Store.HouseholdNow(ctx)
	if err != nil {
		return nil, propagation.Missing(err, "This household")
	}
	cal := ics.NewCalendarFor("Clear Jar")
	cal.SetProductId("-//Clear Jar//Rounds//EN")
	cal.SetMethod(ics.MethodPublish)
	cal.SetName("Clear Jar: rounds")
	cal.SetRefreshInterval("PT6H")
	// A calendar has at least one component, also when nothing is due.
	zone := cal.AddTimezone("Etc/UTC")
	standard := zone.AddStandard()
	standard.AddProperty(ics.ComponentPropertyDtStart, "19700101T000000")
	standard.AddProperty(ics.ComponentProperty(ics.PropertyTzoffsetfrom), "+0000")
	standard.AddProperty(ics.ComponentProperty(ics.PropertyTzoffsetto), "+0000")
	for _, day := range days {
		e := cal.AddEvent(uuid.NewSHA1(household.ID, []byte("round "+day.At.Format(time.DateOnly))).String() + "@clear-jar.invalid")
		e.SetDtStampTime(g.Now())
		start := care.RoundAt(numbers, day.At) // that of today stays where it was, also later in the day
		e.SetStartAt(start)
		e.SetEndAt(start.Add(care.RoundLasts(numbers, len(day.Stops))))
		e.SetSummary("Round: " + stops(day))
		e.SetDescription(told(day))
		e.SetTimeTransparency(ics.TransparencyTransparent)
	}
	return []byte(cal.Serialize(ics.WithNewLineWindows)), nil
}

// stops counts the vessels and the pots of a day.
func stops(day show.RoundDay) string {
	pots := 0
	for _, s := range day.Stops {
		if s.Pot {
			pots++
		}
	}
	says := []string{}
	if n := len(day.Stops) - pots; n > 0 {
		says = append(says, plant.Counted(n, "vessel", "vessels"))
	}
	if pots > 0 {
		says = append(says, plant.Counted(pots, "pot", "pots"))
	}
	return plant.Listed(says)
}

// told lists what is due on a day, vessel by vessel under its shelf.
func told(day show.RoundDay) string {
	var b strings.Builder
	place := ""
	for _, s := range day.Stops {
		if s.Place != place {
			place = s.Place
			fmt.Fprintf(&b, "%s\n", place)
		}
		labels := make([]string, len(s.Tasks))
		for i, t := range s.Tasks {
			labels[i] = t.Label
		}
		fmt.Fprintf(&b, "- %s: %s\n", s.Vessel, strings.Join(labels, ", "))
	}
	return strings.TrimSuffix(b.String(), "\n")
}
