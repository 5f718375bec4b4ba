package api

import (
	"net/http"
	"strconv"

	"github.com/google/uuid"

	"ulpa/core/calendar"
	"ulpa/core/raft"
	"ulpa/internal/base/store"
	"ulpa/internal/work/rafts"
	"ulpa/internal/work/site"
)

type raftOut struct {
	Boards []afloatOut `json:"boards" jsonschema_description:"as they float, from the planting end to the harvest end"`
	Do     []boardDo   `json:"do" jsonschema_description:"in the order in which it is done"`
	Next   []nextOut   `json:"next"`
	Weeks  []weekOut   `json:"weeks"`
}

type afloatOut struct {
	Board    int          `json:"board"`
	Holes    int          `json:"holes"`
	Ready    calendar.Day `json:"ready_on,omitzero"`
	Standing []onBoardOut `json:"standing"`
	First    int          `json:"first_column" jsonschema_description:"of its ports, from 1"`
	Last     int          `json:"last_column"`
}

type onBoardOut struct {
	Batch  string       `json:"batch"`
	Code   string       `json:"code"`
	Crop   string       `json:"crop"`
	Plants int          `json:"plants"`
	Ready  calendar.Day `json:"ready_on"`
}

type boardDo struct {
	Kind   string `json:"kind" jsonschema:"enum=harvest,enum=turn,enum=sort,enum=plant,enum=wait"`
	Board  int    `json:"board"`
	Batch  string `json:"batch,omitempty"`
	Plants int    `json:"plants,omitempty"`
	Order  []int  `json:"order,omitempty" jsonschema_description:"of the boards afterwards"`
	Says   string `json:"says"`
	Why    string `json:"why"`
}

type nextOut struct {
	Board   int          `json:"board"`
	Free    calendar.Day `json:"free_on"`
	Batch   string       `json:"batch,omitempty" jsonschema_description:"the batch that is growing already; if absent, it is to be sown"`
	Plants  int          `json:"plants"`
	SowBy   calendar.Day `json:"sow_by,omitzero"`
	Planted calendar.Day `json:"planted_on"`
	Ready   calendar.Day `json:"ready_on"`
	Empty   int          `json:"empty_days"`
}

type weekOut struct {
	Monday calendar.Day `json:"monday"`
	Boards []int        `json:"boards"`
	Plants int          `json:"plants"`
}

type boardsIn struct {
	done
	Order    []int `json:"order" jsonschema_description:"from the planting end to the harvest end"`
	Was      []int `json:"was,omitempty" jsonschema_description:"the order that was seen; refused if it has changed meanwhile"`
	Scrubbed []int `json:"scrubbed,omitempty" jsonschema_description:"boards that were scrubbed while they were out"`
}

type plantBoardIn struct {
	done
	Batch  uuid.UUID `json:"batch"`
	Board  int       `json:"board"`
	Plants int       `json:"plants"`
	Apart  bool      `json:"every_second_hole,omitempty"`
}

type cutBoardIn struct {
	done
	Batch uuid.UUID `json:"batch"`
	Board int       `json:"board"`
	Grams float64   `json:"grams"`
	Sure  bool      `json:"sure,omitempty"`
}

type boardOut struct {
	Board    int          `json:"board"`
	Grams    float64      `json:"grams"`
	Empty    int          `json:"empty_days"`
	Scrubbed calendar.Day `json:"scrubbed_on,omitzero"`
	Stays    []stayOut    `json:"stays" jsonschema_description:"newest first"`
}

type stayOut struct {
	Batch    string       `json:"batch"`
	Code     string       `json:"code"`
	From     calendar.Day `json:"from"`
	Until    calendar.Day `json:"until,omitzero"`
	Plants   int          `json:"plants"`
	Standing int          `json:"standing"`
	Taken    int          `json:"harvested"`
	Lost     int          `json:"lost"`
	MovedOn  int          `json:"moved_on"`
	Grams    float64      `json:"grams"`
}

func raftAt(c *call, id uuid.UUID) (any, error) {
	r, err := rafts.Get(c.ctx, c.Store, c.w, id, rafts.Asked{})
	out := raftOut{Boards: []afloatOut{}, Do: []boardDo{}, Next: []nextOut{}, Weeks: []weekOut{}}
	if err != nil || !r.Parted() {
		return out, err
	}
	for _, b := range r.Boards {
		x := afloatOut{Board: b.Number, Holes: b.Holes, Ready: b.Due(), Standing: []onBoardOut{}, First: (b.Number-1)*r.Wide() + 1, Last: b.Number * r.Wide()}
		for _, s := range b.Standing {
			x.Standing = append(x.Standing, onBoardOut{s.Batch, s.Code, s.Crop.ID, s.Plants, s.Due})
		}
		out.Boards = append(out.Boards, x)
	}
	for _, d := range r.Do {
		out.Do = append(out.Do, boardDo{d.Kind, d.Board, d.Batch, d.Plants, d.Order, d.Says.String(), d.Because.String()})
	}
	for _, n := range r.Ahead {
		out.Next = append(out.Next, nextOut{n.Board, n.Free, n.Batch, n.Plants, n.SowBy, n.On, n.Harvest, n.EmptyDays})
	}
	for _, x := range r.Weeks {
		out.Weeks = append(out.Weeks, weekOut{x.Monday, append([]int{}, x.Boards...), x.Plants})
	}
	return out, nil
}

func boardAt(c *call, place uuid.UUID) (any, error) {
	n, err := strconv.Atoi(c.gin.Param("board"))
	if err != nil {
		return nil, store.ErrNotFound
	}
	b, err := rafts.BoardOf(c.ctx, c.Store, c.w, place, n)
	if err != nil {
		return nil, err
	}
	out := boardOut{Board: n, Grams: b.Grams, Empty: b.Empty, Scrubbed: b.Scrubbed, Stays: []stayOut{}}
	for _, s := range b.Stays {
		out.Stays = append(out.Stays, stayOut{s.Batch, s.Code, s.From, s.Until, s.Plants, s.Standing, s.Taken, s.Lost, s.MovedOn, s.Grams})
	}
	return out, nil
}

func raftOperations() []operation {
	post, get := http.MethodPost, http.MethodGet
	return []operation{
		{Method: get, Path: "/places/:id/boards", Summary: "Read the boards of a raft, and what comes next", Out: raftOut{}, Do: ofPlace(raftAt)},
		{
			Method: post, Path: "/places/:id/boards", Summary: "Write down in which order the boards float", In: boardsIn{}, Out: raftOut{},
			Do: onThing(func(c *call, id uuid.UUID, in boardsIn) error {
				m := raft.Moved{Order: in.Order, Was: in.Was, Scrubbed: in.Scrubbed}
				return site.MoveBoards(c.ctx, c.Store, c.w, site.BoardsRequest{ID: in.ID, Place: id, Moved: m, At: in.At})
			}, raftAt),
		},
		{
			Method: post, Path: "/places/:id/boards/plant", Summary: "Plant seedlings from their trays on a board", In: plantBoardIn{}, Out: raftOut{},
			Do: onThing(func(c *call, id uuid.UUID, in plantBoardIn) error {
				q := rafts.PlantRequest{ID: in.ID, Place: id, Batch: in.Batch, Board: in.Board, Plants: in.Plants, Apart: in.Apart, At: in.At}
				return rafts.Plant(c.ctx, c.Store, c.w, q)
			}, raftAt),
		},
		{
			Method: post, Path: "/places/:id/boards/harvest", Summary: "Harvest a batch from a board, as whole plants", In: cutBoardIn{}, Out: raftOut{},
			Do: onThing(func(c *call, id uuid.UUID, in cutBoardIn) error {
				q := rafts.HarvestRequest{ID: in.ID, Place: id, Batch: in.Batch, Board: in.Board, Grams: in.Grams, Sure: in.Sure, At: in.At}
				return rafts.Harvest(c.ctx, c.Store, c.w, q)
			}, raftAt),
		},
		{Method: get, Path: "/places/:id/boards/:board", Summary: "Read what was harvested from a board", Out: boardOut{}, Do: ofPlace(boardAt)},
	}
}
