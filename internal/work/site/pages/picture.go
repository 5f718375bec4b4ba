package pages

import (
	"fmt"
	"html/template"
	"math"
	"strings"

	"ulpa/core/say"
)

// A picture of a place is so large.
const pictureW, pictureH = 260.0, 170.0

// placePicture draws a place from the handful of numbers that are typed.
func placePicture(p say.Reader, typed map[string]any) template.HTML {
	kind, _ := typed["kind"].(string)
	tiers, _ := typed["tiers"].(int)
	columns, _ := typed["columns"].(int)
	boards, _ := typed["boards"].(int)
	figure := func(name string) float64 {
		if v, ok := typed[name].(*float64); ok && v != nil {
			return *v
		}
		return 0
	}
	var b strings.Builder
	label := p.T("%s, as it is typed so far", p.Say(kindWords(kind)))
	fmt.Fprintf(&b, `<svg class="placepicture" viewBox="0 0 %.0f %.0f" role="img" aria-label="%s">`, pictureW, pictureH, template.HTMLEscapeString(label))
	switch kind {
	case "tower", "raft", "jars":
		drawPorts(&b, kind, min(max(tiers, 1), 60), min(max(columns, 1), 60), boards)
	default:
		drawSurface(&b, kind, figure("length_cm"), figure("width_cm"))
	}
	b.WriteString("</svg>")
	return template.HTML(b.String()) // #nosec G203 -- numbers of ours, and an escaped label
}

func drawPorts(b *strings.Builder, kind string, tiers, columns, boards int) {
	step := math.Min((pictureW-20)/float64(columns), (pictureH-20)/float64(tiers))
	step = math.Min(step, 34)
	w, h := step*float64(columns), step*float64(tiers)
	x0, y0 := (pictureW-w)/2, (pictureH-h)/2
	if kind != "jars" {
		fmt.Fprintf(b, `<rect class="edge" x="%.1f" y="%.1f" width="%.1f" height="%.1f" rx="4"/>`, x0-5, y0-5, w+10, h+10)
	}
	if boards > 1 && kind == "raft" && columns%boards == 0 {
		for i := 1; i < boards; i++ {
			fmt.Fprintf(b, `<path class="edge" d="M%.1f %.1fv%.1f"/>`, x0+step*float64(i*columns/boards), y0-5, h+10)
		}
	}
	for r := range tiers {
		for c := range columns {
			x, y := x0+step*(float64(c)+.5), y0+step*(float64(r)+.5)
			if kind == "jars" {
				fmt.Fprintf(b, `<rect class="port" x="%.1f" y="%.1f" width="%.1f" height="%.1f" rx="2"/>`, x-step*.3, y-step*.4, step*.6, step*.8)
				continue
			}
			fmt.Fprintf(b, `<circle class="port" cx="%.1f" cy="%.1f" r="%.1f"/>`, x, y, step*.32)
		}
	}
}

func drawSurface(b *strings.Builder, kind string, length, width float64) {
	if length <= 0 {
		length = 120
	}
	if width <= 0 {
		width = length / 2
	}
	scale := math.Min((pictureW-30)/length, (pictureH-30)/width)
	w, h := length*scale, width*scale
	x, y := (pictureW-w)/2, (pictureH-h)/2
	fmt.Fprintf(b, `<rect class="edge" x="%.1f" y="%.1f" width="%.1f" height="%.1f" rx="3"/>`, x, y, w, h)
	lines := 0
	switch kind {
	case "frame":
		lines = 3 // panes
	case "bed":
		lines = 5 // rows
	}
	for i := 1; i <= lines; i++ {
		at := x + w*float64(i)/float64(lines+1)
		fmt.Fprintf(b, `<path class="inner" d="M%.1f %.1fv%.1f"/>`, at, y+3, h-6)
	}
}
