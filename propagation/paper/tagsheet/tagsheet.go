// Package tagsheet prints tags for cuttings as PDF: the code, the full name, the nodes, the
// date, which end is up, and a QR code of known size that a photo can be measured by.
//
// All lengths are mm. The QR payload is "CJ1:" and the cutting's short tag. The same tags give
// the same bytes.
package tagsheet

import (
	"bytes"
	"fmt"
	"time"

	"codeberg.org/go-pdf/fpdf"
	"github.com/boombuler/barcode/qr"
	"github.com/go-fonts/dejavu/dejavusans"
	"github.com/go-fonts/dejavu/dejavusansbold"

	"clearjar/core/plant"
)

// Tag is what one tag says.
type Tag struct {
	Short string
	Code  string
	Name  string
	Nodes string
	// Medium it is set in; empty before it is set.
	Medium string
	Up     string
	CutOn  time.Time
}

// Payload is what the QR code of a tag holds.
func (t Tag) Payload() string { return "CJ1:" + t.Short }

// Size is one size of tag, in mm.
type Size struct {
	Key    string  `json:"key"`
	Label  string  `json:"label"`
	Width  float64 `json:"width_mm"`
	Height float64 `json:"height_mm"`
	// QR is the side of the printed code from its first to its last dark square.
	QR float64 `json:"qr_mm"`
	// Code and Text are the type sizes in points.
	code, text float64
}

// Sizes lists the sizes of tags.
func Sizes() []Size {
	return []Size{
		{"tape", "tape for a jar, 62 x 14 mm", 62, 14, 10, 9, 5.6},
		{"stick", "stick label, 100 x 17 mm", 100, 17, 12.6, 12, 7},
		{"hang", "hang tag, 70 x 38 mm", 70, 38, 21, 15, 8.5},
	}
}

// SizeNamed finds a size by its key.
func SizeNamed(key string) (Size, error) {
	for _, s := range Sizes() {
		if s.Key == key {
			return s, nil
		}
	}
	return Size{}, plant.Refuse("size", "choose tape, stick or hang")
}

// Spot is where a tag lies on its sheet.
type Spot struct {
	Page       int
	XMM, YMM   float64
	QRX, QRY   float64
	QRSideMM   float64
	PageWidth  float64
	PageHeight float64
}

const (
	pageWidth  = 210.0
	pageHeight = 297.0
	margin     = 12.0
	gap        = 2.0
	// MostTags on one order.
	MostTags = 200
)

// Layout places n tags on A4 sheets, row by row. A single tag gets a page of its own size.
func Layout(n int, s Size) []Spot {
	out := make([]Spot, 0, n)
	if n == 1 {
		return append(out, s.spot(0, 0, 0, s.Width, s.Height))
	}
	across := int((pageWidth - 2*margin + gap) / (s.Width + gap))
	down := int((pageHeight - 2*margin + gap) / (s.Height + gap))
	for i := range n {
		page, at := i/(across*down), i%(across*down)
		out = append(out, s.spot(page, margin+float64(at%across)*(s.Width+gap), margin+float64(at/across)*(s.Height+gap), pageWidth, pageHeight))
	}
	return out
}

func (s Size) spot(page int, x, y, w, h float64) Spot {
	inset := (s.Height - s.QR) / 2
	if s.Key == "hang" {
		inset = 5
	}
	qy := y + (s.Height-s.QR)/2
	return Spot{page, x, y, x + inset, qy, s.QR, w, h}
}

// Print writes the tags as PDF.
func Print(tags []Tag, s Size, made time.Time) ([]byte, error) {
	switch {
	case len(tags) == 0:
		return nil, plant.Refuse("cuttings", "choose at least one cutting")
	case len(tags) > MostTags:
		return nil, plant.Refuse("cuttings", "at most %d tags at once", MostTags)
	}
	spots := Layout(len(tags), s)
	size := fpdf.SizeType{Wd: spots[0].PageWidth, Ht: spots[0].PageHeight}
	pdf := fpdf.NewCustom(&fpdf.InitType{UnitStr: "mm", Size: size})
	pdf.SetAutoPageBreak(false, 0)
	pdf.SetMargins(0, 0, 0)
	pdf.SetCreationDate(made)
	pdf.SetModificationDate(made)
	pdf.SetCatalogSort(true)
	pdf.SetTitle("Tags", true)
	pdf.AddUTF8FontFromBytes("body", "", dejavusans.TTF)
	pdf.AddUTF8FontFromBytes("body", "B", dejavusansbold.TTF)
	page := -1
	for i, t := range tags {
		if spots[i].Page != page {
			// A label wider than high is a page lying on its side.
			pdf.AddPageFormat("P", size)
			page = spots[i].Page
		}
		if err := drawTag(pdf, t, s, spots[i]); err != nil {
			return nil, err
		}
	}
	var out bytes.Buffer
	if err := pdf.Output(&out); err != nil {
		return nil, fmt.Errorf("tag sheet: %w", err)
	}
	return out.Bytes(), nil
}

func drawTag(pdf *fpdf.Fpdf, t Tag, s Size, at Spot) error {
	pdf.SetDrawColor(170, 160, 140)
	pdf.SetLineWidth(0.1)
	pdf.Rect(at.XMM, at.YMM, s.Width, s.Height, "D")
	if err := drawQR(pdf, t.Payload(), at); err != nil {
		return err
	}
	left := at.QRX + s.QR + 2.5
	right := at.XMM + s.Width - 2
	if s.Key == "hang" {
		pdf.Circle(right-2.5, at.YMM+4.5, 2, "D") // the hole for the string
	}
	drawArrow(pdf, right-3, at.YMM+s.Height-2.2, min(9, s.Height-6))
	lines := []string{t.Name, t.Nodes + ", cut " + t.CutOn.Format("2 Jan 2006")}
	if t.Medium != "" {
		lines[1] += ", " + t.Medium
	}
	if s.Key == "hang" {
		lines = []string{t.Name, t.Nodes, "cut " + t.CutOn.Format("2 Jan 2006"), t.Medium, t.Short}
	}
	pdf.SetTextColor(31, 47, 41)
	y := at.YMM + s.code*pointMM + 1.2
	if s.Key == "hang" {
		y += 3
	}
	for i := range lines {
		lines[i] = plant.Printable(lines[i])
	}
	pdf.SetFont("body", "B", s.code)
	pdf.Text(left, y, fitted(pdf, "B", t.Code, s.code, right-left-8))
	for _, l := range lines {
		for _, row := range rows(pdf, l, s, right-left-6) {
			y += s.text * pointMM * 1.32
			pdf.Text(left, y, fitted(pdf, "", row, s.text, right-left-6))
		}
	}
	return nil
}

const pointMM = 25.4 / 72

// rows breaks a text at its words where the tag has room for more than one line.
func rows(pdf *fpdf.Fpdf, text string, s Size, width float64) []string {
	if text == "" {
		return nil
	}
	pdf.SetFont("body", "", s.text)
	if s.Key != "hang" || pdf.GetStringWidth(text) <= width {
		return []string{text}
	}
	return pdf.SplitText(text, width)
}

// drawQR draws the code as squares, without the quiet zone, which the paper gives.
func drawQR(pdf *fpdf.Fpdf, payload string, at Spot) error {
	code, err := qr.Encode(payload, qr.M, qr.Auto)
	if err != nil {
		return fmt.Errorf("QR code: %w", err)
	}
	n := code.Bounds().Dx()
	dark := func(x, y int) bool {
		r, _, _, _ := code.At(x, y).RGBA()
		return r == 0
	}
	side := at.QRSideMM / float64(n)
	pdf.SetFillColor(0, 0, 0)
	for y := range n {
		for x := 0; x < n; x++ {
			run := 0
			for x+run < n && dark(x+run, y) {
				run++
			}
			if run > 0 {
				// A hair more, so that no white line shows between squares.
				pdf.Rect(at.QRX+float64(x)*side, at.QRY+float64(y)*side, float64(run)*side, side*1.02, "F")
				x += run
			}
		}
	}
	return nil
}

// drawArrow points to the end that is up.
func drawArrow(pdf *fpdf.Fpdf, x, foot, height float64) {
	pdf.SetDrawColor(31, 47, 41)
	pdf.SetLineWidth(0.35)
	top := foot - height
	pdf.Line(x, foot-2.6, x, top)
	pdf.Line(x, top, x-1.2, top+1.8)
	pdf.Line(x, top, x+1.2, top+1.8)
	pdf.SetFont("body", "", 5)
	pdf.SetTextColor(31, 47, 41)
	pdf.Text(x-1.5, foot, "up")
}

// leastShare is how far type is made smaller before a text is cut off.
const leastShare = 0.6

// fitted sets the type as large as the text has room for, and cuts off only what would be too small to read.
func fitted(pdf *fpdf.Fpdf, style, text string, size, width float64) string {
	pdf.SetFont("body", style, size)
	if w := pdf.GetStringWidth(text); w > width {
		pdf.SetFont("body", style, size*max(leastShare, width/w*0.99))
	}
	runes := []rune(text)
	for cut := text; len(runes) > 1; cut = string(runes) + "..." {
		if pdf.GetStringWidth(cut) <= width {
			return cut
		}
		runes = runes[:len(runes)-1]
	}
	return text
}
