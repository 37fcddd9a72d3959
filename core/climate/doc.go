// Package climate works out the air of a box from its temperature and humidity, and the light of a day.
//
// In: air temperature in degrees C, relative humidity in percent, leaf temperature, light in micromol per m2 and second.
// Out: vapour pressure in kPa, the deficit of air and of leaf, dew point, water in the air in g per m3, degree-days,
// daily light. Method: the saturation vapour pressure of FAO Irrigation and Drainage Paper 56, equation 11; the rest
// follows from it. Good from about -20 to 60 degrees C; equation 11 lies 0.01 to 0.13 % below newer formulas there.
package climate
