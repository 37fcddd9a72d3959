package readiness

import (
	"fmt"
	"strings"

	"clearjar/core/plant"
	"clearjar/core/scenario"
)

// asksBriefly is what is asked for, in a few words.
var asksBriefly = map[Criterion]string{
	Longest: "how long are its roots?", Roots: "how many roots?", SideRoots: "do side roots show?", NodesRooted: "which nodes have rooted?", Tug: "does a light tug hold?",
	Shoot: "does a shoot show?", RootHealth: "squeeze a dark root", Body: "still firm?", MediumState: "see to the water or moss",
}

// takes is how long a look takes, in a few words.
func takes(seconds float64) string {
	switch {
	case seconds <= 0:
		return ""
	case seconds < 60:
		return fmt.Sprintf("; %.0f seconds", seconds)
	}
	return fmt.Sprintf("; %s", plant.Counted(int(seconds/60+0.5), "minute", "minutes"))
}

// brief says in a few words what it comes to.
func (d Decision) brief(q *Question) string {
	s := d.s
	switch d.Verdict {
	case plant.Rescue:
		return d.briefRot()
	case plant.Overdue:
		return d.briefOverdue()
	case plant.Ready:
		says := "all that is wanted was seen"
		if d.Likely != nil {
			says = plant.Lower(strings.TrimSuffix(chanceSaid(*d.Likely), "."))
		}
		if d.Act == PartYoung {
			return "part the " + s.kind.YoungMany
		}
		if d.Act == Uncover {
			says = "uncover it: " + says
		}
		return says
	case plant.LookAt:
		if d.Ground == NotSet {
			return "cut, not set yet"
		}
		return d.briefLook(q)
	case plant.Wait:
		if d.Ground == YoungGrow {
			return plant.Counted(s.young.value, s.kind.Young, s.kind.YoungMany) + " so far"
		}
		return d.briefWait()
	case plant.GrowingOn:
		if d.Ground == Uncovered {
			return "uncovered; it stays in its mix"
		}
		return fmt.Sprintf("potted %s ago", plant.DaysLong(d.AgeDays))
	case plant.Done:
		return "established"
	}
	if why := whyLost[s.Outcome.Why]; why != "" {
		return "lost: " + why
	}
	return "lost"
}

func (d Decision) briefRot() string {
	s := d.s
	says := "roots mushy"
	switch {
	case s.rotMM > 0:
		says = fmt.Sprintf("rot %.0f mm", s.rotMM)
	case s.stem.value == "soft":
		says = s.kind.Body + " soft"
	}
	if len(d.SoundNodes) > 0 {
		return fmt.Sprintf("%s; %s %s sound", says, map[bool]string{true: s.kind.Point, false: s.kind.Points}[len(d.SoundNodes) == 1], plant.Numbered(d.SoundNodes))
	}
	return says + ": cut back to clean tissue"
}

func (d Decision) briefOverdue() string {
	s := d.s
	switch {
	case s.crowded():
		return map[string]string{"coiling": "roots coil", "filling": "roots fill the vessel"}[s.crowding.value] + "; each week costs"
	case d.Ground == ReadyLongSince:
		return "ready since " + plant.Date(d.ReadySince, s.Today)
	case !s.medium.Hidden && s.inMedium > int(s.of(WaterMost)):
		return fmt.Sprintf("%d days in water", s.inMedium)
	}
	return "roots longer than this school wants"
}

func (d Decision) briefLook(q *Question) string {
	says := asksBriefly[d.Ask]
	if d.Ask == LeafOpen {
		says = map[bool]string{true: "leaf open?", false: "a " + d.s.kind.Comes + "?"}[d.s.kind.Comes == "shoot"]
	}
	switch d.By {
	case "":
		return says
	case scenario.AskPhoto:
		says = "a photo of its roots"
	case scenario.AskMeasure:
		says = "measure its longest root"
	}
	if d.m != nil && q != nil {
		says += takes(d.m.asked.Seconds)
	}
	return says
}

func (d Decision) briefWait() string {
	s := d.s
	switch {
	case d.LeaveUntil != nil:
		return "do not open until " + plant.Date(*d.LeaveUntil, s.Today)
	case d.Ground == NotPromising || d.Ground == PastUsual:
		return "nothing yet: not promising"
	case d.Comes != nil && d.Comes.Middle != nil && d.Comes.Middle.After(s.Today):
		return "ready about " + plant.Date(*d.Comes.Middle, s.Today)
	case d.NextLook != nil:
		return "look again " + plant.Date(*d.NextLook, s.Today)
	}
	return "not yet"
}
