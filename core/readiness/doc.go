// Package readiness answers, for one cutting, whether to pot it up, wait, look
// again or rescue it, and why.
//
// In: the facts of the cutting ([Evidence]: its growth group, medium, set nodes,
// days and looks) and the school the grower follows. Out: a [Judgement]: the
// verdict, one sentence, the evidence that is met, unmet, unknown and contrary,
// the next look, and the one question that would settle it.
//
// Two steps: [Decide] gives a [Decision] in values (the verdict, the [Ground] that decided, the [Finding] of each
// criterion); [Say] puts it into sentences and decides nothing. decide.go, criteria.go, sign.go and question.go
// decide; the files named say say.
//
// Method: each school is a list of criteria. A criterion is met, unmet or unknown
// from the newest look that noted it. Contrary evidence (soft stem, mushy roots)
// overrules every school. Root colour is judged by what is healthy for the growth
// group and never alone: a squeeze decides. A look grows stale with time; a stale
// one settles nothing.
package readiness
