package seeds

import (
	"context"
	"encoding/csv"
	"errors"
	"io"
	"slices"
	"strconv"
	"strings"

	"github.com/google/uuid"

	"ulpa/core/crop"
	"ulpa/core/field"
	"ulpa/core/name"
	"ulpa/core/say"
	"ulpa/core/table"
	"ulpa/internal/base/store"
	"ulpa/internal/base/things"
	"ulpa/internal/base/who"
	"ulpa/internal/base/words"
	"ulpa/internal/work/crops"
)

// Columns are what a file of packets may say of each, the first three needed.
var Columns = []struct {
	ID     string
	Name   say.Words
	Needed bool
	known  []string // how files call it beside its name
}{
	{"crop", "Crop", true, []string{"crop", "cultivo", "plant", "kind"}},
	{"variety", "Variety", true, []string{"variety", "variedad", "cultivar", "sort"}},
	{"packed", "Year packed", true, []string{"packed", "packed in", "year", "envasado en", "año"}},
	{"name", "Lot number, as on the packet", false, []string{"lot", "lot, as on the packet", "lote", "packet", "batch"}},
	{"seeds", "Seeds in it", false, []string{"seeds", "seeds in it", "count", "semillas"}},
	{"grams", "Grams##column", false, []string{"grams", "g", "weight", "gramos"}},
	{"label", "Germination on the label", false, []string{"germination", "germination on the label", "label", "rate", "germinación"}},
	{"kept_in", "Where it is kept", false, []string{"kept in", "where it is kept", "place", "shelf"}},
}

// MostFile is how many bytes of a file of packets are read, and mostPackets how many lines.
const (
	MostFile    = 256 << 10
	mostPackets = 500
)

// Chosen is which column of a file says what, by Columns' ids; −1: none does.
type Chosen map[string]int

// Guess is which columns a file's headings seem to be.
func Guess(t table.Table) Chosen {
	out := Chosen{}
	for _, c := range Columns {
		out[c.ID] = -1
		for i, h := range t.Head {
			for _, k := range append(words.Ways(c.Name), c.known...) {
				if out[c.ID] < 0 && strings.EqualFold(strings.TrimSpace(h), k) {
					out[c.ID] = i
				}
			}
		}
	}
	return out
}

// Line is a line of a file as it is understood.
type Line struct {
	Number int // in the file
	Packet LotSetup
	Crop   say.Text
	Known  bool     // such a packet is on the shelf already: it is left as it is
	Wrong  say.Text // nil: it can be kept
}

// Look reads a file's packets as they would be kept.
func Look(ctx context.Context, s *store.Store, w who.Who, t table.Table, c Chosen) (out []Line, err error) {
	if err := w.Must(who.Plan); err != nil {
		return nil, err
	}
	err = s.Read(ctx, w, func(tx *store.Tx) error {
		out, err = lines(ctx, tx, t, c)
		return err
	})
	return out, err
}

func lines(ctx context.Context, tx *store.Tx, t table.Table, c Chosen) ([]Line, error) {
	var e field.Errors
	for _, col := range Columns {
		at, told := c[col.ID]
		e.Require(!col.Needed || told && at >= 0, col.ID, "choose a column")
		e.Require(at < len(t.Head), col.ID, "choose a column")
	}
	e.Require(len(t.Rows) <= mostPackets, "text", "has more than %d lines", mostPackets)
	if err := e.Err(); err != nil {
		return nil, err
	}
	book, err := crops.Load(ctx, tx)
	if err != nil {
		return nil, err
	}
	have, err := LotKind.All(ctx, tx)
	if err != nil {
		return nil, err
	}
	is, taken := map[string]bool{}, map[string]bool{}
	key := func(l LotSetup) string { return l.Crop + "\n" + name.Key(l.Variety) + "\n" + name.Key(l.Name) }
	for _, l := range have {
		is[key(l)], taken[name.Key(l.Name)] = true, true
	}
	var out []Line
	for i, row := range t.Rows {
		line := lineOf(tx, book, row, c)
		line.Number = t.Line[i]
		if line.Wrong == nil {
			line.Known = is[key(line.Packet)]
			if !line.Known && taken[name.Key(line.Packet.Name)] {
				line.Wrong = say.T("another packet is called “%s” already", say.Name(line.Packet.Name))
			}
			is[key(line.Packet)], taken[name.Key(line.Packet.Name)] = true, true
		}
		out = append(out, line)
	}
	return out, nil
}

func lineOf(tx *store.Tx, book crops.Book, row []string, c Chosen) (l Line) {
	get := func(id string) string {
		if at, told := c[id]; told && at >= 0 {
			return strings.TrimSpace(row[at])
		}
		return ""
	}
	l.Packet = LotKind.Blank()
	l.Crop = say.Name(get("crop"))
	x, ok := cropCalled(tx, book, get("crop"))
	if !ok {
		l.Wrong = say.T("no crop is called “%s” here", say.Name(get("crop")))
		return l
	}
	l.Packet.Crop, l.Crop = x.ID, x.Name
	l.Packet.Variety, l.Packet.Name, l.Packet.KeptIn = get("variety"), get("name"), get("kept_in")
	whole := func(id string) (n int, ok bool) {
		n, err := strconv.Atoi(strings.ReplaceAll(get(id), " ", ""))
		if get(id) != "" && err != nil && l.Wrong == nil {
			l.Wrong = say.T("“%s” is not a whole number", say.Name(get(id)))
		}
		return n, err == nil
	}
	l.Packet.Packed, _ = whole("packed")
	if l.Packet.Name == "" && l.Packet.Packed > 0 {
		l.Packet.Name = strings.TrimSpace(l.Packet.Variety + " " + strconv.Itoa(l.Packet.Packed))
	}
	if n, ok := whole("seeds"); ok {
		l.Packet.Seeds = &n
	}
	number := func(id string) *float64 {
		v, err := strconv.ParseFloat(strings.TrimSuffix(strings.Replace(get(id), ",", ".", 1), "%"), 64)
		if get(id) == "" {
			return nil
		}
		if err != nil && l.Wrong == nil {
			l.Wrong = say.T("“%s” is not a number", say.Name(get(id)))
		}
		return &v
	}
	l.Packet.Grams = number("grams")
	if p := number("label"); p != nil {
		share := *p / 100
		l.Packet.Label = &share
	}
	if l.Wrong == nil && l.Packet.Variety == "" {
		l.Wrong = say.T("has no variety")
	}
	if l.Wrong == nil && l.Packet.Packed == 0 {
		l.Wrong = say.T("has no year")
	}
	return l
}

// cropCalled finds a crop by its name in the reader's language, in English, or by its id; or else
// by another name that people use, where it is that of one crop alone.
func cropCalled(tx *store.Tx, book crops.Book, called string) (found crop.Crop, ok bool) {
	also, several := words.Called(called), false
	called = name.Found(called)
	for _, c := range book.All() {
		for _, n := range []string{tx.Who.Prefs.Say(c.Name), string(c.Name), c.ID} {
			switch n = name.Found(n); {
			case n == called:
				return c, called != ""
			case slices.Contains(also, n) && found.ID != c.ID:
				several = several || ok
				found, ok = c, true
			}
		}
	}
	return found, ok && !several
}

// Take keeps a file's packets, all of them or none; those that are on the shelf already are
// left as they are. The id names what was sent: sent again it adds nothing.
func Take(ctx context.Context, s *store.Store, w who.Who, id uuid.UUID, t table.Table, c Chosen) (added int, err error) {
	if err := w.Must(who.Plan); err != nil {
		return 0, err
	}
	if id == uuid.Nil {
		return 0, field.Refuse("id", "is missing; load the page again")
	}
	err = s.InSchool(ctx, w, func(tx *store.Tx) error {
		list, err := lines(ctx, tx, t, c)
		if err != nil {
			return err
		}
		for _, l := range list {
			if l.Wrong != nil {
				return field.Refuse("text", "Line %d: %s", l.Number, l.Wrong)
			}
			if l.Known {
				continue
			}
			l.Packet.ID = uuid.NewSHA1(id, []byte(l.Packet.Crop+"\n"+l.Packet.Variety+"\n"+l.Packet.Name))
			if _, err := LotKind.PutIn(ctx, tx, l.Packet, things.New); err != nil {
				var wrong field.Errors
				if errors.As(err, &wrong) {
					return field.Refuse("text", "Line %d: %s", l.Number, say.Why(err))
				}
				return err
			}
			added++
		}
		return nil
	})
	return added, err
}

// WriteCSV writes the packets on the shelf as a file that Take reads again.
func (s Shelf) WriteCSV(to io.Writer, w who.Who) error {
	f := csv.NewWriter(to)
	var head []string
	for _, c := range Columns {
		head = append(head, w.Prefs.Say(c.Name))
	}
	if err := f.Write(head); err != nil {
		return err
	}
	for _, l := range s.Lots {
		if l.Setup.Retired {
			continue
		}
		seeds, label := "", ""
		if l.SeedsLeft != nil {
			seeds = strconv.Itoa(*l.SeedsLeft)
		}
		if l.Label != nil {
			label = strconv.FormatFloat(100**l.Label, 'f', -1, 64)
		}
		err := f.Write([]string{
			w.Prefs.Say(l.Crop.Name), name.Cell(l.Variety), strconv.Itoa(l.Packed), name.Cell(l.Name), seeds, "", label, name.Cell(l.Setup.KeptIn),
		})
		if err != nil {
			return err
		}
	}
	f.Flush()
	return f.Error()
}
