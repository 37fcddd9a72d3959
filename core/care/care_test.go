package care

import (
	"fmt"
	"math/rand/v2"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"clearjar/core/climate"
	"clearjar/core/number"
	"clearjar/core/plant"
)

// A zone with daylight saving, so that days of 23 and 25 hours are among those tried.
var zone = func() *time.Location {
	z, err := time.LoadLocation("Europe/Berlin")
	if err != nil {
		panic(err)
	}
	return z
}()

func pick[T any](r *rand.Rand, of []T) T { return of[r.IntN(len(of))] }

// random is a vessel as one could stand on a shelf: any kind and medium that go together, any pieces, any visits.
func random(r *rand.Rand) (Vessel, []Visit, Where, time.Time) {
	sort := pick(r, plant.VesselSorts())
	media := []plant.Medium{}
	for _, m := range plant.Media() {
		if sort.Takes(m.Medium) {
			media = append(media, m.Medium)
		}
	}
	start := time.Date(2026, time.Month(1+r.IntN(12)), 1+r.IntN(28), r.IntN(24), 0, 0, 0, zone)
	v := Vessel{Kind: sort.Kind, Medium: pick(r, media), Since: start}
	if r.IntN(2) == 0 {
		v.Cover = pick(r, sort.Covers).State
	}
	later := func(most int) *time.Time {
		if r.IntN(3) > 0 {
			return nil
		}
		t := start.AddDate(0, 0, r.IntN(most)).Add(time.Duration(r.IntN(12)) * time.Hour)
		return &t
	}
	for range 1 + r.IntN(4) {
		g := pick(r, plant.Groups())
		p := Piece{Code: fmt.Sprintf("CIS-A%d", r.IntN(20)), Group: g, Kind: pick(r, g.Kinds), CutOn: start.AddDate(0, 0, -1), SetOn: start.AddDate(0, 0, r.IntN(5)), RootedOn: later(40), ShootOn: later(40), DroopsOn: later(60)}
		if p.Kind == plant.LeafPiece {
			p.Form = plant.WholeLeaf
		}
		v.Pieces = append(v.Pieces, p)
	}
	if r.IntN(2) == 0 {
		hot := 15 + 20*r.Float64()
		v.HottestC = &hot
	}
	w := Where{Schools: Usual(), Southern: r.IntN(2) == 0}
	for range 3 {
		s := pick(r, Schools())
		w.Schools, _ = w.Schools.With(s.About, s.Key)
	}
	now := start.AddDate(0, 0, 5+r.IntN(70)).Add(time.Duration(r.IntN(24)) * time.Hour)
	visits := []Visit{}
	for range r.IntN(12) {
		at := start.Add(time.Duration(r.Float64() * float64(now.Sub(start))))
		visit := Visit{At: at}
		for range r.IntN(3) {
			if a := pick(r, plant.Acts()); a.In(v.Medium.Row(), len(sort.Covers) > 1) {
				visit.Acts = append(visit.Acts, a.Act)
			}
		}
		for range r.IntN(2) {
			if s := pick(r, plant.Signs()); s.In(v.Medium.Row()) {
				visit.Seen = append(visit.Seen, s.Sign)
			}
		}
		if r.IntN(5) == 0 {
			visit.Cover = pick(r, sort.Covers).State
		}
		visits = append(visits, visit)
	}
	return v, visits, w, now
}

func asked(d Due, act plant.Act) *CareTask {
	for i := range d.Tasks {
		if d.Tasks[i].Act == act {
			return &d.Tasks[i]
		}
	}
	return nil
}

// doing is the visit on which all that is due is done.
func doing(d Due, at time.Time) Visit {
	v := Visit{At: at}
	for _, t := range d.Tasks {
		if t.Act == plant.SetCover {
			v.Cover = t.Cover
			continue
		}
		v.Acts = append(v.Acts, t.Act)
	}
	return v
}

func TestDoingWhatIsDueClearsIt(t *testing.T) {
	for seed := range uint64(4000) {
		r := rand.New(rand.NewPCG(seed, 1))
		v, visits, w, now := random(r)
		v.Record = Sum(visits, now)
		d := On(v, now, w)
		for _, task := range d.Tasks {
			require.NotEmpty(t, task.Label)
			require.NotEmpty(t, task.Done)
			require.LessOrEqual(t, plant.Days(now, task.Since), 0, "due only from a day on that has come")
		}
		after := v
		visit := doing(d, now)
		if len(d.Tasks) > 0 {
			require.NoError(t, visit.Check(plant.Vessel{Kind: v.Kind, Medium: v.Medium}, false), "seed %d", seed)
		}
		after.Record = Sum(append(append([]Visit{}, visits...), visit), now)
		left := On(after, now, w)
		require.Empty(t, left.Tasks, "seed %d: %v in %v", seed, v.Medium, v.Kind)
		require.NotNil(t, left.Next, "seed %d", seed)
		for day := now.AddDate(0, 0, 1); plant.Days(day, *left.Next) > 0; day = day.AddDate(0, 0, 1) {
			atNoon := time.Date(day.Year(), day.Month(), day.Day(), 12, 0, 0, 0, zone)
			if quiet(after, day) {
				require.Empty(t, On(after, atNoon, w).Tasks, "seed %d: nothing before %s, on %s", seed, left.Next, day)
			}
		}
	}
}

// quiet tells whether nothing changes by itself on a day: no piece roots, shoots, comes or goes on it.
func quiet(v Vessel, day time.Time) bool {
	for _, p := range v.Pieces {
		for _, t := range []*time.Time{&p.SetOn, p.RootedOn, p.ShootOn, p.DroopsOn} {
			if t != nil && plant.Days(*t, day) <= 60 && plant.Days(*t, day) >= -60 && t.After(v.Record.Visited) {
				return false
			}
		}
	}
	return true
}

func TestOrderOfWhatWasNotedDoesNotMatter(t *testing.T) {
	for seed := range uint64(2000) {
		r := rand.New(rand.NewPCG(seed, 2))
		v, visits, w, now := random(r)
		v.Record = Sum(visits, now)
		want := On(v, now, w)
		shuffled := append([]Visit{}, visits...)
		r.Shuffle(len(shuffled), func(i, j int) { shuffled[i], shuffled[j] = shuffled[j], shuffled[i] })
		v.Record = Sum(shuffled, now)
		require.Equal(t, want, On(v, now, w), "seed %d", seed)
	}
}

// No vessel is silent for longer than its school allows: without any visit everything that comes round is asked for,
// at the latest when the school calls it late.
func TestNoVesselIsSilentForLongerThanItsSchoolAllows(t *testing.T) {
	for seed := range uint64(1500) {
		r := rand.New(rand.NewPCG(seed, 3))
		v, visits, w, now := random(r)
		v.Record = Sum(visits, now)
		look, _ := SchoolNamed(OfLooking, w.Schools.Look)
		silent := look.From.Value
		if look.ByPiece {
			silent = v.Medium.Row().GlanceEvery.Value
		}
		water, _ := SchoolNamed(OfWater, w.Schools.Water)
		for n := range 40 {
			day := now.AddDate(0, 0, n)
			d := On(v, day, w)
			if plant.Days(v.Record.Visited, day) >= int(silent) && plant.Days(v.Since, day) >= int(silent)+5 {
				require.NotEmpty(t, d.Tasks, "seed %d: %s in %s, %d days on", seed, v.Medium, v.Kind, n)
			}
			if v.Medium.Row().Liquid && water.Most.Value > 0 && plant.Days(v.Since, day) >= 5+int(water.Most.Value) && plant.Days(v.Record.Done[plant.ChangeWater], day) > int(water.Most.Value) {
				task := asked(d, plant.ChangeWater)
				require.NotNil(t, task, "seed %d", seed)
				require.True(t, task.Late || task.Urgent, "seed %d", seed)
			}
		}
	}
}

// What is told ahead is what will be asked for, when all of it is done: the first day of it is the one that is told as next.
func TestWhatIsToldAheadIsWhatComes(t *testing.T) {
	for seed := range uint64(1500) {
		r := rand.New(rand.NewPCG(seed, 21))
		v, visits, w, day := random(r)
		day = RoundAt(w.Numbers, day)
		v.Record = Sum(visits, day)
		before := On(v, day, w)
		ahead := Ahead(v, day, 40, w)
		require.Equal(t, before, On(v, day, w), "seed %d: telling it changes nothing", seed)
		now, later := []CareTask{}, []DayDue{}
		for _, a := range ahead {
			if plant.Days(day, a.At) == 0 {
				now = a.Tasks
			} else {
				later = append(later, a)
			}
		}
		if before.PutOff {
			require.Empty(t, now)
			continue
		}
		require.Equal(t, before.Tasks, now, "seed %d", seed)
		if before.Next != nil && plant.Days(day, *before.Next) < 40 {
			require.NotEmpty(t, later, "seed %d: next %s", seed, before.Next)
			calm, after := true, v
			after.Record.Visited = day
			for d := 1; d <= plant.Days(day, later[0].At); d++ {
				calm = calm && quiet(after, day.AddDate(0, 0, d))
			}
			require.True(t, !calm || plant.Days(*before.Next, later[0].At) >= 0, "seed %d: nothing comes before what is told as next", seed)
		}
		// Walked day by day, it is the same.
		if len(before.Tasks) > 0 {
			visits = append(visits, doing(before, day))
		}
		for d := 1; d < 40; d++ {
			at := RoundAt(w.Numbers, time.Date(day.Year(), day.Month(), day.Day()+d, 12, 0, 0, 0, day.Location()))
			v.Record = Sum(visits, at)
			due := On(v, at, w)
			if len(due.Tasks) == 0 {
				continue
			}
			require.NotEmpty(t, later, "seed %d, day %d", seed, d)
			require.Equal(t, DayDue{at, due.Tasks}, later[0], "seed %d, day %d", seed, d)
			later = later[1:]
			visits = append(visits, doing(due, at))
		}
		require.Empty(t, later, "seed %d", seed)
	}
}

func TestNothingIsDueForAnEmptyVessel(t *testing.T) {
	for seed := range uint64(1000) {
		r := rand.New(rand.NewPCG(seed, 4))
		v, visits, w, now := random(r)
		v.Record = Sum(visits, now)
		gone := now.AddDate(0, 0, -r.IntN(3))
		for i := range v.Pieces {
			v.Pieces[i].LeftOn = &gone
		}
		d := On(v, now, w)
		require.Empty(t, d.Tasks)
		require.Empty(t, d.Leave)
		require.Nil(t, d.Next)
		v.Pieces = nil
		require.Empty(t, On(v, now, w).Tasks)
	}
}

// A round never asks to open what is to be left shut, unless something seen asks for it, or the grower chose a school that does.
func TestWhatIsLeftAloneIsNotOpened(t *testing.T) {
	seen := 0
	for seed := range uint64(4000) {
		r := rand.New(rand.NewPCG(seed, 5))
		v, visits, w, now := random(r)
		w.Schools.Air = Usual().Air
		v.Record = Sum(visits, now)
		d := On(v, now, w)
		for _, l := range d.Leave {
			require.Greater(t, plant.Days(now, l.Until), 0)
			require.NotEmpty(t, l.Codes)
			if !l.Open {
				continue
			}
			seen++
			for _, task := range d.Tasks {
				row, _ := task.Act.Row()
				hot := task.Act == plant.MistLeaves && v.HottestC != nil
				require.False(t, row.Opens && !task.Urgent && task.Act != plant.SetCover && !hot, "seed %d: %s", seed, task.Label)
			}
		}
	}
	require.Greater(t, seen, 50)
}

// All groups, kinds of piece, media, vessels and covers have an answer with words.
func TestEveryVesselHasItsCare(t *testing.T) {
	now := time.Date(2026, 7, 20, 9, 0, 0, 0, zone)
	for _, sort := range plant.VesselSorts() {
		for _, m := range plant.Media() {
			if !sort.Takes(m.Medium) {
				continue
			}
			for _, cover := range sort.Covers {
				for _, g := range plant.Groups() {
					for _, k := range plant.KindRows() {
						v := Vessel{Kind: sort.Kind, Medium: m.Medium, Since: now.AddDate(0, 0, -20), Cover: cover.State, Pieces: []Piece{{Code: "A1", Group: g, Kind: k.Kind, CutOn: now.AddDate(0, 0, -21), SetOn: now.AddDate(0, 0, -20)}}}
						d := On(v, now, Where{Schools: Usual()})
						require.NotEmpty(t, d.Tasks, "%s in %s in a %s, %s", g.Key, m.Medium, sort.Label, cover.Label)
						require.Equal(t, cover.Label, d.CoverLabel)
						require.NotNil(t, d.Next)
					}
				}
			}
		}
	}
}

func one(group string, kind plant.PieceKind, set time.Time) []Piece {
	g, _ := plant.GroupNamed(group)
	return []Piece{{Code: "A1-2", Group: g, Kind: kind, CutOn: set, SetOn: set}}
}

// common practice, no source: handbook 3.5 and 3.9.
func TestTheTradeIsKept(t *testing.T) {
	set := time.Date(2026, 6, 1, 9, 0, 0, 0, zone)
	day := func(n int) time.Time { return set.AddDate(0, 0, n) }
	jar := Vessel{Kind: plant.Jar, Medium: plant.Water, Since: set, Pieces: one("soft_climber", plant.StemCutting, set)}
	by := func(key SchoolKey) Where {
		c, err := Usual().With(OfWater, key)
		require.NoError(t, err)
		return Where{Schools: c}
	}
	for key, first := range map[SchoolKey]int{"every_2": 2, "every_3_4": 3, "every_7_14": 7} {
		require.Nil(t, asked(On(jar, day(first-1), by(key)), plant.ChangeWater), key)
		require.NotNil(t, asked(On(jar, day(first), by(key)), plant.ChangeWater), key)
	}
	require.False(t, asked(On(jar, day(14), by("every_7_14")), plant.ChangeWater).Late)
	require.True(t, asked(On(jar, day(15), by("every_7_14")), plant.ChangeWater).Late)
	require.Nil(t, asked(On(jar, day(60), by("top_up")), plant.ChangeWater))
	require.NotNil(t, asked(On(jar, day(7), by("top_up")), plant.TopUp))

	// Cloudy or smelling water is changed at once, in any school.
	for _, s := range []plant.Sign{plant.Cloudy, plant.Smells} {
		dirty := jar
		dirty.Record = Sum([]Visit{{At: day(1), Seen: []plant.Sign{s}}}, day(1))
		for _, school := range Schools() {
			if school.About == OfWater {
				task := asked(On(dirty, day(1), by(school.Key)), plant.ChangeWater)
				require.NotNil(t, task, "%s %s", s, school.Key)
				require.True(t, task.Urgent)
			}
		}
	}

	// Sealed moss stays shut; dry moss is misted; pooled water is aired.
	moss := Vessel{Kind: plant.LiddedBox, Medium: plant.Moss, Since: set, Cover: plant.CoverOn, Pieces: one("velvet_climber", plant.StemCutting, set)}
	quiet := On(moss, day(5), Where{Schools: Usual()})
	require.Empty(t, quiet.Tasks)
	require.True(t, quiet.Leave[0].Open)
	require.Equal(t, "look through the wall", On(moss, day(7), Where{Schools: Usual()}).Tasks[0].Label)
	moss.Record = Sum([]Visit{{At: day(3), Seen: []plant.Sign{plant.LooksDry, plant.Pooled}}}, day(3))
	require.NotNil(t, asked(On(moss, day(3), Where{Schools: Usual()}), plant.MistLeaves))
	require.NotNil(t, asked(On(moss, day(3), Where{Schools: Usual()}), plant.AirIt))

	// Begonias rot closed; succulents stand open, and rosettes get no water before they have roots.
	begonia := Vessel{Kind: plant.LiddedBox, Medium: plant.Moss, Since: set, Cover: plant.CoverOn, Pieces: one("begonia", plant.StemCutting, set)}
	require.Equal(t, plant.CoverAjar, asked(On(begonia, day(1), Where{Schools: Usual()}), plant.SetCover).Cover)
	rosette := Vessel{Kind: plant.OpenPot, Medium: plant.Mix, Since: set, Pieces: one("rosette_succulent", plant.LeafPiece, set)}
	rosette.Record = Sum([]Visit{{At: day(9), Seen: []plant.Sign{plant.LooksDry}}}, day(9))
	require.Nil(t, asked(On(rosette, day(9), Where{Schools: Usual()}), plant.GiveWater))
	require.Nil(t, asked(On(rosette, day(40), Where{Schools: Usual()}), plant.FeelMedium))
	roots := day(20)
	rosette.Pieces[0].RootedOn = &roots
	require.NotNil(t, asked(On(rosette, day(40), Where{Schools: Usual()}), plant.FeelMedium))
	require.Contains(t, asked(On(rosette, day(40), Where{Schools: Usual()}), plant.FeelMedium).Why, "80 %")

	// A cut face that dries is left dry.
	require.Contains(t, On(rosette, day(0).Add(time.Hour), Where{Schools: Usual()}).Leave[0].Why, "drying")

	// In heat the leaves in a bottle house are misted morning and evening.
	hot := 31.0
	house := Vessel{Kind: plant.BottleHouse, Medium: plant.Mix, Since: set, HottestC: &hot, Pieces: one("soft_shrub", plant.Tip, set)}
	morning, night := day(3), day(3).Add(10*time.Hour)
	require.NotNil(t, asked(On(house, morning, Where{Schools: Usual()}), plant.MistLeaves))
	house.Record = Sum([]Visit{{At: morning, Acts: []plant.Act{plant.MistLeaves}}}, night)
	require.Nil(t, asked(On(house, morning.Add(time.Hour), Where{Schools: Usual()}), plant.MistLeaves))
	require.NotNil(t, asked(On(house, night, Where{Schools: Usual()}), plant.MistLeaves))
	house.HottestC = nil
	require.Nil(t, asked(On(house, night, Where{Schools: Usual()}), plant.MistLeaves))
}

// common practice, no source: handbook 3.9 and 3.11: cap off for a few weeks, top off, and three to four weeks later potted.
// common practice, no source: unrooted pieces lose water and cannot drink; they want high humidity until roots form.
func TestDryAirIsToldWhereItHarms(t *testing.T) {
	dry, moist := 1.3, 0.3
	set := time.Date(2026, 6, 1, 10, 0, 0, 0, zone)
	notes := func(v Vessel) string {
		return strings.Join(On(v, set.AddDate(0, 0, 3), Where{Schools: Usual()}).Notes, " ")
	}
	open := Vessel{Kind: plant.LiddedBox, Medium: plant.Moss, Since: set, Cover: plant.CoverOff, Pieces: one("thick_climber", plant.StemCutting, set), DeficitKPa: &dry}
	require.Contains(t, notes(open), "The air here is dry: a deficit of 1.3 kPa")
	covered := open
	covered.Cover = plant.CoverOn
	require.NotContains(t, notes(covered), "dry")
	unmeasured, humid := open, open
	unmeasured.DeficitKPa, humid.DeficitKPa = nil, &moist
	require.NotContains(t, notes(unmeasured)+notes(humid), "air here is dry")
	rooted := open
	rooted.Pieces = one("thick_climber", plant.StemCutting, set)
	rooted.Pieces[0].RootedOn = &set
	require.NotContains(t, notes(rooted), "air here is dry")
	succulent := open
	succulent.Pieces = one("sword_succulent", plant.StemCutting, set)
	require.NotContains(t, notes(succulent), "air here is dry", "which wants none over it")
}

// common practice, no source: what has no roots yet wants the moistest air, and all beside it share it.
func TestTheMostDelicatePieceDecidesTheAir(t *testing.T) {
	set := time.Date(2026, 5, 1, 10, 0, 0, 0, zone)
	now, w := set.AddDate(0, 0, 40), Where{Schools: Usual()}
	box := func(rooted bool) Vessel {
		v := Vessel{Kind: plant.CoveredPot, Medium: plant.Mix, Since: set, Pieces: one("thick_climber", plant.StemCutting, set)}
		if on := set.AddDate(0, 0, 10); rooted {
			v.Pieces[0].RootedOn = &on
		}
		return v
	}
	hardening := box(true)
	hardening.Pieces[0].ShootOn = hardening.Pieces[0].RootedOn
	course := On(hardening, now, w).Harden
	require.NotNil(t, course)
	hardening.Record = Sum([]Visit{{At: now.AddDate(0, 0, -1), Cover: course.Steps[0].Cover}}, now)
	require.True(t, On(hardening, now, w).Harden.Steps[0].Done)
	require.Equal(t, climate.Unrooted, Stage(nil, now, w))
	require.Equal(t, climate.Unrooted, Stage([]Vessel{box(true), box(false), hardening}, now, w))
	require.Equal(t, climate.Rooting, Stage([]Vessel{box(true), hardening}, now, w))
	require.Equal(t, climate.Hardening, Stage([]Vessel{hardening, {Kind: plant.Jar, Medium: plant.Water, Since: set}}, now, w), "an empty one has no say")
}

func TestARoundIsReckonedInQuarters(t *testing.T) {
	for vessels, want := range map[int]time.Duration{0: 15, 1: 15, 60: 15, 61: 30, 500: 135} {
		require.Equal(t, want*time.Minute, RoundLasts(number.Table{}, vessels), "%d", vessels)
	}
}

func TestHardeningGoesStepByStepAndADroopHoldsIt(t *testing.T) {
	set := time.Date(2026, 3, 1, 9, 0, 0, 0, zone)
	day := func(n int) time.Time { return set.AddDate(0, 0, n) }
	roots := day(90)
	house := Vessel{Kind: plant.BottleHouse, Medium: plant.Mix, Since: set, Pieces: one("soft_shrub", plant.Tip, set)}
	w := Where{Schools: Usual()}
	require.Nil(t, On(house, day(80), w).Harden)
	house.Pieces[0].RootedOn = &roots
	d := On(house, day(91), w)
	require.Equal(t, plant.CoverVented, asked(d, plant.SetCover).Cover)
	require.Equal(t, "take the cap off", asked(d, plant.SetCover).Label)

	visits := []Visit{{At: day(91), Cover: plant.CoverVented}}
	house.Record = Sum(visits, day(100))
	d = On(house, day(100), w)
	require.Nil(t, asked(d, plant.SetCover))
	require.Equal(t, 0, plant.Days(d.Harden.Steps[1].On, day(91+21)))
	require.Equal(t, 0, plant.Days(d.Harden.PotFrom, day(91+21+24)))
	require.Equal(t, plant.CoverOff, asked(On(house, day(112), w), plant.SetCover).Cover)

	drooped := day(110)
	house.Pieces[0].DroopsOn = &drooped
	d = On(house, day(112), w)
	require.Nil(t, asked(d, plant.SetCover))
	require.Contains(t, d.Harden.Held, "droops")
	house.Pieces[0].DroopsOn = nil
	require.NotNil(t, asked(On(house, day(112), w), plant.SetCover))

	house.Record = Sum(append(visits, Visit{At: day(112), Cover: plant.CoverOff}), day(130))
	d = On(house, day(130), w)
	require.Nil(t, asked(d, plant.SetCover))
	require.Equal(t, 0, plant.Days(d.Harden.PotFrom, day(112+24)))
}

// A day of 23 or 25 hours is one day: what is due every second day is due on the second.
func TestDaylightSavingIsOneDay(t *testing.T) {
	for _, change := range []time.Time{time.Date(2026, 3, 28, 23, 30, 0, 0, zone), time.Date(2026, 10, 24, 23, 30, 0, 0, zone)} {
		c, err := Usual().With(OfWater, "every_2")
		require.NoError(t, err)
		jar := Vessel{Kind: plant.Jar, Medium: plant.Water, Since: change, Pieces: one("soft_climber", plant.StemCutting, change)}
		next := time.Date(change.Year(), change.Month(), change.Day()+1, 23, 59, 0, 0, zone)
		require.Nil(t, asked(On(jar, next, Where{Schools: c}), plant.ChangeWater))
		second := time.Date(change.Year(), change.Month(), change.Day()+2, 0, 1, 0, 0, zone)
		require.NotNil(t, asked(On(jar, second, Where{Schools: c}), plant.ChangeWater))
	}
}

func TestVisitsThatCannotBeAreRefused(t *testing.T) {
	jar, box := plant.Vessel{Kind: plant.Jar, Medium: plant.Water}, plant.Vessel{Kind: plant.LiddedBox, Medium: plant.Moss}
	for field, c := range map[string]struct {
		v  Visit
		in plant.Vessel
	}{
		"acts":  {Visit{Acts: []plant.Act{plant.ChangeWater, "dance"}}, box},
		"seen":  {Visit{Seen: []plant.Sign{plant.Mould}}, jar},
		"cover": {Visit{Cover: plant.CoverVented}, jar},
	} {
		err := c.v.Check(c.in, false)
		require.Error(t, err, field)
		require.Equal(t, field, plant.Refusals(err)[0].Field)
	}
	require.Error(t, Visit{}.Check(jar, false))
	require.NoError(t, Visit{}.Check(jar, true))
	require.NoError(t, Visit{PutOff: "no time"}.Check(jar, false))
}

// A household's numbers are those gone by.
func TestNumbersOfCareAreTheHouseholds(t *testing.T) {
	set := time.Date(2026, 6, 1, 9, 0, 0, 0, zone)
	table, err := number.Table{}.With(number.Change{Key: "care.water.every_7_14.from", Value: 3})
	require.NoError(t, err)
	jar := Vessel{Kind: plant.Jar, Medium: plant.Water, Since: set, Pieces: one("soft_climber", plant.StemCutting, set)}
	require.Nil(t, asked(On(jar, set.AddDate(0, 0, 3), Where{Schools: Usual()}), plant.ChangeWater))
	require.NotNil(t, asked(On(jar, set.AddDate(0, 0, 3), Where{Schools: Usual(), Numbers: table}), plant.ChangeWater))
}

func BenchmarkTenThousandVessels(b *testing.B) {
	vessels, wheres := make([]Vessel, 10000), make([]Where, 10000)
	now := time.Date(2026, 9, 20, 9, 0, 0, 0, zone)
	for i := range vessels {
		v, visits, w, _ := random(rand.New(rand.NewPCG(uint64(i), 6)))
		v.Record = Sum(visits, now)
		vessels[i], wheres[i] = v, w
	}
	b.ReportAllocs()
	for b.Loop() {
		for i, v := range vessels {
			On(v, now, wheres[i])
		}
	}
}
