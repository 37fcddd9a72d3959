// Package care says what is due for a vessel on a day: water, air, moisture, the next step of hardening off, and what
// to leave alone until when. It follows from what the vessel is, what stands in it, what was done and what was seen
// last, and the schools the grower goes by; a pure function of facts and a day.
package care
