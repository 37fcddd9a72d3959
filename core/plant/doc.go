// Package plant holds the words every other package shares: growth groups,
// media, nodes, stems, pieces, looks and verdicts.
//
// Units: millimetres, millilitres, days, fractions 0-1. Nodes are numbered from
// the base of the stem (1) to its tip. A day is a calendar day in the grower's
// own time zone, passed in by the caller: nothing here reads a clock.
//
// Every number of the job is a [Number] and carries its [Basis], so that the
// screen can say where it comes from. Facts live in plain values that marshal to
// JSON with the same names the database, the contract and the screen use.
package plant
