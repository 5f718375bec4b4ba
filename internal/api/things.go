package api

import (
	"net/http"

	"github.com/google/uuid"

	"ulpa/internal/beds"
	"ulpa/internal/crops"
	"ulpa/internal/goals"
	"ulpa/internal/meters"
	"ulpa/internal/mixing"
	"ulpa/internal/round"
	"ulpa/internal/season"
	"ulpa/internal/seeds"
	"ulpa/internal/site"
	"ulpa/internal/store"
	"ulpa/internal/things"
	"ulpa/internal/troughs"
	"ulpa/internal/waters"
)

// sorts are the kinds of things that programs read and change.
var sorts = []things.Sort{
	site.PlaceKind, site.TrayKind, site.PotKind, site.MixKind, waters.Kind, meters.Kind, mixing.SaltKind, mixing.RecipeKind, mixing.StockKind, troughs.Kind,
	site.TankKind, seeds.LotKind, seeds.VarietyKind, season.ClosureKind,
	season.TermKind, season.SpecialKind, season.PeriodKind,
	round.JobKind, crops.OwnKind, goals.Kind, beds.SectionKind,
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
				Method: http.MethodPut, Path: path + "/:id", Summary: "Keep one as it is sent: " + one, In: k.Example(), Out: k.Example(), Tagged: true,
				Do: func(c *call) (any, error) { return putThing(c, k) },
			},
		)
		if !called.Deletes {
			continue
		}
		all = append(all, operation{
			Method: http.MethodDelete, Path: path + "/:id", Summary: "Delete one on which nothing hangs: " + one, Tagged: true,
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

// page is the part of a list that was asked for. The cursor is the id of the last that was
// sent.
func page[T any](c *call, list []T, id func(T) string) (out listOut[T], err error) {
	limit, err := c.number("limit", usualItems, 1, mostItems)
	if err != nil {
		return out, err
	}
	from := 0
	if after := c.gin.Query("cursor"); after != "" {
		if _, err := uuid.Parse(after); err != nil {
			return out, store.ErrNotFound
		}
		from = len(list)
		for i, v := range list {
			if id(v) == after {
				from = i + 1
			}
		}
	}
	to := min(len(list), from+limit)
	out.Items = append([]T{}, list[from:to]...)
	if to < len(list) {
		next := id(list[to-1])
		out.Next = &next
	}
	return out, nil
}
