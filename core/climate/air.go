package climate

import (
	"errors"
	"math"

	"clearjar/core/plant"
)

// The coefficients of equation 11.
// published: Allen, Pereira, Raes, Smith: Crop evapotranspiration, FAO Irrigation and Drainage Paper 56, 1998 (from memory).
const (
	es0   = 0.6108 // kPa at 0 degrees C
	slope = 17.27
	shift = 237.3 // degrees C
)

// Air is what a hygrometer says.
type Air struct {
	TempC float64 `json:"temp_c"`
	// HumidityPct is relative, 0 to 100.
	HumidityPct float64 `json:"humidity_pct"`
}

// Check refuses air that no sensor in a box can have met, naming every field that is wrong.
func (a Air) Check() error {
	var all []error
	if !(a.TempC >= -30 && a.TempC <= 70) {
		all = append(all, plant.Refuse("temp_c", "between -30 and 70 degrees C"))
	}
	if !(a.HumidityPct >= 0 && a.HumidityPct <= 100) {
		all = append(all, plant.Refuse("humidity_pct", "between 0 and 100 %%"))
	}
	return errors.Join(all...)
}

// SaturationKPa is the vapour pressure in kPa at which air of a temperature in degrees C is full:
// 0.6108 exp(17.27 T / (T + 237.3)), FAO-56 equation 11.
func SaturationKPa(tempC float64) float64 { return es0 * math.Exp(slope*tempC/(tempC+shift)) }

// SlopeKPa is how steeply [SaturationKPa] rises, in kPa a degree: 4098 es / (T + 237.3)^2, FAO-56 equation 13.
func SlopeKPa(tempC float64) float64 {
	return 4098 * SaturationKPa(tempC) / ((tempC + shift) * (tempC + shift))
}

// VapourKPa is the vapour pressure of the air in kPa: es(T) RH / 100.
func (a Air) VapourKPa() float64 { return SaturationKPa(a.TempC) * a.HumidityPct / 100 }

// DeficitKPa is what the air still takes up, in kPa: es(T) - ea, 0 when it is full.
func (a Air) DeficitKPa() float64 { return SaturationKPa(a.TempC) - a.VapourKPa() }

// LeafDeficitKPa is what a leaf of a temperature loses to this air, in kPa: es(Tleaf) - ea. Negative: dew on the leaf.
func (a Air) LeafDeficitKPa(leafC float64) float64 { return SaturationKPa(leafC) - a.VapourKPa() }

// DewPointC is the temperature in degrees C at which this air is full: equation 11 turned round,
// 237.3 x / (17.27 - x) with x = ln(ea / 0.6108). ok is false for air without any water.
func (a Air) DewPointC() (c float64, ok bool) {
	if a.HumidityPct <= 0 {
		return 0, false
	}
	x := math.Log(a.VapourKPa() / es0)
	return shift * x / (slope - x), true
}

// published: molar mass of water 18.01528 g/mol (CIAAW), molar gas constant 8.31446261815324 J/(mol K) (SI 2019).
const (
	waterGMol = 18.01528
	gasJMolK  = 8.31446261815324
	zeroK     = 273.15
)

// WaterGM3 is the water in the air in g per m3: ea M / (R T).
func (a Air) WaterGM3() float64 {
	return a.VapourKPa() * 1000 * waterGMol / (gasJMolK * (a.TempC + zeroK))
}
