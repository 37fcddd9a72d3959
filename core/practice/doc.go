// Package practice simulates cuttings whose truth is known, lets them be looked at as a grower looks, and says what potting on a day
// came to. The benchmark of the model draws from it, and so can an exercise.
//
// In: a seed and a setting. Out: cases, looks in the words of the model, results 0 to 1 (the chance to grow on). The same seed gives
// the same case. All of it is a simulated world: it checks the arithmetic and compares rules, and says nothing of nature.
package practice
