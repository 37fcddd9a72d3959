package solution

import (
	"errors"
	"math"

	"clearjar/core/plant"
)

// Unit is how a strength is written.
type Unit string

// The units. One ppm is one mg per litre of water, or per kilogram of talc.
const (
	Percent Unit = "percent"
	PPM     Unit = "ppm"
	MgPerL  Unit = "mg_per_l"
	GPerL   Unit = "g_per_l"
)

// inMgPerL is one of each unit in mg per litre.
var inMgPerL = map[Unit]float64{Percent: 10_000, PPM: 1, MgPerL: 1, GPerL: 1000}

// Strength converts a strength from one unit to another. A unit that is none, and a strength below 0, are refused.
func Strength(value float64, from, to Unit) (float64, error) {
	a, ok := inMgPerL[from]
	if !ok {
		return 0, plant.Refuse("unit", "%q is not a unit: percent, ppm, mg_per_l or g_per_l", from)
	}
	b, ok := inMgPerL[to]
	if !ok {
		return 0, plant.Refuse("to", "%q is not a unit: percent, ppm, mg_per_l or g_per_l", to)
	}
	if err := positive("strength", value, true); err != nil {
		return 0, err
	}
	return value * a / b, nil
}

// positive refuses what is no number, below 0, or 0 where that is senseless.
func positive(field string, v float64, orZero bool) error {
	switch {
	case math.IsNaN(v) || math.IsInf(v, 0):
		return plant.Refuse(field, "is not a number")
	case v < 0 || (v == 0 && !orZero):
		return plant.Refuse(field, "must be more than 0")
	}
	return nil
}

// given is a value with the field it came in.
type given struct {
	field string
	value float64
}

// allPositive names every field that is not more than 0.
func allPositive(fields ...given) error {
	var all []error
	for _, g := range fields {
		all = append(all, positive(g.field, g.value, false))
	}
	return errors.Join(all...)
}

// Dilution is how a stock is thinned.
type Dilution struct {
	StockML   float64 `json:"stock_ml"`
	DiluentML float64 `json:"diluent_ml"`
	// Factor is stock over target; Parts are parts of diluent to one of stock.
	Factor float64 `json:"factor"`
	Parts  float64 `json:"parts"`
}

// Dilute says how much stock makes finalML of a target strength, both strengths in the same unit:
// C1 V1 = C2 V2, so V1 = V2 C2 / C1. A target stronger than the stock is refused.
func Dilute(stock, target, finalML float64) (Dilution, error) {
	if err := allPositive(given{"stock", stock}, given{"target", target}, given{"final_ml", finalML}); err != nil {
		return Dilution{}, err
	}
	if target > stock {
		return Dilution{}, plant.Refuse("target", "stronger than the stock: thinning never makes it so")
	}
	v := finalML * target / stock
	return Dilution{v, finalML - v, stock / target, stock/target - 1}, nil
}

// WeighOut is how many mg of a substance of a purity (0 to 1) make a volume in ml of a strength in mg per litre:
// m = c V / purity.
func WeighOut(mgPerL, volumeML, purity float64) (float64, error) {
	if err := allPositive(given{"mg_per_l", mgPerL}, given{"volume_ml", volumeML}, given{"purity", purity}); err != nil {
		return 0, err
	}
	if purity > 1 {
		return 0, plant.Refuse("purity", "a share of 1 at most")
	}
	return mgPerL * volumeML / 1000 / purity, nil
}

// TwoStrengths says how much of a strong and of a weak one make a total of a strength between them (alligation):
// strong = total (target - low) / (high - low).
func TwoStrengths(high, low, target, total float64) (strong, weak float64, err error) {
	if err := allPositive(given{"high", high}, given{"total", total}); err != nil {
		return 0, 0, err
	}
	if err := positive("low", low, true); err != nil {
		return 0, 0, err
	}
	if !(high > low) || !(target >= low && target <= high) {
		return 0, 0, plant.Refuse("target", "must lie between the two: %g to %g", low, high)
	}
	strong = total * (target - low) / (high - low)
	return strong, total - strong, nil
}

// MmolPerL is a strength in mg per litre as mmol per litre: c / M, M being the molar mass in g per mol.
func MmolPerL(mgPerL, molarMassG float64) (float64, error) {
	if err := positive("molar_mass_g", molarMassG, false); err != nil {
		return 0, err
	}
	return mgPerL / molarMassG, nil
}

// ByParts shares a total by parts: total p_i / sum of p. At least one part must be more than 0, none less.
func ByParts(parts []float64, total float64) ([]float64, error) {
	sum := 0.0
	for _, p := range parts {
		if err := positive("parts", p, true); err != nil {
			return nil, err
		}
		sum += p
	}
	if sum == 0 {
		return nil, plant.Refuse("parts", "at least one part")
	}
	if err := positive("total", total, true); err != nil {
		return nil, err
	}
	out := make([]float64, len(parts))
	for i, p := range parts {
		out[i] = total * p / sum
	}
	return out, nil
}
