package pages

import (
	"io"
	"maps"
	"math"
	"net/http"
	"slices"
	"strings"

	"github.com/gin-gonic/gin"

	"ulpa/core/say"
	"ulpa/core/unit"
	"ulpa/internal/doors/face"
	"ulpa/internal/work/goals"
)

// seedView is the seed that the plan takes, and which varieties did well here.
type seedView struct {
	Lead    string
	Needs   []needView
	Choices []choiceView
}

// needView is a packet of which seed is wanted, and how much.
type needView struct {
	Crop, Variety, Path, Seeds, Weighs, First, Buy string
	Short                                          bool
	Packets                                        []string
}

// choiceView is a variety beside others of its crop.
type choiceView struct{ Crop, Variety, Comes, Survives, Weighs, Days, Latest, Taste, Trouble, Notes, Path string }

func (seedView) Title() say.Text { return say.T("Seed for the season") }

func (s Pages) seed(c *gin.Context) error {
	ctx, w := s.Me(c)
	x, err := goals.SeedFor(ctx, s.Store, w)
	if err != nil {
		return err
	}
	r := w.Prefs
	v := seedView{}
	short := 0
	for _, n := range x.Needs {
		one := needView{
			Crop: r.Say(n.Crop.Name), Variety: n.Variety, Seeds: r.T("%d", n.Seeds), First: r.Say(n.First.Short()), Short: n.Buy > 0,
			Path: "/settings/lots?add=1#form",
		}
		if g := float64(n.Seeds) * n.Crop.SeedG / 1000; g >= 1 {
			one.Weighs = r.Format(math.Round(g), unit.Gram)
		}
		switch {
		case n.Buy > 0 && n.Unknown:
			one.Buy = r.T("%d, if the uncounted packets are empty", n.Buy)
			short++
		case n.Buy > 0:
			one.Buy = r.T("%d", n.Buy)
			short++
		}
		for _, p := range n.Packets {
			one.Packets = append(one.Packets, packetSays(p, r))
		}
		v.Needs = append(v.Needs, one)
	}
	switch {
	case len(v.Needs) == 0:
		v.Lead = r.T("Nothing needs sowing from seed. Once the season has goals, this shows how much seed they need.")
	case short == 0:
		v.Lead = r.T("There is seed enough for every sowing of the plan.")
	default:
		v.Lead = r.T("Seed is missing for %d of %d.", short, len(v.Needs))
	}
	for _, ch := range x.Choices {
		one := choiceView{
			Crop: r.Say(ch.Crop.Name), Variety: ch.Variety, Latest: r.T("never tried here"), Notes: ch.Notes,
			Path: "/settings/varieties?edit=" + ch.ID.String() + "#form",
		}
		if ch.Taste > 0 {
			one.Taste = r.T("%d of 5", ch.Taste)
		}
		for _, cause := range slices.Sorted(maps.Keys(ch.Lost)) {
			one.Trouble = strings.TrimPrefix(one.Trouble+", "+r.T("%d %s", ch.Lost[cause], cause.Name()), ", ")
		}
		if ch.Batches > 0 {
			one.Comes, one.Survives, one.Latest = r.T("%.0f\u00a0%%", 100*ch.Comes), r.T("%.0f\u00a0%%", 100*ch.Survives), r.Say(say.Date(ch.Latest.UTC(), "Jan 2006"))
			if ch.Days > 0 {
				one.Days = r.Say(say.Plural(int(math.Round(ch.Days)), "day"))
			}
			if ch.PlantG > 0 {
				one.Weighs = r.Format(ch.PlantG, unit.Gram)
			}
		}
		v.Choices = append(v.Choices, one)
	}
	s.Render(c, http.StatusOK, "seed", "Season", v)
	return nil
}

// packetSays is a packet, with what of it is taken and how old it is.
func packetSays(p goals.Packet, r say.Reader) string {
	age := say.T("this year’s")
	if p.Age > 0 {
		age = say.T("%s old", say.Plural(p.Age, "year"))
	}
	if p.Old {
		age = say.T("%s, older than this seed usually keeps: test it", age)
	}
	switch {
	case p.SeedsLeft == nil:
		return r.T("%s, %s: never counted, %s", say.Name(p.Name), say.Name(p.Variety), age)
	case p.Take > 0:
		return r.T("%s, %s: %d of %d, %s", say.Name(p.Name), say.Name(p.Variety), p.Take, *p.SeedsLeft, age)
	}
	return r.T("%s, %s: none of %d, %s", say.Name(p.Name), say.Name(p.Variety), *p.SeedsLeft, age)
}

// seedCSV gives the needs as a file.
func (s Pages) seedCSV(c *gin.Context) error {
	ctx, w := s.Me(c)
	x, err := goals.SeedFor(ctx, s.Store, w)
	if err != nil {
		return err
	}
	return s.Send(c, face.File{Type: face.CSV, Name: "seed.csv"}, func(to io.Writer) error { return x.WriteCSV(to, w) })
}
