// Package learn shifts starting values by a grower's own records: how much later than usual pieces root, how fast roots grow, how
// many succeed; and holds two ways of growing against each other.
//
// In: records of single pieces, times as effective days since setting. Out: beliefs with how sure they are. All in closed form or on
// a fixed grid, so that the same records give the same belief. A belief is what the model starts from; the screen shows it beside the
// starting value.
package learn
