// Package scenario weighs what is known of a cutting into 127 simulated cuttings that fit it, each with a weight: when the
// first root came or will come, how fast it grows, how many follow, when the leaf opens. What is asked of the future is a
// weighted mean over this one list: the chance of being ready, the day, what waiting costs, what a look is worth.
//
// In: the numbers of the group as a model (first roots, rate, further roots, leaf, rot), the facts as looks at days since
// setting, and a clock that turns days into effective days by warmth and season. Out: scenarios, chances 0 to 1, days since
// setting. The same facts give the same scenarios, to the last bit: the points are a fixed lattice, nothing is drawn.
// Nothing in the model is published except the methods; each of its numbers says what it rests on.
package scenario
