// Package face is what every page has in common: the layout, forms and their fields, lists,
// drawings, sessions, files, and the middleware around them. It knows no area: what hangs
// on one is given to it (Config).
//
//	f, err := face.New(face.Config{Store: store, Log: log, Areas: areas})
//	http.ListenAndServe(address, f)
package face
