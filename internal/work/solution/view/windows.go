package view

import (
	"fmt"
	"slices"

	"github.com/google/uuid"

	"ulpa/core/crop"
	"ulpa/core/say"
	"ulpa/core/unit"
	"ulpa/internal/base/ledger"
)

// Drinker is a batch that shares a solution, or is about to.
type Drinker struct {
	Code, Path string
	Wants      crop.Solution
	New        bool // it is about to move in
}

// WindowRow is the windows of one batch, of the tank, or what all share, as bars.
type WindowRow struct {
	Name, Path   string
	Kind         string // tank, common, new or ""
	PHX, PHW     float64
	ECX, ECW     float64
	PH, EC, Says string
	Out          bool
}

// WindowsView are windows over each other.
type WindowsView struct {
	Rows     []WindowRow
	Says     string
	PHName   string
	ECName   string
	PHL, PHR string
	ECL, ECR string
}

// The bars reach over these, pH and mS/cm.
var (
	overPH = crop.Range{Low: 4.5, High: 8}
	overEC = crop.Range{Low: 0, High: 4}
)

// along is where a window lies on a bar, in percent.
func along(r, over crop.Range) (x, w float64) {
	at := func(v float64) float64 {
		return 100 * (min(max(v, over.Low), over.High) - over.Low) / (over.High - over.Low)
	}
	return at(r.Low), max(0.5, at(r.High)-at(r.Low))
}

func rowOf(name, path, kind string, s crop.Solution, p say.Reader) WindowRow {
	r := WindowRow{Name: name, Path: path, Kind: kind}
	r.PHX, r.PHW = along(s.PH, overPH)
	r.ECX, r.ECW = along(s.EC, overEC)
	r.PH = fmt.Sprintf("%s–%s", p.Figure(s.PH.Low, "pH"), p.Figure(s.PH.High, "pH"))
	r.EC = p.T("%s–%s", say.Figure(s.EC.Low, unit.MS), say.Of(s.EC.High, unit.MS))
	return r
}

// WindowsOf are the windows of those who share a solution, over what it is kept at: the one
// they have in common, who stands outside, and what that costs them. Other tanks that would
// suit are named.
func WindowsOf(kept crop.Solution, drinkers []Drinker, others []ledger.Tank, p say.Reader) *WindowsView {
	var all, elsewhere []crop.Solution
	for _, t := range others {
		elsewhere = append(elsewhere, KeptAt(t))
	}
	v := WindowsView{
		PHName: "pH", ECName: p.Name(unit.MS), PHL: p.Figure(overPH.Low, "pH"), PHR: p.Figure(overPH.High, "pH"),
		ECL: p.Figure(overEC.Low, unit.MS), ECR: p.Figure(overEC.High, unit.MS),
	}
	v.Rows = append(v.Rows, rowOf(p.T("kept at"), "", "tank", kept, p))
	for _, d := range drinkers {
		if d.Wants.EC.High == 0 { // nobody says what it wants
			continue
		}
		all = append(all, d.Wants)
		r := rowOf(d.Code, d.Path, "", d.Wants, p)
		if d.New {
			r.Kind = "new"
		}
		if r.Out = d.Wants.Apart(kept); r.Out {
			says := say.T("%s: %s.", say.Name(d.Code), say.List(d.Wants.Costs(kept)...))
			if i := d.Wants.Suits(elsewhere); i >= 0 {
				says = say.T("%s %s would suit it.", says, say.Name(others[i].Name))
			}
			r.Says = p.Say(says)
		}
		v.Rows = append(v.Rows, r)
	}
	if len(all) == 0 {
		return nil
	}
	switch both, ok := crop.Common(all); {
	case len(all) == 1:
	case ok:
		v.Rows = append(v.Rows, rowOf(p.T("in common"), "", "common", both, p))
		v.Says = p.T("A range that suits all of them: pH %.1f to %.1f and %s to %s.",
			both.PH.Low, both.PH.High, say.Figure(both.EC.Low, unit.MS), say.Of(both.EC.High, unit.MS))
	default:
		v.Says = p.T("No solution suits all of them.")
	}
	return &v
}

// Others are those of some tanks with a pump, but one.
func Others(tanks []ledger.Tank, but uuid.UUID) []ledger.Tank {
	return slices.DeleteFunc(slices.Clone(tanks), func(t ledger.Tank) bool { return t.ID == but || t.Spec.Passive })
}
