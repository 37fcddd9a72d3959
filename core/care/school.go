package care

import (
	"clearjar/core/number"
	"clearjar/core/plant"
)

// About is what a school of care is about.
type About string

// What growers hold different schools of.
const (
	OfWater   About = "water"
	OfAir     About = "air"
	OfLooking About = "look"
)

// Abouts lists what growers hold different schools of.
func Abouts() []About { return []About{OfWater, OfAir, OfLooking} }

// SchoolKey names a school of care.
type SchoolKey string

// SchoolRow is one way growers care, with what differs between them.
type SchoolRow struct {
	About About     `json:"about" enum:"water,air,look"`
	Key   SchoolKey `json:"key"`
	Label string    `json:"label"`
	Why   string    `json:"why"`
	// From is how many days after it was done last it is due, Most after how many it is late; 0 for never.
	From plant.Number `json:"from"`
	Most plant.Number `json:"most"`
	// TopUp is how many days pass between toppings up; 0 where the water is changed instead.
	TopUp plant.Number `json:"top_up"`
	// ByPiece: only where the pieces want it, or the medium says how often.
	ByPiece bool        `json:"by_piece"`
	Basis   plant.Basis `json:"basis"`
}

func days(key, label string, value float64, b plant.Basis) plant.Number {
	return number.Define(plant.Number{Key: "care." + key, Label: label, Value: value, Low: 0, High: 120, Unit: "days", Basis: b})
}

var never plant.Number

var schools = []SchoolRow{
	{
		OfWater, "every_2", "every second day", "It never fouls.",
		days("water.every_2.from", "Water changed every second day: due after", 2, plant.Practice), days("water.every_2.most", "Water changed every second day: late after", 2, plant.Practice), never, false, plant.Practice,
	},
	{
		OfWater, "every_3_4", "every 3 to 4 days", "Fresh, with less work.",
		days("water.every_3_4.from", "Water changed every 3 to 4 days: due after", 3, plant.Practice), days("water.every_3_4.most", "Water changed every 3 to 4 days: late after", 4, plant.Practice), never, false, plant.Practice,
	},
	{
		OfWater, "every_7_14", "every 7 to 14 days, or when it looks dirty", "Roots are let be.",
		days("water.every_7_14.from", "Water changed every 7 to 14 days: due after", 7, plant.Practice), days("water.every_7_14.most", "Water changed every 7 to 14 days: late after", 14, plant.Practice), never, false, plant.Practice,
	},
	{
		OfWater, "top_up", "never, only topped up", "What roots gave off stays in it.", never, never,
		days("water.top_up.every", "Water only topped up: every", 7, plant.Assumed("growers do not say how often")), false, plant.Practice,
	},
	{
		OfAir, "by_piece", "as the pieces want it", "Sealed moss stays shut; glass is lifted every couple of days.",
		days("air.by_piece.from", "A shut cover that is lifted: due after", 2, plant.Practice), days("air.by_piece.most", "A shut cover that is lifted: late after", 3, plant.Practice), never, true, plant.Practice,
	},
	{
		OfAir, "every_2", "five minutes every couple of days", "No mould under a tight lid.",
		days("air.every_2.from", "Lids lifted every couple of days: due after", 2, plant.Practice), days("air.every_2.most", "Lids lifted every couple of days: late after", 3, plant.Practice), never, false, plant.Practice,
	},
	{
		OfAir, "vents", "holes in the lid", "A straw-size hole or a few pinholes vent by themselves; a lid without any is lifted weekly.",
		days("air.vents.from", "A lid without holes, where lids have holes: due after", 7, plant.Assumed("until holes are made")), days("air.vents.most", "A lid without holes, where lids have holes: late after", 7, plant.Assumed("until holes are made")), never, false, plant.Practice,
	},
	{OfAir, "shut", "leave shut", "Humid until they root.", never, never, never, false, plant.Practice},
	{OfLooking, "by_medium", "by the medium", "Water every few days, what is under a lid weekly.", never, never, never, true, plant.Practice},
	{
		OfLooking, "daily", "every day", "Rot is found early.",
		days("look.daily.from", "A glance every day: due after", 1, plant.Practice), days("look.daily.most", "A glance every day: late after", 1, plant.Practice), never, false, plant.Practice,
	},
	{
		OfLooking, "weekly", "once a week", "A walk on one day of the week.",
		days("look.weekly.from", "A glance once a week: due after", 7, plant.Practice), days("look.weekly.most", "A glance once a week: late after", 7, plant.Practice), never, false, plant.Practice,
	},
}

// Schools is the table of schools of care; the first of each about that [Usual] names is gone by until another is chosen.
func Schools() []SchoolRow { return append([]SchoolRow{}, schools...) }

// SchoolNamed finds a school of care.
func SchoolNamed(about About, key SchoolKey) (SchoolRow, bool) {
	for _, s := range schools {
		if s.About == about && s.Key == key {
			return s, true
		}
	}
	return SchoolRow{}, false
}

// Chosen are the schools gone by for a vessel, one of each about.
type Chosen struct {
	Water SchoolKey `json:"water,omitempty"`
	Air   SchoolKey `json:"air,omitempty"`
	Look  SchoolKey `json:"look,omitempty"`
}

// Usual are the schools gone by until others are chosen.
func Usual() Chosen { return Chosen{Water: "every_7_14", Air: "by_piece", Look: "by_medium"} }

// With is the choice with one of them changed; what is not known is refused.
func (c Chosen) With(about About, key SchoolKey) (Chosen, error) {
	if _, ok := SchoolNamed(about, key); !ok {
		return c, plant.Refuse("school", "%q is not a school of %s", key, about)
	}
	switch about {
	case OfWater:
		c.Water = key
	case OfAir:
		c.Air = key
	case OfLooking:
		c.Look = key
	}
	return c, nil
}

// Of is the key chosen for an about.
func (c Chosen) Of(about About) SchoolKey {
	return map[About]SchoolKey{OfWater: c.Water, OfAir: c.Air, OfLooking: c.Look}[about]
}

// Check refuses schools that are not known, naming every one.
func (c Chosen) Check() error {
	for _, a := range Abouts() {
		if _, err := c.With(a, c.Of(a)); err != nil {
			return plant.Refuse(string(a), "%q is not a school of %s", c.Of(a), a)
		}
	}
	return nil
}

var (
	dryWater   = days("water.dry", "Water of succulent pieces changed every", 2, plant.Practice)
	dryTimes   = times("feel_dry_times", "Succulents are felt less often by", 2, plant.Assumed("watered when about 80 % of the mix is dry"))
	darkTimes  = times("feel_dark_times", "Drying and rooting take longer in the dark half by", 1.5, plant.Assumed("as all times in the dark half"))
	hotTimes   = times("feel_hot_times", "Dry faster in heat by", 1.6, plant.Assumed("to be replaced by your records"))
	hotFrom    = number.Define(plant.Number{Key: "care.hot_from", Label: "Heat is from", Value: 28, Low: 15, High: 45, Unit: "degrees C", Basis: plant.Assumed("growers say: in heat")})
	droopHolds = days("droop_holds", "A droop seen on a round holds hardening off for", 4, plant.Assumed("until the leaves are firm again"))
	evening    = number.Define(plant.Number{Key: "care.evening", Label: "The second misting is due from", Value: 15, Low: 12, High: 22, Unit: "o'clock", Basis: plant.Assumed("morning and evening")})
)

func times(key, label string, value float64, b plant.Basis) plant.Number {
	return number.Define(plant.Number{Key: "care." + key, Label: label, Value: value, Low: 1, High: 5, Unit: "times", Basis: b})
}

// Numbers lists the numbers of care, for the screen.
func Numbers() []plant.Number {
	out := []plant.Number{dryWater, dryTimes, darkTimes, hotTimes, hotFrom, droopHolds, evening, roundHour, vesselTakes}
	for _, s := range schools {
		for _, n := range []plant.Number{s.From, s.Most, s.TopUp} {
			if n.Key != "" {
				out = append(out, n)
			}
		}
	}
	for _, m := range plant.Media() {
		out = append(out, m.GlanceEvery, m.FeelCovered, m.FeelOpen)
	}
	for _, v := range plant.VesselSorts() {
		for _, h := range v.Harden {
			out = append(out, h.Days)
		}
	}
	return out
}
