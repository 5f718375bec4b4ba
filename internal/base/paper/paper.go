// Package paper writes PDF files (ISO 32000-1) page by page: what is drawn on a page goes out
// with it, so that a long file takes no more memory than a short one, and whoever has gone is
// noticed at the next page. It draws boxes, and text in the two Go fonts. Measures are in
// millimetres from the upper left corner, sizes of letters in points.
//
//	p := paper.New(file, "Labels", 210, 297)
//	p.Page()
//	p.Text(10, 20, 12, false, "LET-05")
//	err := p.Close()
package paper

import (
	"bytes"
	"compress/zlib"
	"fmt"
	"io"
	"strings"
	"unicode/utf16"
)

// Writer writes one file. The first error stays, and is what Close gives.
type Writer struct {
	to      io.Writer
	w, h    float64 // of a page, in points
	title   string
	offsets []int // of each object, from the first
	pages   []int // their objects
	at      int
	drawn   bytes.Buffer // on the page that is open
	open    bool
	used    [2]map[uint16]rune // glyphs, of the regular and the bold font
	err     error
}

const point = 72 / 25.4 // of a millimetre

// Objects with fixed numbers; each font takes five, and pages come after.
const (
	catalog = 1 + iota
	pageTree
	info
	regular
	bold      = regular + perFont
	perFont   = 5
	firstPage = bold + perFont
)

// New begins a file of pages of one size.
func New(to io.Writer, title string, width, height float64) *Writer {
	p := &Writer{to: to, w: width * point, h: height * point, title: title, offsets: make([]int, firstPage)}
	p.used = [2]map[uint16]rune{{}, {}}
	p.write("%%PDF-1.7\n%%\xe2\xe3\xcf\xd3\n")
	return p
}

// Page begins the next page; the one before goes out.
func (p *Writer) Page() error {
	p.finish()
	p.open = true
	return p.err
}

// Box draws a thin grey outline.
func (p *Writer) Box(x, y, w, h float64) {
	fmt.Fprintf(&p.drawn, "0.59 G 0.28 w %.2f %.2f %.2f %.2f re S\n", x*point, p.h-(y+h)*point, w*point, h*point)
}

// Stamp is black boxes that are drawn again and again, made once.
type Stamp struct{ drawn strings.Builder }

// Box adds a box, measured from the stamp's own upper left corner.
func (s *Stamp) Box(x, y, w, h float64) {
	fmt.Fprintf(&s.drawn, "%.3f %.3f %.3f %.3f re\n", x*point, -(y+h)*point, w*point, h*point)
}

// Put draws a stamp with its upper left corner there.
func (p *Writer) Put(s *Stamp, x, y float64) {
	fmt.Fprintf(&p.drawn, "q 1 0 0 1 %.3f %.3f cm\n%sf Q\n", x*point, p.h-y*point, s.drawn.String())
}

// Text writes on a line that begins at x and stands on y.
func (p *Writer) Text(x, y, size float64, bold bool, says string) {
	n, name := 0, "R"
	if bold {
		n, name = 1, "B"
	}
	fmt.Fprintf(&p.drawn, "BT /%s %.2f Tf %.2f %.2f Td <", name, size, x*point, p.h-y*point)
	for _, r := range says {
		g := faces()[n].glyph(r)
		p.used[n][g] = r
		fmt.Fprintf(&p.drawn, "%04x", g)
	}
	p.drawn.WriteString("> Tj ET\n")
}

// Close ends the file.
func (p *Writer) Close() error {
	p.finish()
	p.object(catalog, "<< /Type /Catalog /Pages %d 0 R >>", pageTree)
	var kids bytes.Buffer
	for _, n := range p.pages {
		fmt.Fprintf(&kids, " %d 0 R", n)
	}
	p.object(pageTree, "<< /Type /Pages /MediaBox [0 0 %.2f %.2f] /Count %d /Kids [%s ] /Resources << /Font << /R %d 0 R /B %d 0 R >> >> >>",
		p.w, p.h, len(p.pages), kids.String(), regular, bold)
	p.object(info, "<< /Title %s /Producer (Ulpa) >>", text(p.title))
	for n, first := range []int{regular, bold} {
		p.font(first, faces()[n], p.used[n])
	}
	xref := p.at
	p.write("xref\n0 %d\n0000000000 65535 f \n", len(p.offsets))
	for _, at := range p.offsets[1:] {
		p.write("%010d 00000 n \n", at)
	}
	p.write("trailer\n<< /Size %d /Root %d 0 R /Info %d 0 R >>\nstartxref\n%d\n%%%%EOF\n", len(p.offsets), catalog, info, xref)
	return p.err
}

// finish sends the page that is open.
func (p *Writer) finish() {
	if !p.open || p.err != nil {
		return
	}
	n := len(p.offsets)
	p.offsets = append(p.offsets, 0, 0)
	p.pages = append(p.pages, n)
	p.object(n, "<< /Type /Page /Parent %d 0 R /Contents %d 0 R >>", pageTree, n+1)
	p.stream(n+1, p.drawn.Bytes())
	p.drawn.Reset()
	p.open = false
}

func (p *Writer) object(n int, form string, args ...any) {
	p.offsets[n] = p.at
	p.write("%d 0 obj\n%s\nendobj\n", n, fmt.Sprintf(form, args...))
}

// stream writes bytes as an object, packed.
func (p *Writer) stream(n int, b []byte) {
	p.packed(n, "", deflated(b))
}

func (p *Writer) packed(n int, more string, packed []byte) {
	p.offsets[n] = p.at
	p.write("%d 0 obj\n<< /Filter /FlateDecode /Length %d%s >>\nstream\n%s\nendstream\nendobj\n", n, len(packed), more, packed)
}

func deflated(b []byte) []byte {
	var out bytes.Buffer
	z := zlib.NewWriter(&out)
	_, _ = z.Write(b) // into memory
	_ = z.Close()
	return out.Bytes()
}

func (p *Writer) write(form string, args ...any) {
	if p.err != nil {
		return
	}
	n := 0
	if n, p.err = fmt.Fprintf(p.to, form, args...); p.err == nil {
		p.at += n
	}
}

// text is a string of a file, in UTF-16 with its mark.
func text(says string) string {
	out := "<feff"
	for _, u := range utf16.Encode([]rune(says)) {
		out += fmt.Sprintf("%04x", u)
	}
	return out + ">"
}
