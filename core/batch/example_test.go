package batch_test

import (
	"fmt"

	"ulpa/core/batch"
)

func Example() {
	sown := batch.Act{
		Kind:         batch.Sow,
		SeedsPerCell: 1,
		Cells:        []batch.Spot{{Kind: batch.InCell, In: "tray 7"}, {Kind: batch.InCell, In: "tray 7", Col: 1}},
	}
	came := batch.Act{Kind: batch.Count, Marks: []batch.Mark{{In: "tray 7", State: batch.Sprouted}}}
	s, err := batch.Fold([]batch.Act{sown, came})
	if err != nil {
		panic(err)
	}
	fmt.Println(s.Sown, "sown,", s.Sprouted, "up,", s.Waiting(), "waiting")
	fmt.Println(s.Apply(batch.Act{Kind: batch.Close}))
	// Output:
	// 2 sown, 1 up, 1 waiting
	// batch: 1 plant is still growing: harvest it, or write down where it went, then close
}
