// Package rootphoto turns lines drawn on a photo into root lengths in mm, by two points a known distance apart: the way
// without a tag. How a photo measures itself is in the packages below it; measure puts them together.
//
// In: two points of a [plant.Scale] a known distance apart, and the traced
// polyline of each root, both in pixels of the upright picture. Out: each length
// in mm with an interval. Method: Euclidean length of the polyline over the scale;
// the interval comes from how well a fingertip or mouse places a point
// ([PointError]). What one photo cannot know is said: roots in a round jar are
// magnified sideways (textbook optics of a cylinder of water), and a root pointing
// at the camera is foreshortened.
package rootphoto
