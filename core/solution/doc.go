// Package solution does the arithmetic of the mixing corner: strengths, dilutions, weighing, mixes by parts, volumes of
// pots, and how many stems stand in one.
//
// Amounts are ml and mg, lengths mm, strengths mg per litre. Every formula stands at its function; what cannot be (a
// target stronger than the stock) is refused by field. Percent are weight in volume: 1 % = 10 g per litre, which takes
// the litre as weighing a kilogram; in talc they are weight in weight, and the same numbers hold per kilogram.
package solution
