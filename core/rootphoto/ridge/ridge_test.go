package ridge

import (
	"encoding/csv"
	"image"
	"image/png"
	"math"
	"math/rand/v2"
	"os"
	"strconv"
	"testing"

	"github.com/stretchr/testify/require"
)

func picture(t testing.TB, name string) Plane {
	t.Helper()
	file, err := os.Open("testdata/" + name + ".png")
	require.NoError(t, err)
	defer func() { _ = file.Close() }()
	img, err := png.Decode(file)
	require.NoError(t, err)
	g, ok := img.(*image.Gray)
	require.True(t, ok)
	return OfGray(g)
}

// The tables come from outside: skimage 0.19.3 and a plain re-implementation, which agree to 3e-15.
func each(t *testing.T, name string, do func(f func(col string) float64, picture string)) {
	t.Helper()
	file, err := os.Open("testdata/" + name)
	require.NoError(t, err)
	defer func() { _ = file.Close() }()
	rows, err := csv.NewReader(file).ReadAll()
	require.NoError(t, err)
	for _, row := range rows[1:] {
		do(func(col string) float64 {
			for i, name := range rows[0] {
				if name == col {
					v, err := strconv.ParseFloat(row[i], 64)
					require.NoError(t, err)
					return v
				}
			}
			t.Fatalf("no column %s", col)
			return 0
		}, row[0])
	}
}

func TestHessianAgainstAnotherProgram(t *testing.T) {
	type key struct {
		name  string
		sigma float64
	}
	smooth, bent := map[key]Plane{}, map[key]Hessian{}
	each(t, "hessian_pixels.csv", func(f func(string) float64, name string) {
		k := key{name, f("sigma")}
		if _, done := bent[k]; !done {
			p := picture(t, name)
			smooth[k], bent[k] = p.Smooth(k.sigma), p.HessianAt(k.sigma)
		}
		x, y := int(f("x")), int(f("y"))
		require.InDelta(t, f("gaussian"), smooth[k].At(x, y), 2e-6)
		require.InDelta(t, f("Hxx_gradient"), bent[k].XX.At(x, y), 2e-6)
		require.InDelta(t, f("Hxy_gradient"), bent[k].XY.At(x, y), 2e-6)
		require.InDelta(t, f("Hyy_gradient"), bent[k].YY.At(x, y), 2e-6)
	})
	require.Len(t, bent, 6)
}

func TestRidgeFiltersAgainstAnotherProgram(t *testing.T) {
	sigmas := []float64{1, 2, 3}
	sato, soft, hard := map[string]Plane{}, map[string]Plane{}, map[string]Plane{}
	each(t, "ridge_filters.csv", func(f func(string) float64, name string) {
		if _, done := sato[name]; !done {
			p := picture(t, name)
			sato[name], soft[name], hard[name] = Sato(p, sigmas), Frangi(p, sigmas, 0.5), Frangi(p, sigmas, 15)
		}
		x, y := int(f("x")), int(f("y"))
		require.InDelta(t, f("sato"), sato[name].At(x, y), 2e-6)
		require.InDelta(t, f("frangi_gamma0p5"), soft[name].At(x, y), 2e-6)
		require.InDelta(t, f("frangi_gamma15"), hard[name].At(x, y), 2e-6)
	})
}

// Turned by a quarter, a picture has the same eigenvalues in the turned places; the direction runs across a drawn line.
func TestEigenvaluesDoNotKnowWhichWayIsUp(t *testing.T) {
	r := rand.New(rand.NewPCG(1, 2))
	p := New(40, 30)
	for i := range p.Pix {
		p.Pix[i] = r.Float32()
	}
	q := New(30, 40)
	for y := range 30 {
		for x := range 40 {
			q.Pix[x*30+29-y] = p.At(x, y)
		}
	}
	hp, hq := p.HessianAt(1.5), q.HessianAt(1.5)
	for y := range 30 {
		for x := range 40 {
			a1, a2, _, _ := hp.Eigen(y*40 + x)
			b1, b2, _, _ := hq.Eigen(x*30 + 29 - y)
			require.InDelta(t, a1, b1, 2e-6)
			require.InDelta(t, a2, b2, 2e-6)
		}
	}
	line := New(61, 61)
	for y := range 61 {
		for x := range 61 {
			d := (float64(x-30)*math.Sin(0.4) - float64(y-30)*math.Cos(0.4)) / 2
			line.Pix[y*61+x] = float32(math.Exp(-d * d))
		}
	}
	first, second, ax, ay := line.HessianAt(1.6).Eigen(30*61 + 30)
	require.Less(t, first, -0.2)
	require.InDelta(t, 0, second, 0.01)
	require.InDelta(t, 1, math.Abs(ax*math.Sin(0.4)-ay*math.Cos(0.4)), 1e-3, "across it")
}

func TestSmallPlanes(t *testing.T) {
	for _, size := range [][2]int{{0, 0}, {1, 1}, {1, 7}, {7, 1}, {2, 2}} {
		p := New(size[0], size[1])
		for i := range p.Pix {
			p.Pix[i] = 0.5
		}
		for _, v := range Sato(p, []float64{1, 3}).Pix {
			require.InDelta(t, 0, v, 2e-6)
		}
	}
}

func BenchmarkSato(b *testing.B) {
	p := picture(b, "root_grey")
	for b.Loop() {
		Sato(p, []float64{1, 2, 3})
	}
	b.ReportMetric(float64(p.W*p.H)*float64(b.N)/b.Elapsed().Seconds()/1e6, "Mpx/s")
}
