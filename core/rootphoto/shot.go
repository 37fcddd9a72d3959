package rootphoto

import (
	"clearjar/core/number"
	"clearjar/core/plant"
)

// What a shot must be like, told while the camera is held: shares are of the longer side of the frame, or of its pixels.
var (
	ShotTagLeast = number.Define(plant.Number{Key: "rootphoto.shot_tag_least", Label: "A tag's code fills at least this part of the frame's longer side", Value: 0.045, Low: 0.01, High: 0.5, Unit: "fraction", Basis: plant.Assumed("a photo of 2500 pixels then has 5 to a mm, as few as roots were found with")})
	ShotTagMost  = number.Define(plant.Number{Key: "rootphoto.shot_tag_most", Label: "and at most this part", Value: 0.3, Low: 0.05, High: 1, Unit: "fraction", Basis: plant.Assumed("nearer, the vessel beside it does not fit into the frame")})
	ShotTilt     = number.Define(plant.Number{Key: "rootphoto.shot_tilt", Label: "The sides of a tag may differ by", Value: 1.15, Low: 1.01, High: 3, Unit: "times", Basis: plant.Assumed("seen 30 degrees aslant a square is 1.15 times as long as it is wide")})
	ShotGlare    = number.Define(plant.Number{Key: "rootphoto.shot_glare", Label: "Pixels that are blown out, at most", Value: 0.04, Unit: "fraction", Basis: plant.Assumed("rendered photos have at most half a percent, those with a lamp in the glass 8")})
	ShotDark     = number.Define(plant.Number{Key: "rootphoto.shot_dark", Label: "Mean brightness of a frame, at least", Value: 60, Low: 0, High: 200, Unit: "of 255", Basis: plant.Assumed("rendered photos have 137 to 188")})
	ShotSharp    = number.Define(plant.Number{Key: "rootphoto.shot_sharp", Label: "Sharpness of a frame of 640 pixels, at least", Value: 0.05, Low: 0.0001, High: 5, Unit: "Laplacian over contrast, squared", Basis: plant.Assumed("70 rendered photos have 0.39 to 1.8; blurred by 1.5 pixels, 0.007 to 0.04")})
)
