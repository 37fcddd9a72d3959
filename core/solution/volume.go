package solution

import (
	"errors"
	"math"

	"clearjar/core/plant"
)

// Container is a pot or a vessel, inner measures in mm: a frustum, round or square.
type Container struct {
	Square   bool    `json:"square,omitempty"`
	TopMM    float64 `json:"top_mm"`
	BottomMM float64 `json:"bottom_mm"`
	HeightMM float64 `json:"height_mm"`
}

// VolumeML is what it holds in ml, filled to fillMM above its inner bottom, at most to its rim. With t the width at the
// fill height and b that at the bottom: round pi h / 12 (t^2 + t b + b^2), square h / 3 (t^2 + t b + b^2).
// published: the frustum of a cone and of a pyramid (Euclid; Heron).
func (c Container) VolumeML(fillMM float64) (float64, error) {
	if err := allPositive(given{"top_mm", c.TopMM}, given{"height_mm", c.HeightMM}); err != nil {
		return 0, err
	}
	if err := errors.Join(positive("bottom_mm", c.BottomMM, true), positive("fill_mm", fillMM, true)); err != nil {
		return 0, err
	}
	h := math.Min(fillMM, c.HeightMM)
	b := c.BottomMM
	t := b + (c.TopMM-b)*h/c.HeightMM
	share := math.Pi / 12
	if c.Square {
		share = 1.0 / 3
	}
	return share * h * (t*t + t*b + b*b) / 1000, nil
}

// packing is the least radius of a circle that n circles of radius 1 fit into, from n = 1.
// published: Graham, Lubachevsky, Nurmela, Ostergard: Dense packings of congruent circles in a circle, Discrete
// Mathematics 181, 1998; closed forms where they are known (from memory).
var packing = [...]float64{
	1, 2, 2.1547005383792515, 2.414213562373095, 2.7013016167040798, 3, 3, 3.3047648709624866, 3.613125929752753, 3.8130256313981246,
	3.923804400163087, 4.029601930116184, 4.23606797749979, 4.3284285548608485, 4.521356964706165, 4.615425594873246, 4.792033748310597,
	4.863703305156273, 4.863703305156273, 5.122320736991525,
}

// MostStems is the most that [StemsIn] counts to.
const MostStems = len(packing)

// StemsIn is how many stems stand in a round vessel of an inner width, each spacingMM from the next and at least
// marginMM from the wall, all in mm: the largest n with (R_n - 1) spacing / 2 <= width / 2 - margin, R_n being the
// packing of n circles. It counts to [MostStems]; 0 when not even one stands.
func StemsIn(widthMM, spacingMM, marginMM float64) (int, error) {
	if err := allPositive(given{"width_mm", widthMM}, given{"spacing_mm", spacingMM}); err != nil {
		return 0, err
	}
	if err := positive("margin_mm", marginMM, true); err != nil {
		return 0, err
	}
	room := widthMM/2 - marginMM
	n := 0
	for i, r := range packing {
		if (r-1)*spacingMM/2 <= room*(1+1e-9) && room >= 0 {
			n = i + 1
		}
	}
	return n, nil
}

// Feed is how much of a feed makes a volume of water of a share of the label's strength: dose share per litre.
func Feed(labelPerL, share, volumeML float64) (float64, error) {
	if err := allPositive(given{"label_per_l", labelPerL}, given{"share", share}, given{"volume_ml", volumeML}); err != nil {
		return 0, err
	}
	if share > 1 {
		return 0, plant.Refuse("share", "never stronger than the label: 1 at most")
	}
	return labelPerL * share * volumeML / 1000, nil
}

// JarWater is the water in ml for a round jar of an inner width in which it is to stand levelMM above the floor, with
// stems of a thickness reaching depthMM under it: pi / 4 (width^2 level - stems thickness^2 depth). rise is by how many mm
// the stems lift it: stems thickness^2 depth / width^2. Stems deeper than the water, or filling the jar, are refused.
// published: the volume of a cylinder; a body under water displaces its own volume (Archimedes).
func JarWater(widthMM, levelMM, stems, thicknessMM, depthMM float64) (ml, rise float64, err error) {
	if err := allPositive(given{"width_mm", widthMM}, given{"level_mm", levelMM}); err != nil {
		return 0, 0, err
	}
	if err := errors.Join(positive("stems", stems, true), positive("thickness_mm", thicknessMM, true), positive("depth_mm", depthMM, true)); err != nil {
		return 0, 0, err
	}
	if depthMM > levelMM {
		return 0, 0, plant.Refuse("depth_mm", "deeper than the water stands")
	}
	under := stems * thicknessMM * thicknessMM * depthMM
	if stems*thicknessMM*thicknessMM >= widthMM*widthMM {
		return 0, 0, plant.Refuse("stems", "that many of that thickness do not fit into the jar")
	}
	return math.Pi / 4 * (widthMM*widthMM*levelMM - under) / 1000, under / (widthMM * widthMM), nil
}
