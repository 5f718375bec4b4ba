package web

import "net/url"

// cutList is the beginning of a list, and where the rest of it can be read.
type cutList[T any] struct {
	Shown  []T
	Hidden int
	All    string // the page that shows everything
}

// How much a page shows of a list before it says "more": what fits a few screens.
const fewTasks, fewLines = 12, 40

// cut shortens a list of more than most, and a bit, to most.
func cut[T any](list []T, most int, all string) cutList[T] {
	if len(list) <= most+3 {
		return cutList[T]{Shown: list}
	}
	return cutList[T]{list[:most], len(list) - most, all}
}

// whole is this page with every list in full, and whether that was asked for.
func whole(u *url.URL) (path string, asked bool) {
	q := u.Query()
	asked = q.Get("all") != ""
	q.Set("all", "1")
	return u.Path + "?" + q.Encode(), asked
}

// fewer is most, or everything when the whole page was asked for.
func fewer(most int, asked bool) int {
	if asked {
		return 1 << 20
	}
	return most
}
