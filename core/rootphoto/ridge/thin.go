package ridge

// Mask is what belongs to something: a pixel each, row by row.
type Mask struct {
	W, H int
	On   []bool
}

// NewMask is an empty mask.
func NewMask(w, h int) Mask { return Mask{w, h, make([]bool, w*h)} }

// removable tells, for the eight neighbours of a pixel as bits (0 above, then clockwise), in which of the two passes of a
// round the pixel may go: bit 0 the first, bit 1 the second.
var removable = func() (table [256]uint8) {
	for bits := range table {
		var p [8]int
		sum := 0
		for i := range p {
			p[i] = bits >> i & 1
			sum += p[i]
		}
		turns := 0
		for i := range p {
			if p[i] == 0 && p[(i+1)%8] == 1 {
				turns++
			}
		}
		if sum < 2 || sum > 6 || turns != 1 {
			continue
		}
		n, e, s, w := p[0], p[2], p[4], p[6]
		if n*e*s == 0 && e*s*w == 0 {
			table[bits] |= 1
		}
		if n*e*w == 0 && n*s*w == 0 {
			table[bits] |= 2
		}
	}
	return table
}()

// Thin thins a mask to lines one pixel wide, its connections left as they are. What touches the edge of the picture is
// taken to end there.
// published: Zhang & Suen, Communications of the ACM 27, 1984.
func Thin(m Mask) Mask {
	// A frame around it spares every look beyond the edge. around is, for each pixel, which of its neighbours are on.
	w, h := m.W+2, m.H+2
	on, around := make([]bool, w*h), make([]uint8, w*h)
	for y := range m.H {
		copy(on[(y+1)*w+1:], m.On[y*m.W:(y+1)*m.W])
	}
	step := [8]int{-w, -w + 1, 1, w + 1, w, w - 1, -1, -w - 1}
	// A pixel is looked at in a pass only when a neighbour went since it was last looked at in that pass.
	var due [2][]int32
	asked := make([]uint8, w*h)
	for y := 1; y <= m.H; y++ {
		for x := 1; x <= m.W; x++ {
			at := y*w + x
			if !on[at] {
				continue
			}
			bits := uint8(0)
			for i, d := range step {
				if on[at+d] {
					bits |= 1 << i
				}
			}
			around[at] = bits
			if bits != 0xff {
				asked[at] = 3
				due[0], due[1] = append(due[0], int32(at)), append(due[1], int32(at)) //nolint:gosec // pixels of a picture
			}
		}
	}
	gone := []int32{}
	for removed := true; removed; {
		removed = false
		for pass := range 2 {
			bit := uint8(1) << pass
			gone = gone[:0]
			for _, at := range due[pass] {
				asked[at] &^= bit
				if on[at] && removable[around[at]]&bit != 0 {
					gone = append(gone, at)
				}
			}
			due[pass] = due[pass][:0]
			for _, at := range gone {
				on[at] = false
			}
			for _, at := range gone {
				for i, d := range step {
					near := int(at) + d
					// It is the neighbour on the other side of its neighbour.
					around[near] &^= 1 << ((i + 4) % 8)
					if !on[near] || asked[near] == 3 {
						continue
					}
					for p := range 2 {
						if asked[near]&(1<<p) == 0 {
							due[p] = append(due[p], int32(near)) //nolint:gosec // pixels of a picture
						}
					}
					asked[near] = 3
				}
			}
			removed = removed || len(gone) > 0
		}
	}
	out := NewMask(m.W, m.H)
	for y := range m.H {
		copy(out.On[y*m.W:(y+1)*m.W], on[(y+1)*w+1:])
	}
	return out
}

// neighbours are the pixels a pixel of a thinned mask is linked to.
func (m Mask) neighbours(at int) (next [8]int, n int) {
	x, y := at%m.W, at/m.W
	on := func(dx, dy int) bool {
		u, v := x+dx, y+dy
		return u >= 0 && v >= 0 && u < m.W && v < m.H && m.On[v*m.W+u]
	}
	for _, d := range [4][2]int{{1, 0}, {0, 1}, {-1, 0}, {0, -1}} {
		if on(d[0], d[1]) {
			next[n], n = at+d[1]*m.W+d[0], n+1
		}
	}
	for _, d := range [4][2]int{{1, 1}, {-1, 1}, {-1, -1}, {1, -1}} {
		if on(d[0], d[1]) && !on(d[0], 0) && !on(0, d[1]) {
			next[n], n = at+d[1]*m.W+d[0], n+1
		}
	}
	return next, n
}

// Chains are the lines of a thinned mask, each from an end or a branching to the next, as pixels; rings begin anywhere.
func (m Mask) Chains() [][]int {
	out := [][]int{}
	type link struct{ a, b int }
	walked := map[link]bool{}
	walk := func(from, to int) {
		if walked[link{from, to}] {
			return
		}
		chain := []int{from, to}
		walked[link{from, to}], walked[link{to, from}] = true, true
		for {
			here := chain[len(chain)-1]
			next, n := m.neighbours(here)
			if n != 2 {
				break
			}
			on := next[0]
			if on == chain[len(chain)-2] {
				on = next[1]
			}
			if walked[link{here, on}] {
				break
			}
			walked[link{here, on}], walked[link{on, here}] = true, true
			chain = append(chain, on)
		}
		out = append(out, chain)
	}
	for _, rings := range []bool{false, true} {
		for at, on := range m.On {
			if !on {
				continue
			}
			next, n := m.neighbours(at)
			if n == 2 && !rings {
				continue
			}
			for _, to := range next[:n] {
				walk(at, to)
			}
		}
	}
	return out
}
