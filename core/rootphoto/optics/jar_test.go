package optics

import (
	"encoding/csv"
	"math"
	"os"
	"strconv"
	"testing"

	"github.com/stretchr/testify/require"
)

// The tables in testdata come from outside: vector Snell in 80-bit and 40-digit arithmetic by other programs.
func each(t *testing.T, name string, do func(f func(col string) float64, s func(col string) string)) {
	t.Helper()
	file, err := os.Open("testdata/" + name)
	require.NoError(t, err)
	defer func() { _ = file.Close() }()
	rows, err := csv.NewReader(file).ReadAll()
	require.NoError(t, err)
	require.Greater(t, len(rows), 50)
	for _, row := range rows[1:] {
		s := func(col string) string {
			for i, name := range rows[0] {
				if name == col {
					return row[i]
				}
			}
			t.Fatalf("%s has no column %s", name, col)
			return ""
		}
		do(func(col string) float64 {
			v, err := strconv.ParseFloat(s(col), 64)
			require.NoError(t, err, col)
			return v
		}, s)
	}
}

func near(t *testing.T, want, got Vec, tolerance float64, what string) {
	t.Helper()
	require.Less(t, want.To(got), tolerance, "%s: %v, not %v", what, got, want)
}

// published: Snell's law, vectors; a jar in space.
func TestRaysThroughAJarInSpace(t *testing.T) {
	outcomes := map[Outcome]int{}
	each(t, "rays_3d.csv", func(f func(string) float64, s func(string) string) {
		vec := func(name string) Vec { return Vec{f(name + "_x"), f(name + "_y"), f(name + "_z")} }
		j := Jar{f("R_outer_mm"), f("glass_mm"), f("n_glass"), f("n_water")}
		r := Ray{vec("camera"), vec("dir_air")}
		w := j.Through(r)
		require.Equal(t, Outcome(s("status")), w.Outcome, "case %s", s("case"))
		outcomes[w.Outcome]++
		if w.Outcome == Misses {
			return
		}
		near(t, vec("outer_hit"), w.InWall.From, 1e-9, "outer skin, case "+s("case"))
		near(t, vec("dir_glass"), w.InWall.Dir, 1e-11, "in the wall, case "+s("case"))
		if w.Outcome == WallOnly {
			return
		}
		near(t, vec("inner_hit"), w.InJar.From, 1e-9, "inner skin, case "+s("case"))
		if w.Outcome == TotalReflection {
			return
		}
		near(t, vec("dir_water"), w.InJar.Dir, 1e-11, "inside, case "+s("case"))
		mm := -w.InJar.From.Z / w.InJar.Dir.Z
		near(t, vec("axis_plane"), w.InJar.At(mm), 1e-8, "the plane of the axis, case "+s("case"))
	})
	require.Len(t, outcomes, 4)
}

func TestRaysInThePlaneOfTheCamera(t *testing.T) {
	each(t, "jar_rays.csv", func(f func(string) float64, s func(string) string) {
		j := Jar{f("R_mm"), f("t_mm"), f("n_glass"), f("n_water")}
		a := f("theta_camera_rad")
		w := j.Through(Ray{Vec{0, 0, -f("D_axis_mm")}, Vec{math.Sin(a), 0, math.Cos(a)}})
		if w.Outcome != Inside {
			require.Equal(t, "NaN", s("far_wall_x_mm"), "%+v %s %g %+v", j, w.Outcome, a, w)
			return
		}
		near(t, Vec{f("entry_x_mm"), 0, f("entry_z_mm")}, w.InJar.From, 1e-6, "where it comes in")
		near(t, Vec{f("dir_x"), 0, f("dir_z")}, w.InJar.Dir, 1e-7, "its direction")
		near(t, Vec{f("far_wall_x_mm"), 0, f("far_wall_z_mm")}, w.FarWall, 1e-6, "the far wall")
	})
}

// What is seen under an angle is cast back to where it is: over the whole jar, near and far.
func TestWhatIsSeenIsCastBackToWhereItIs(t *testing.T) {
	cast := 0
	each(t, "jar_grid.csv", func(f func(string) float64, s func(string) string) {
		if f("n_images") == 0 {
			return
		}
		j := Jar{f("R_mm"), f("t_mm"), f("n_glass"), f("n_water")}
		for _, col := range []string{"theta_apparent_rad", "theta_second_image_rad"} {
			if s(col) == "NaN" {
				continue
			}
			a := f(col)
			p, ok := j.OnPlane(Ray{Vec{0, 0, -f("D_axis_mm")}, Vec{math.Sin(a), 0, math.Cos(a)}}, f("z_mm"))
			require.True(t, ok, "x %s z %s", s("x_mm"), s("z_mm"))
			require.InDelta(t, f("x_mm"), p.X, 1e-4) // near grazing a rounded angle moves it by as much
			cast++
		}
	})
	require.Greater(t, cast, 800)
}

// published: single refracting surface, n1/s + n2/s' = (n2 - n1)/R; thin wall, far camera: 1 at the near wall, 4/3 at the
// axis, 2 at the far wall for n = 4/3.
func TestMagnificationNearTheAxis(t *testing.T) {
	each(t, "jar_paraxial.csv", func(f func(string) float64, _ func(string) string) {
		j := Jar{f("R_mm"), f("t_mm"), Glass, f("n_water")}
		require.InEpsilon(t, f("mag_formula_finite_D"), j.SidewaysAt(f("D_axis_mm"), f("z_mm")), 1e-12)
	})
	far := Jar{40, 1e-9, Glass, 4.0 / 3}
	for z, want := range map[float64]float64{-40: 1, 0: 4.0 / 3, 40: 2} {
		require.InEpsilon(t, want, far.SidewaysAt(1e9, z), 1e-6)
	}
}

// Whatever the ray: inside it is never longer or shorter than 1, the law holds at both skins, and turning the whole about
// the axis turns the answer.
func FuzzThrough(f *testing.F) {
	f.Add(200.0, 10.0, 0.1, 0.05, 40.0, 2.5, 1.333)
	f.Add(700.0, -60.0, -0.3, 0.2, 30.0, 5.0, 1.0)
	f.Fuzz(func(t *testing.T, distance, height, ax, ay, radius, wall, n float64) {
		if !(radius > 5 && radius < 500 && wall > 0 && wall < radius/2 && distance > radius*1.01 && distance < 1e5 && n >= 1 && n < 2 && math.Abs(ax) < 1.5 && math.Abs(ay) < 1.5 && math.Abs(height) < 1e4) {
			t.Skip()
		}
		j := Jar{radius, wall, Glass, n}
		r := Ray{Vec{0, height, -distance}, Vec{math.Tan(ax), math.Tan(ay), 1}.Unit()}
		w := j.Through(r)
		if w.Outcome != Inside {
			return
		}
		require.InDelta(t, 1, w.InJar.Dir.Length(), 1e-9)
		sine := func(dir, at Vec) float64 { return dir.Cross(outward(at)).Length() }
		require.InDelta(t, sine(r.Dir, w.InWall.From), Glass*sine(w.InWall.Dir, w.InWall.From), 1e-9)
		require.InDelta(t, Glass*sine(w.InWall.Dir, w.InJar.From), n*sine(w.InJar.Dir, w.InJar.From), 1e-9)
		mirror := j.Through(Ray{Vec{-r.From.X, r.From.Y, r.From.Z}, Vec{-r.Dir.X, r.Dir.Y, r.Dir.Z}})
		require.InDelta(t, -w.InJar.From.X, mirror.InJar.From.X, 1e-6*radius)
	})
}
