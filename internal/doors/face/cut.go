package face

import "net/url"

// CutList is the beginning of a list, and where the rest of it can be read.
type CutList[T any] struct {
	Shown  []T
	Hidden int
	All    string // the page that shows everything
}

// How much a page shows of a list before it says "more": what fits a few screens.
const FewTasks, FewLines = 12, 40

// Cut shortens a list of more than most, and a bit, to most.
func Cut[T any](list []T, most int, all string) CutList[T] {
	if len(list) <= most+3 {
		return CutList[T]{Shown: list}
	}
	return CutList[T]{list[:most], len(list) - most, all}
}

// CutAs shortens a list, and makes what is shown of it only.
func CutAs[T, U any](list []T, most int, all string, show func(T) U) CutList[U] {
	few := Cut(list, most, all)
	out := CutList[U]{Hidden: few.Hidden, All: few.All}
	for _, x := range few.Shown {
		out.Shown = append(out.Shown, show(x))
	}
	return out
}

// Whole is this page with every list in full, and whether that was asked for.
func Whole(u *url.URL) (path string, asked bool) {
	q := u.Query()
	asked = q.Get("all") != ""
	q.Set("all", "1")
	return u.Path + "?" + q.Encode(), asked
}

// Fewer is most, or everything when the whole page was asked for.
func Fewer(most int, asked bool) int {
	if asked {
		return 1 << 20
	}
	return most
}
