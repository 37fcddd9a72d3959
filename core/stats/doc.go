// Package stats answers how many plants to expect of pieces that each may fail, and how
// many pieces to take so that enough are left.
//
// In: chances (fractions 0-1) and counts. Out: chances and counts. [PoissonBinomial] is
// the exact distribution of successes when every piece has its own chance; [HowMany]
// is the smallest number of pieces with one common chance (binomial), [HowManyByRecords]
// when that chance itself rests on few records (beta-binomial). Both grow their tables by
// exact recurrences, so nothing is approximated by a normal curve.
package stats
