package api

import (
	"errors"
	"fmt"
	"net/http"
	"strconv"
	"strings"

	"github.com/google/uuid"

	"ulpa/core/field"
	"ulpa/internal/base/things"
	"ulpa/internal/work/beds"
	"ulpa/internal/work/crops"
	"ulpa/internal/work/goals"
	"ulpa/internal/work/jobs"
	"ulpa/internal/work/meters"
	"ulpa/internal/work/mixing"
	"ulpa/internal/work/season"
	"ulpa/internal/work/seeds"
	"ulpa/internal/work/site"
	"ulpa/internal/work/troughs"
	"ulpa/internal/work/waters"
)

// sorts are the kinds of things that programs read and change.
var sorts = []things.Sort{
	site.PlaceKind, site.TrayKind, site.PotKind, site.MixKind, waters.Kind, meters.Kind, mixing.SaltKind, mixing.RecipeKind, mixing.StockKind, troughs.Kind,
	site.TankKind, seeds.LotKind, seeds.VarietyKind, season.ClosureKind,
	season.TermKind, season.SpecialKind, season.PeriodKind,
	jobs.Kind, crops.OwnKind, goals.Kind, beds.SectionKind,
}

// listOut is a page of a list; Next is the cursor of the following one, absent on the last.
type listOut[T any] struct {
	Items []T     `json:"items"`
	Next  *string `json:"next,omitempty"`
}

// A page has so many at most, and usually.
const mostItems, usualItems = 500, 100

var paging = []param{
	{"cursor", "the next of the page before; without it the list begins"},
	{"limit", "how many at most, 1 to 500; 100 without"},
}

// thingOperations are what every kind of things answers.
func thingOperations() (all []operation) {
	for _, k := range sorts {
		called := k.Called()
		path, one := "/"+called.Name, called.One.String()
		all = append(all,
			operation{
				Method: http.MethodGet, Path: path, Summary: "List: " + called.Title.String(), Query: paging, Out: listOf(k.Example()),
				Do: func(c *call) (any, error) {
					list, err := k.ListJSON(c.ctx, c.Store, c.w)
					if err != nil {
						return nil, err
					}
					return page(c, list, func(v any) string { return k.IDOf(v).String() })
				},
			},
			operation{
				Method: http.MethodGet, Path: path + "/:id", Summary: "Read one: " + one, Out: k.Example(), Tagged: true,
				Do: func(c *call) (any, error) {
					id, err := c.id("id")
					if err != nil {
						return nil, err
					}
					v, tag, err := k.GetJSON(c.ctx, c.Store, c.w, id)
					c.tag(tag)
					return v, err
				},
			},
			operation{
				Method: http.MethodPut, Path: path + "/:id", Summary: "Save one as it is sent: " + one, In: chosen{k.Example(), k.Inputs()}, Out: k.Example(), Tagged: true,
				Do: func(c *call) (any, error) { return putThing(c, k) },
			},
		)
		if !called.Deletes {
			continue
		}
		all = append(all, operation{
			Method: http.MethodDelete, Path: path + "/:id", Summary: "Delete one on which nothing depends: " + one, Tagged: true,
			Do: func(c *call) (any, error) {
				id, err := c.id("id")
				if err != nil {
					return nil, err
				}
				was, err := c.was()
				if err != nil {
					return nil, err
				}
				return nil, k.Delete(c.ctx, c.Store, c.w, id, was)
			},
		})
	}
	return all
}

func putThing(c *call, k things.Sort) (any, error) {
	id, err := c.id("id")
	if err != nil {
		return nil, err
	}
	was, err := c.was()
	if err != nil {
		return nil, err
	}
	tag, err := k.PutJSON(c.ctx, c.Store, c.w, id, c.body, was)
	if err != nil {
		return nil, err
	}
	c.tag(tag)
	if was == things.New {
		c.status = http.StatusCreated
	}
	v, _, err := k.GetJSON(c.ctx, c.Store, c.w, id)
	return v, err
}

// page is the part of a list that was asked for.
func page[T any](c *call, list []T, id func(T) string) (out listOut[T], err error) {
	limit, err := c.number("limit", usualItems, 1, mostItems)
	if err != nil {
		return out, err
	}
	from := 0
	if asked := c.gin.Query("cursor"); asked != "" {
		after, ok := readCursor(asked)
		if !ok {
			return out, field.Refuse("cursor", "is not one that was sent")
		}
		from = after.in(len(list), func(i int) string { return id(list[i]) })
	}
	to := min(len(list), from+limit)
	out.Items = append([]T{}, list[from:to]...)
	if to < len(list) {
		next := cursor{to, len(list), id(list[to-1])}.String()
		out.Next = &next
	}
	return out, nil
}

// cursor is a place in the order of a list: how many were sent so far, of how many, and the last
// of them. The last may be gone when the list is asked on.
type cursor struct {
	sent, of int
	last     string
}

// String is a cursor as it is sent.
func (x cursor) String() string { return fmt.Sprintf("%d_%d_%s", x.sent, x.of, x.last) }

func readCursor(text string) (x cursor, ok bool) {
	part := strings.Split(text, "_")
	if len(part) != 3 {
		return x, false
	}
	sent, err1 := strconv.Atoi(part[0])
	of, err2 := strconv.Atoi(part[1])
	_, err3 := uuid.Parse(part[2])
	return cursor{sent, of, part[2]}, errors.Join(err1, err2, err3) == nil && sent >= 1 && of >= sent
}

// in is where a list of n goes on: after the last that was sent; where that is gone, as many
// earlier as have gone, so that none is left out, and some may come twice.
func (x cursor) in(n int, id func(int) string) int {
	for i := range n {
		if id(i) == x.last {
			return i + 1
		}
	}
	return max(0, min(x.sent, n)-max(1, x.of-n))
}
