package show

import (
	"context"

	"clearjar/core/cutplan"
	"clearjar/core/plant"
	"clearjar/core/stats"
	"clearjar/propagation"
)

// OfferedPiece is a piece someone offers.
type OfferedPiece struct {
	GroupKey string `json:"group_key"`
	cutplan.Offer
}

// WeighOffer tells what chance an offered piece has, what would raise it, and what to ask.
func WeighOffer(ctx context.Context, g *propagation.Garden, o OfferedPiece) (cutplan.OfferAnswer, error) {
	group, ok := plant.GroupNamed(o.GroupKey)
	if !ok {
		return cutplan.OfferAnswer{}, plant.Refuse("group_key", "choose a growth group from the table")
	}
	sheet, err := g.Sheet(ctx)
	if err != nil {
		return cutplan.OfferAnswer{}, err
	}
	return cutplan.Worth(group, plant.InDarkHalf(g.Today(), g.Southern), sheet, o.Offer)
}

// HowManyWish asks how many pieces to take.
type HowManyWish struct {
	Plants    int     `json:"plants" minimum:"1" maximum:"1000"`
	Certainty float64 `json:"certainty"`
	Chance    float64 `json:"chance"`
	// Records is on how many pieces the chance rests; 0 for taking it as sure.
	Records float64 `json:"records" minimum:"0" maximum:"100000"`
}

// HowManyAnswer is how many pieces to take, and what that reaches.
type HowManyAnswer struct {
	Pieces  int     `json:"pieces"`
	Reached float64 `json:"reached"`
	// Naive is plants over chance, what one would take without reckoning with luck.
	Naive int `json:"naive"`
	// NaiveReached is what the naive number reaches.
	NaiveReached float64 `json:"naive_reached"`
	// LowChance and HighChance hold the true chance in 90 of 100 cases when it rests on records.
	LowChance  float64 `json:"low_chance"`
	HighChance float64 `json:"high_chance"`
}

// HowMany is the smallest number of pieces of which enough succeed with the wanted certainty.
func HowMany(w HowManyWish) (HowManyAnswer, error) {
	var a HowManyAnswer
	var err error
	if w.Records == 0 {
		a.Pieces, a.Reached, err = stats.HowMany(w.Plants, w.Chance, w.Certainty)
		a.LowChance, a.HighChance = w.Chance, w.Chance
	} else {
		if !(w.Chance > 0 && w.Chance <= 1) {
			return a, plant.Refuse("chance", "the chance of one piece must be above 0 %% and at most 100 %%")
		}
		b := stats.Believe(w.Chance, w.Records)
		a.Pieces, a.Reached, err = stats.HowManyByRecords(w.Plants, b.A, b.B, w.Certainty)
		a.LowChance, a.HighChance = b.Quantile(0.05), b.Quantile(0.95)
	}
	if err != nil {
		return HowManyAnswer{}, err
	}
	a.Naive = stats.Naive(w.Plants, w.Chance)
	if w.Records == 0 {
		a.NaiveReached = stats.BinomialAtLeast(a.Naive, w.Plants, w.Chance)
	} else {
		b := stats.Believe(w.Chance, w.Records)
		a.NaiveReached = stats.BetaBinomialAtLeast(a.Naive, w.Plants, b.A, b.B)
	}
	return a, nil
}
