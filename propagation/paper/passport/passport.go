// Package passport prints what goes with a plant that is given away: its name, where it comes from, what happened to it, how it is kept,
// and the usual caution, as a PDF of one or more A5 pages.
//
// All lengths are mm. The same passport gives the same bytes.
package passport

import (
	"bytes"
	"fmt"
	"time"

	"codeberg.org/go-pdf/fpdf"
	"github.com/go-fonts/dejavu/dejavusans"
	"github.com/go-fonts/dejavu/dejavusansbold"

	"clearjar/core/plant"
)

// Passport is what it says.
type Passport struct {
	Code, Name, Group string
	// Came says how it came into being; Provenance where its mother comes from, as far as it is known.
	Came, Provenance string
	History          []Line
	// Keep are sentences on how to keep it, Cautions what to mind.
	Keep, Cautions []string
	Made           time.Time
}

// Line is one thing that happened.
type Line struct {
	On   time.Time
	Text string
}

const (
	width, height = 148.0, 210.0
	margin        = 14.0
)

// Print writes it as PDF.
func Print(p Passport) ([]byte, error) {
	if p.Code == "" || p.Name == "" {
		return nil, plant.Refuse("code", "a passport names its plant")
	}
	pdf := fpdf.NewCustom(&fpdf.InitType{UnitStr: "mm", Size: fpdf.SizeType{Wd: width, Ht: height}})
	pdf.SetMargins(margin, margin, margin)
	pdf.SetAutoPageBreak(true, margin)
	pdf.SetCreationDate(p.Made)
	pdf.SetModificationDate(p.Made)
	pdf.SetCatalogSort(true)
	pdf.SetTitle("Passport of "+p.Code, true)
	pdf.AddUTF8FontFromBytes("body", "", dejavusans.TTF)
	pdf.AddUTF8FontFromBytes("body", "B", dejavusansbold.TTF)
	pdf.AddPage()
	write := func(style string, size float64, text string) {
		if text == "" {
			return
		}
		pdf.SetFont("body", style, size)
		pdf.MultiCell(0, size*0.48, plant.Printable(text), "", "L", false)
	}
	gap := func(mm float64) { pdf.Ln(mm) }
	pdf.SetTextColor(31, 47, 41)
	write("B", 15, p.Name)
	write("", 9, p.Group)
	gap(2)
	write("B", 11, p.Code)
	write("", 9, p.Came)
	write("", 9, p.Provenance)
	gap(3)
	write("B", 10, "What happened")
	for _, l := range p.History {
		write("", 8, l.On.Format("2 Jan 2006")+"  "+l.Text)
	}
	gap(3)
	write("B", 10, "How to keep it")
	for _, k := range p.Keep {
		write("", 8.5, k)
	}
	if len(p.Cautions) > 0 {
		gap(3)
		write("B", 10, "Mind")
		for _, c := range p.Cautions {
			write("", 8, c)
		}
	}
	gap(3)
	write("", 7, "Written "+p.Made.Format("2 Jan 2006")+" from the grower's own record. Check local rules before you sell, mail or plant out.")
	var out bytes.Buffer
	if err := pdf.Output(&out); err != nil {
		return nil, fmt.Errorf("passport: %w", err)
	}
	return out.Bytes(), nil
}
