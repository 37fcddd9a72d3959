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

// When a photo that was taken is too blurred, too dark or too glaring to be trusted, and what is taken where it does not
// tell its lens.
var (
	PhotoBlur  = number.Define(plant.Number{Key: "rootphoto.photo_blur", Label: "A photo is blurred when its sharpest edges are smeared by more than", Value: 0.45, Low: 0.05, High: 5, Unit: "mm", Basis: plant.Assumed("thin roots are half a mm wide; not tried on photos of cameras")})
	PhotoDark  = number.Define(plant.Number{Key: "rootphoto.photo_dark", Label: "A photo is dark when half of it is below a lightness of", Value: 18, Low: 0, High: 60, Unit: "of 100", Basis: plant.Assumed("not tried on photos of cameras")})
	PhotoGlare = number.Define(plant.Number{Key: "rootphoto.photo_glare", Label: "Glare lies over a photo when more of it is white without any drawing than", Value: 0.06, Unit: "fraction", Basis: plant.Assumed("not tried on photos of cameras")})
	PhotoFocal = number.Define(plant.Number{Key: "rootphoto.photo_focal", Label: "Focal length of a photo that does not tell it, as on 35 mm film", Value: 26, Low: 10, High: 200, Unit: "mm", Basis: plant.Assumed("the main camera of most phones")})
)
