package propagation_test

import (
	"bytes"
	"context"
	"image"
	"image/png"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"

	"clearjar/core/plant"
	"clearjar/propagation"
	"clearjar/propagation/door"
	"clearjar/propagation/photo"
	"clearjar/propagation/show"
	"clearjar/store"
	"clearjar/store/sqlgen"
	"clearjar/store/storetest"
)

var noon = time.Date(2026, 6, 10, 12, 0, 0, 0, time.UTC)

func v7() uuid.UUID { return uuid.Must(uuid.NewV7()) }

// neighbours are two households in one database.
func neighbours(t *testing.T) (s *store.Store, g *propagation.Garden, a, b context.Context) {
	t.Helper()
	s = storetest.Open(t)
	a = store.As(t.Context(), store.First)
	other := v7()
	b = store.As(t.Context(), other)
	_, err := s.Pool.Exec(b, "insert into household (id) values ($1)", other)
	require.NoError(t, err)
	return s, propagation.New(s, func() time.Time { return noon }, time.UTC), a, b
}

func pixels(t *testing.T) []byte {
	t.Helper()
	var out bytes.Buffer
	require.NoError(t, png.Encode(&out, image.NewGray(image.Rect(0, 0, 40, 30))))
	return out.Bytes()
}

// Nothing crosses: not by listing, not by id, not by name, not by the same bytes, not by the same fact.
func TestNothingCrossesBetweenHouseholds(t *testing.T) {
	t.Parallel()
	s, g, a, b := neighbours(t)
	brought := door.Brought{ID: v7(), Name: "Hoya linearis", GroupKey: "wax_vine", Kind: plant.StemCutting, Nodes: 2, Leaves: 2, Since: noon.AddDate(0, 0, -20), KnownTo: "day"}
	vessel := door.NewVessel{ID: v7(), Name: "Jar", Place: "Sill", Vessel: plant.Vessel{Kind: plant.Jar, WidthMM: 80, DepthMM: 80, HeightMM: 120, WallMM: 2, FillMM: 80, Holds: 3}}
	picture := v7()
	look := door.NewLook{ID: v7(), LookedAt: noon, PhotoID: &picture, Seen: plant.Look{Stem: "firm", Roots: []plant.Root{}, Buds: []plant.BudAt{}}}
	keep := func(ctx context.Context, f door.Fact) door.Touched {
		t.Helper()
		touched, same, err := door.Keep(ctx, g, f)
		require.NoError(t, err)
		require.False(t, same)
		return touched
	}
	cutting := keep(a, brought).Cuttings[0]
	keep(a, vessel)
	first, err := photo.Keep(a, g, picture, pixels(t))
	require.NoError(t, err)
	look.CuttingID = cutting
	keep(a, look)
	keep(a, door.Setting{ID: v7(), CuttingID: cutting, VesselID: vessel.ID, SetOn: noon, SetNodes: 1})
	keep(a, door.NumberChoice{ID: v7(), Key: "readiness.early.longest", Kind: "value", Value: 33})

	// The other sees none of it.
	shelf, err := show.ShelfNow(b, g)
	require.NoError(t, err)
	require.Empty(t, shelf.Cuttings)
	require.Empty(t, shelf.Vessels)
	mothers, err := show.Mothers(b, g)
	require.NoError(t, err)
	require.Empty(t, mothers)
	found, err := show.Find(b, g, "hoya")
	require.NoError(t, err)
	require.Empty(t, found.Cuttings)
	_, err = show.OneCutting(b, g, cutting)
	require.ErrorAs(t, err, new(propagation.MissingError))
	_, err = photo.View(b, g, picture, 320)
	require.ErrorAs(t, err, new(propagation.MissingError))
	numbers, err := g.Numbers(b)
	require.NoError(t, err)
	require.Empty(t, numbers.Changed(), "numbers are the household's own")

	// What it writes about the first one's things is refused: they are not here.
	for _, f := range []door.Fact{
		door.NewLook{ID: v7(), CuttingID: cutting, LookedAt: noon, Seen: plant.Look{Roots: []plant.Root{}, Buds: []plant.BudAt{}}},
		door.Handover{ID: v7(), CuttingID: cutting, GivenOn: noon},
		door.Withdrawal{ID: v7(), Kind: "brought", About: brought.ID},
		door.Withdrawal{ID: v7(), Kind: "vessel", About: vessel.ID},
		door.SchoolChoice{ID: v7(), CuttingID: cutting, School: plant.FullRoots},
		door.DateCorrection{Kind: "cut", About: brought.CutID(), Correction: door.Correction[door.Dated]{ID: v7(), Becomes: door.Dated{On: noon}}},
		door.VesselCorrection{About: vessel.ID, Correction: door.Correction[door.VesselWords]{ID: v7(), Becomes: door.VesselWords{Name: "Mine", Place: "Sill", Vessel: vessel.Vessel}}},
	} {
		_, _, err := door.Keep(b, g, f)
		require.ErrorAs(t, err, new(propagation.MissingError), "%T", f)
	}

	// The same ids, codes, names, bytes are its own, and differ from nothing.
	brought.Name = "Hoya linearis, mine"
	mine := keep(b, brought).Cuttings[0]
	require.Equal(t, cutting, mine, "the same id, another cutting")
	keep(b, vessel)
	// It cannot name a photo that is not its own, and the same bytes are another photo.
	look.CuttingID = mine
	_, _, err = door.Keep(b, g, look)
	require.ErrorAs(t, err, new(propagation.MissingError))
	second := v7()
	kept, err := photo.Keep(b, g, second, pixels(t))
	require.NoError(t, err)
	require.Equal(t, second, kept.ID, "kept anew, under its own id")
	require.Equal(t, first.SHA256, kept.SHA256)
	look.PhotoID = &second
	keep(b, look)
	page, err := show.OneCutting(b, g, mine)
	require.NoError(t, err)
	require.Equal(t, "Hoya linearis, mine", page.Cutting.MotherName)
	page, err = show.OneCutting(a, g, cutting)
	require.NoError(t, err)
	require.Equal(t, "Hoya linearis", page.Cutting.MotherName)
	require.Equal(t, picture, page.Looks[0].Photo.ID)

	// A connection that served one household serves the next one as its own, however they take turns.
	for range 40 {
		for ctx, want := range map[context.Context]string{a: "Hoya linearis", b: "Hoya linearis, mine"} {
			all, err := show.Mothers(ctx, g)
			require.NoError(t, err)
			require.Len(t, all, 1)
			require.Equal(t, want, all[0].Name)
		}
	}

	// Whoever does not say whose gets nothing at all, and can write nothing, not even past the program.
	_, err = show.ShelfNow(t.Context(), g)
	require.ErrorIs(t, err, store.ErrNoHousehold)
	_, err = s.Pool.Exec(b, "insert into place (household_id, id, name, position) values ($1, $2, 'Theirs', 1)", store.First, v7())
	require.ErrorContains(t, err, "row-level security")
	tag, err := s.Pool.Exec(b, "update mother set name = 'taken' where household_id = $1", store.First)
	require.NoError(t, err)
	require.Zero(t, tag.RowsAffected())
	_, err = s.AddSetting(b, sqlgen.AddSettingParams{ID: v7(), CuttingID: mine, VesselID: keep(a, door.NewVessel{ID: v7(), Name: "Theirs", Place: "Sill", Vessel: vessel.Vessel}).Vessels[0], SetOn: noon, SetNodes: 1, MadeAt: noon})
	require.Error(t, err, "a reference stays inside the household")
}

// Every table, the ones to come too: its household in every row and in every key, held by the database.
func TestEveryTableBelongsToAHousehold(t *testing.T) {
	t.Parallel()
	s, _, a, _ := neighbours(t)
	lists := map[string]string{
		"no household in its rows": `select tablename from pg_tables where schemaname = 'public' and tablename not in ('household', 'goose_db_version')
			and not exists (select 1 from information_schema.columns c where c.table_name = tablename and c.column_name = 'household_id' and c.is_nullable = 'NO' and c.column_default = 'household_now()')`,
		"no security, or not forced": `select relname from pg_class where relnamespace = 'public'::regnamespace and relkind in ('r', 'p') and relname <> 'goose_db_version' and not (relrowsecurity and relforcerowsecurity)`,
		"no policy":                  `select tablename from pg_tables t where schemaname = 'public' and tablename <> 'goose_db_version' and not exists (select 1 from pg_policies p where p.tablename = t.tablename)`,
		"a key or reference without it": `select conrelid::regclass::text || '.' || conname from pg_constraint con where connamespace = 'public'::regnamespace and contype in ('p', 'u', 'f')
			and conrelid::regclass::text not in ('household', 'goose_db_version') and confrelid::regclass::text <> 'household'
			and not exists (select 1 from unnest(conkey) k join pg_attribute a on a.attrelid = conrelid and a.attnum = k where a.attname = 'household_id')`,
		"a unique rule without it": `select indexrelid::regclass::text from pg_index i join pg_class c on c.oid = i.indrelid where c.relnamespace = 'public'::regnamespace and i.indisunique
			and c.relname not in ('household', 'goose_db_version') and pg_get_indexdef(indexrelid) not like '%, household_id)%'`,
		"a view that looks past it": `select relname from pg_class where relnamespace = 'public'::regnamespace and relkind = 'v' and not coalesce('security_invoker=true' = any(reloptions), false)`,
		"a role that is let past":   `select rolname from pg_roles where rolname = current_user and (rolsuper or rolbypassrls or rolcanlogin)`,
	}
	for what, sql := range lists {
		rows, err := s.Pool.Query(a, sql)
		require.NoError(t, err)
		for rows.Next() {
			var name string
			require.NoError(t, rows.Scan(&name))
			t.Errorf("%s: %s", what, name)
		}
		require.NoError(t, rows.Err())
	}
}

// from memory: in June it is winter in Hobart; Kiritimati is 14 hours ahead of UTC.
func TestDaysAndSeasonsAreTheHouseholds(t *testing.T) {
	t.Parallel()
	_, base, a, b := neighbours(t)
	say := func(ctx context.Context, w propagation.HouseholdWords) *propagation.Garden {
		t.Helper()
		_, _, err := door.Keep(ctx, base, door.HouseholdCorrection{Correction: door.Correction[propagation.HouseholdWords]{ID: v7(), Becomes: w}})
		require.NoError(t, err)
		g, err := base.For(ctx)
		require.NoError(t, err)
		return g
	}
	g, err := base.For(a)
	require.NoError(t, err)
	north, err := show.HouseholdNow(a, g)
	require.NoError(t, err)
	require.False(t, north.Dark)
	require.Equal(t, 10, north.Today.Day())

	south, err := show.HouseholdNow(b, say(b, propagation.HouseholdWords{"Australia/Hobart", true}))
	require.NoError(t, err)
	require.True(t, south.Dark)
	ahead, err := show.HouseholdNow(b, say(b, propagation.HouseholdWords{"Pacific/Kiritimati", true}))
	require.NoError(t, err)
	require.Equal(t, 11, ahead.Today.Day())
	still, err := show.HouseholdNow(a, g)
	require.NoError(t, err)
	require.Equal(t, north, still, "the other household stays where it is")

	// The season reaches verdicts that were kept: the same piece takes longer in the dark half.
	brought := door.Brought{ID: v7(), Name: "Hoya", GroupKey: "wax_vine", Kind: plant.StemCutting, Nodes: 2, Leaves: 2, Since: noon.AddDate(0, 0, -3), KnownTo: "day", Vessel: &door.NewVessel{
		ID: v7(), Name: "Jar", Place: "Sill", Vessel: plant.Vessel{Kind: plant.Jar, WidthMM: 80, DepthMM: 80, HeightMM: 120, WallMM: 2, FillMM: 80, Holds: 3},
	}}
	_, _, err = door.Keep(b, base, brought)
	require.NoError(t, err)
	next := func(g *propagation.Garden) time.Time {
		t.Helper()
		shelf, err := show.ShelfNow(b, g)
		require.NoError(t, err)
		c, err := shelf.Cuttings[0].Cutting()
		require.NoError(t, err)
		return *c.Judgement.NextLook
	}
	dark := next(say(b, propagation.HouseholdWords{"UTC", true}))
	bright := next(say(b, propagation.HouseholdWords{"UTC", false}))
	require.True(t, bright.Before(dark), "%s %s", bright, dark)

	for _, bad := range []string{"Mars/Olympus", "Local", "../etc/passwd"} {
		_, _, err := door.Keep(a, base, door.HouseholdCorrection{Correction: door.Correction[propagation.HouseholdWords]{ID: v7(), Becomes: propagation.HouseholdWords{TimeZone: bad}}})
		require.Equal(t, "time_zone", plant.Refusals(err)[0].Field, bad)
	}
}
