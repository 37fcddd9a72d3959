// Package colour says how colours look: in CIELAB, where a distance is about as large as it seems.
//
// In: red, green and blue of a picture as they are kept, sRGB, 0 to 255. Out: L from 0 to 100, a and b. Method: sRGB
// (IEC 61966-2-1) to XYZ to CIELAB (CIE 15) with the white of D65; distances by CIEDE2000.
package colour

import "math"

// Lab is a colour: lightness L, a from green to red, b from blue to yellow.
type Lab struct{ L, A, B float64 }

// The primaries of sRGB in XYZ, and the white of D65.
// published: IEC 61966-2-1, CIE 15 (from memory).
var toXYZ = [3][3]float64{
	{0.412453, 0.357580, 0.180423},
	{0.212671, 0.715160, 0.072169},
	{0.019334, 0.119193, 0.950227},
}

const (
	whiteX = 0.95047
	whiteZ = 1.08883
	bend   = 216.0 / 24389 // where the cube root gives way to a line
	slope  = 24389.0 / 27
)

// linear are the 256 values of a channel, as light.
var linear = func() (out [256]float64) {
	for i := range out {
		v := float64(i) / 255
		if v <= 0.04045 {
			out[i] = v / 12.92
		} else {
			out[i] = math.Pow((v+0.055)/1.055, 2.4)
		}
	}
	return out
}()

func lightness(t float64) float64 {
	if t > bend {
		return math.Cbrt(t)
	}
	return (slope*t + 16) / 116
}

// Of is the colour of a pixel.
func Of(r, g, b uint8) Lab {
	lr, lg, lb := linear[r], linear[g], linear[b]
	row := func(i int) float64 { return toXYZ[i][0]*lr + toXYZ[i][1]*lg + toXYZ[i][2]*lb }
	x, y, z := lightness(row(0)/whiteX), lightness(row(1)), lightness(row(2)/whiteZ)
	return Lab{116*y - 16, 500 * (x - y), 200 * (y - z)}
}

// Chroma is how far a colour is from grey.
func (c Lab) Chroma() float64 { return math.Hypot(c.A, c.B) }

// Distance is how different two colours look, CIEDE2000 with all weights 1.
// published: Sharma, Wu, Dalal: The CIEDE2000 color-difference formula, Color Research and Application 30, 2005.
func (c Lab) Distance(d Lab) float64 {
	const seventh = 25.0 * 25 * 25 * 25 * 25 * 25 * 25
	pow7 := func(v float64) float64 { return math.Pow(v, 7) }
	mean := (c.Chroma() + d.Chroma()) / 2
	g := 0.5 * (1 - math.Sqrt(pow7(mean)/(pow7(mean)+seventh)))
	a1, a2 := c.A*(1+g), d.A*(1+g)
	c1, c2 := math.Hypot(a1, c.B), math.Hypot(a2, d.B)
	h1, h2 := hue(a1, c.B), hue(a2, d.B)
	dl, dc := d.L-c.L, c2-c1
	turn := 0.0
	if c1*c2 != 0 {
		turn = h2 - h1
		switch {
		case turn > 180:
			turn -= 360
		case turn < -180:
			turn += 360
		}
	}
	dh := 2 * math.Sqrt(c1*c2) * math.Sin(rad(turn/2))
	l, cm, h := (c.L+d.L)/2, (c1+c2)/2, h1+h2
	if c1*c2 != 0 {
		switch {
		case math.Abs(h1-h2) <= 180:
			h /= 2
		case h < 360:
			h = (h + 360) / 2
		default:
			h = (h - 360) / 2
		}
	}
	t := 1 - 0.17*math.Cos(rad(h-30)) + 0.24*math.Cos(rad(2*h)) + 0.32*math.Cos(rad(3*h+6)) - 0.20*math.Cos(rad(4*h-63))
	sl := 1 + 0.015*(l-50)*(l-50)/math.Sqrt(20+(l-50)*(l-50))
	sc, sh := 1+0.045*cm, 1+0.015*cm*t
	around := 30 * math.Exp(-((h-275)/25)*((h-275)/25))
	rt := -2 * math.Sqrt(pow7(cm)/(pow7(cm)+seventh)) * math.Sin(rad(2*around))
	x, y, z := dl/sl, dc/sc, dh/sh
	return math.Sqrt(x*x + y*y + z*z + rt*y*z)
}

func rad(degrees float64) float64 { return degrees * math.Pi / 180 }

// hue is an angle from 0 to 360 degrees, 0 for grey.
func hue(a, b float64) float64 {
	if a == 0 && b == 0 {
		return 0
	}
	h := math.Atan2(b, a) * 180 / math.Pi
	if h < 0 {
		h += 360
	}
	return h
}

// steps is into how many parts the tables of [Fast] cut their range.
const steps = 4096

// lightTable and rootTable are the light of a channel from 0 to 255, and [lightness] of 0 to 1.1.
var lightTable, rootTable = func() (light, cube [steps + 2]float32) {
	for i := range light {
		v := float64(i) / steps
		if v <= 0.04045 {
			light[i] = float32(v / 12.92)
		} else {
			light[i] = float32(math.Pow((v+0.055)/1.055, 2.4))
		}
		cube[i] = float32(lightness(1.1 * v))
	}
	return light, cube
}()

func looked(table *[steps + 2]float32, v float32) float32 {
	v = min(max(v, 0), 1) * steps
	at := int(v)
	return table[at] + (v-float32(at))*(table[at+1]-table[at])
}

// Fast is about as [Of], by tables, for red, green and blue between whole numbers; beyond 0 to 255 they are cut.
func Fast(r, g, b float32) (l, a, bb float32) {
	lr, lg, lb := looked(&lightTable, r/255), looked(&lightTable, g/255), looked(&lightTable, b/255)
	x := looked(&rootTable, (0.412453*lr+0.357580*lg+0.180423*lb)/(whiteX*1.1))
	y := looked(&rootTable, (0.212671*lr+0.715160*lg+0.072169*lb)/1.1)
	z := looked(&rootTable, (0.019334*lr+0.119193*lg+0.950227*lb)/(whiteZ*1.1))
	return 116*y - 16, 500 * (x - y), 200 * (y - z)
}
