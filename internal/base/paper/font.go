package paper

import (
	"fmt"
	"maps"
	"slices"
	"strings"
	"sync"

	"golang.org/x/image/font"
	"golang.org/x/image/font/gofont/gobold"
	"golang.org/x/image/font/gofont/goregular"
	"golang.org/x/image/font/sfnt"
	"golang.org/x/image/math/fixed"
)

// face is a font: its file, and what a page must know of its glyphs.
type face struct {
	name   string
	length int    // of the file
	packed []byte // the file
	font   *sfnt.Font
	mu     sync.Mutex
	known  map[rune]uint16
	wide   map[uint16]float64 // in thousandths of the size
}

// faces are the regular and the bold one.
var faces = sync.OnceValue(func() [2]*face { return [2]*face{load("GoRegular", goregular.TTF), load("GoBold", gobold.TTF)} })

func load(name string, file []byte) *face {
	f, err := sfnt.Parse(file)
	if err != nil {
		panic(err) // it is part of the program
	}
	return &face{name: name, length: len(file), packed: deflated(file), font: f, known: map[rune]uint16{}, wide: map[uint16]float64{}}
}

// glyph is the one that draws a letter; 0 where the font has none.
func (f *face) glyph(r rune) uint16 {
	f.mu.Lock()
	defer f.mu.Unlock()
	g, ok := f.known[r]
	if !ok {
		i, err := f.font.GlyphIndex(nil, r)
		if err != nil {
			i = 0
		}
		g = uint16(i)
		f.known[r] = g
		f.wide[g] = f.thousandths(func(size fixed.Int26_6) fixed.Int26_6 {
			w, err := f.font.GlyphAdvance(nil, i, size, font.HintingNone)
			if err != nil {
				return 0
			}
			return w
		})
	}
	return g
}

func (f *face) width(g uint16) float64 {
	f.mu.Lock()
	defer f.mu.Unlock()
	return f.wide[g]
}

// thousandths is a measure of the font in thousandths of its size.
func (f *face) thousandths(of func(size fixed.Int26_6) fixed.Int26_6) float64 {
	units := int(f.font.UnitsPerEm())
	return float64(of(fixed.I(units))) / 64 / float64(units) * 1000
}

// Width is how wide a line is in letters of a size, in millimetres.
func Width(says string, size float64, bold bool) (mm float64) {
	f := faces()[0]
	if bold {
		f = faces()[1]
	}
	for _, r := range says {
		mm += f.width(f.glyph(r))
	}
	return mm / 1000 * size / point
}

// font writes a font with the glyphs that were used, and what letters they are, so that text can
// be searched and read aloud.
func (p *Writer) font(first int, f *face, used map[uint16]rune) {
	measure := func(of func(font.Metrics) fixed.Int26_6) float64 {
		return f.thousandths(func(size fixed.Int26_6) fixed.Int26_6 {
			m, err := f.font.Metrics(nil, size, font.HintingNone)
			if err != nil {
				return 0
			}
			return of(m)
		})
	}
	var wide, says strings.Builder
	for _, g := range slices.Sorted(maps.Keys(used)) {
		fmt.Fprintf(&wide, " %d [%.0f]", g, f.width(g))
		fmt.Fprintf(&says, "1 beginbfchar\n<%04x> %s\nendbfchar\n", g, strings.Replace(text(string(used[g])), "<feff", "<", 1))
	}
	p.object(first, "<< /Type /Font /Subtype /Type0 /BaseFont /%s /Encoding /Identity-H /DescendantFonts [%d 0 R] /ToUnicode %d 0 R >>",
		f.name, first+1, first+4)
	p.object(first+1, "<< /Type /Font /Subtype /CIDFontType2 /BaseFont /%s /CIDSystemInfo << /Registry (Adobe) /Ordering (Identity) /Supplement 0 >> "+
		"/CIDToGIDMap /Identity /FontDescriptor %d 0 R /W [%s ] >>", f.name, first+2, wide.String())
	ascent, descent := measure(func(m font.Metrics) fixed.Int26_6 { return m.Ascent }), measure(func(m font.Metrics) fixed.Int26_6 { return m.Descent })
	p.object(first+2, "<< /Type /FontDescriptor /FontName /%s /Flags 4 /FontBBox [-400 %.0f 2000 %.0f] /ItalicAngle 0 "+
		"/Ascent %.0f /Descent %.0f /CapHeight %.0f /StemV 90 /FontFile2 %d 0 R >>",
		f.name, -descent, ascent, ascent, -descent, measure(func(m font.Metrics) fixed.Int26_6 { return m.CapHeight }), first+3)
	p.packed(first+3, fmt.Sprintf(" /Length1 %d", f.length), f.packed)
	p.stream(first+4, []byte("/CIDInit /ProcSet findresource begin\n12 dict begin\nbegincmap\n/CMapName /Letters def\n/CMapType 2 def\n"+
		"1 begincodespacerange\n<0000> <ffff>\nendcodespacerange\n"+says.String()+"endcmap\nCMapName currentdict /CMap defineresource pop\nend\nend\n"))
}
