package footfall

import "math"

// Map is the chance, cell by cell, that some foot of a visit would be on a pan centred there: rows of ascending y, in each
// row ascending x. (X0Mm, Y0Mm) is the centre of the first cell.
type Map struct {
	X0Mm   float64   `json:"x0Mm"`
	Y0Mm   float64   `json:"y0Mm"`
	CellMm float64   `json:"cellMm"`
	Cols   int       `json:"cols"`
	Rows   int       `json:"rows"`
	Chance []float64 `json:"chance"`
}

// Best is the cell with the highest chance; ties go to the lower y, then the lower x.
type Best struct {
	XMm    float64 `json:"xMm"`
	YMm    float64 `json:"yMm"`
	Chance float64 `json:"chance"`
}

// Best is the best place on the map.
func (m *Map) Best() Best {
	top := 0
	for i, c := range m.Chance {
		if c > m.Chance[top] {
			top = i
		}
	}
	return Best{
		XMm:    m.X0Mm + m.CellMm*float64(top%m.Cols),
		YMm:    m.Y0Mm + m.CellMm*float64(top/m.Cols),
		Chance: m.Chance[top],
	}
}

// At is the chance at a place, between the cells about it, and whether the map reaches there.
func (m *Map) At(xMm, yMm float64) (float64, bool) {
	col, row := (xMm-m.X0Mm)/m.CellMm, (yMm-m.Y0Mm)/m.CellMm
	if !(col >= 0 && row >= 0 && col <= float64(m.Cols-1) && row <= float64(m.Rows-1)) {
		return 0, false
	}
	// At the last centre of a row or column the cells before it are asked, which then do not count.
	c, r := min(int(col), m.Cols-2), min(int(row), m.Rows-2)
	dx, dy := col-float64(c), row-float64(r)
	here, above := m.Chance[r*m.Cols+c:], m.Chance[(r+1)*m.Cols+c:]
	return (here[0]*(1-dx)+here[1]*dx)*(1-dy) + (above[0]*(1-dx)+above[1]*dx)*dy, true
}

// Coarser is the map of every second cell, in both directions.
func (m *Map) Coarser() *Map {
	c := &Map{X0Mm: m.X0Mm, Y0Mm: m.Y0Mm, CellMm: 2 * m.CellMm, Cols: (m.Cols + 1) / 2, Rows: (m.Rows + 1) / 2}
	c.Chance = make([]float64, 0, c.Cols*c.Rows)
	for row := 0; row < m.Rows; row += 2 {
		for col := 0; col < m.Cols; col += 2 {
			c.Chance = append(c.Chance, m.Chance[row*m.Cols+col])
		}
	}
	return c
}

// Add lays a share of another map of the same grid over this one.
func (m *Map) Add(other *Map, share float64) {
	for i, chance := range other.Chance {
		m.Chance[i] += share * chance
	}
}

const (
	cellMm = 10.0
	// planes is how many binary digits count the visits of a block: 2⁹ is more than 500.
	planes = 9
)

// cells counts, for every cell of the grid at once, the visits that would have put a foot on a pan there. A row of cells is
// a run of bits in 64-bit words; a visit sets the bits that its feet cover, and each word is then added to counters that
// hold the same binary digit of 64 cells in one word, so that 64 cells are counted by a few operations.
type cells struct {
	x0, y0     float64
	cols, rows int
	words      int              // in a row
	visited    []uint64         // this visit's bits
	low, high  int              // the rows that this visit touched
	digits     [][planes]uint64 // this block's counts, digit by digit, for each word
	total      []int
}

func newCells(approach string) *cells {
	c := &cells{x0: -245, y0: -95, cols: 50, rows: 70}
	if approach == Pass {
		c = &cells{x0: -595, y0: -295, cols: 120, rows: 60}
	}
	c.words = (c.cols + 63) / 64
	c.visited = make([]uint64, c.words*c.rows)
	c.digits = make([][planes]uint64, c.words*c.rows)
	c.total = make([]int, c.cols*c.rows)
	return c
}

// visit counts the cells within reach of any of the feet.
func (c *cells) visit(feet []foot, reach float64) {
	c.low, c.high = c.rows, -1
	for _, f := range feet {
		c.cover((f.x-c.x0)/cellMm, (f.y-c.y0)/cellMm, reach/cellMm)
	}
	for i := c.low * c.words; i < (c.high+1)*c.words; i++ {
		carry := c.visited[i]
		c.visited[i] = 0
		digits := &c.digits[i]
		for plane := 0; carry != 0; plane++ {
			digit := digits[plane]
			digits[plane] = digit ^ carry
			carry &= digit
		}
	}
}

// cover sets the bits of the cells whose centres lie within reach of (x, y), all in cells from the first one's centre.
func (c *cells) cover(x, y, reach float64) {
	low, high := max(0, -floor(reach-y)), min(c.rows-1, floor(y+reach))
	if low > high || x+reach < 0 || x-reach > float64(c.cols) {
		return
	}
	c.low, c.high = min(c.low, low), max(c.high, high)
	for row := low; row <= high; row++ {
		dy := float64(row) - y
		half := math.Sqrt(reach*reach - dy*dy)
		from, to := max(0, -floor(half-x)), min(c.cols-1, floor(x+half))
		for word := from / 64; from <= to; word++ {
			end := min(to, 64*word+63)
			c.visited[row*c.words+word] |= ^uint64(0) >> uint(63-(end-from)) << uint(from%64)
			from = end + 1
		}
	}
}

// floor rounds down within the few hundred cells that matter here, quicker than math.Floor.
func floor(v float64) int { return int(v+4096) - 4096 }

// flush adds the block's binary counts to the totals.
func (c *cells) flush() {
	for row := range c.rows {
		for col := range c.cols {
			digits, bit := &c.digits[row*c.words+col/64], uint(col)%64
			n := 0
			for plane, digit := range digits {
				n |= int(digit>>bit&1) << plane
			}
			c.total[row*c.cols+col] += n
		}
	}
	clear(c.digits)
}

func (c *cells) add(other *cells) {
	for i, n := range other.total {
		c.total[i] += n
	}
}

func (c *cells) chance(visits int) *Map {
	m := &Map{X0Mm: c.x0, Y0Mm: c.y0, CellMm: cellMm, Cols: c.cols, Rows: c.rows, Chance: make([]float64, len(c.total))}
	for i, n := range c.total {
		m.Chance[i] = float64(n) / float64(visits)
	}
	return m
}
