package face

import (
	"bytes"
	"compress/gzip"
	"crypto/sha256"
	"embed"
	"encoding/hex"
	"io/fs"
	"mime"
	"net/http"
	"path"
	"strings"

	"github.com/gin-gonic/gin"
)

//go:embed static
var staticFiles embed.FS

//go:embed style/*.css
var styleFiles embed.FS

// styles are the face's own, from what lies under everything to what a tablet changes.
var styles = []string{"base", "bar", "desk", "marks", "settings", "fields", "lists", "folded", "grid", "drawings", "choices", "tablet"}

// sheet joins the styles to one file: the face's, and then each area's own, which lie beside the
// templates they are for.
func sheet(areas []Area) ([]byte, error) {
	var all bytes.Buffer
	for _, name := range styles {
		b, err := styleFiles.ReadFile("style/" + name + ".css")
		if err != nil {
			return nil, err
		}
		all.Write(b)
	}
	for _, a := range areas {
		if a.Views == nil {
			continue
		}
		names, err := fs.Glob(a.Views, "*.css")
		if err != nil {
			return nil, err
		}
		for _, name := range names {
			b, err := fs.ReadFile(a.Views, name)
			if err != nil {
				return nil, err
			}
			all.Write(b)
		}
	}
	return all.Bytes(), nil
}

// assets are the files that ship with the application, each under a name that
// changes with its content, so that a browser may keep it for good.
type assets struct {
	names map[string]string // app.css → /static/app.1a2b3c4d.css
	files map[string]asset
}

// asset is a file as it is sent, plain and packed.
type asset struct {
	plain, packed []byte
	kind          string
}

func loadAssets(areas []Area) (*assets, error) {
	a := &assets{names: map[string]string{}, files: map[string]asset{}}
	hashed := func(name string, b []byte) string {
		sum := sha256.Sum256(b)
		ext := path.Ext(name)
		return "/static/" + strings.TrimSuffix(name, ext) + "." + hex.EncodeToString(sum[:4]) + ext
	}
	later := map[string][]byte{}
	add := func(name string, b []byte) error {
		f := asset{plain: b, kind: mime.TypeByExtension(path.Ext(name))}
		if !strings.HasSuffix(name, ".woff2") {
			var buf bytes.Buffer
			z, _ := gzip.NewWriterLevel(&buf, gzip.BestCompression)
			if _, err := z.Write(b); err != nil {
				return err
			}
			if err := z.Close(); err != nil {
				return err
			}
			f.packed = buf.Bytes()
		}
		at := hashed(name, b)
		a.names[name], a.files[at] = at, f
		return nil
	}
	err := fs.WalkDir(staticFiles, "static", func(p string, d fs.DirEntry, err error) error {
		if err != nil || d.IsDir() || strings.Contains(p, "/licences/") {
			return err
		}
		name := strings.TrimPrefix(p, "static/")
		b, err := staticFiles.ReadFile(p)
		if err != nil {
			return err
		}
		if path.Ext(name) == ".js" && !strings.HasPrefix(name, "vendor/") {
			later[name] = b
			return nil
		}
		return add(name, b)
	})
	if err != nil {
		return nil, err
	}
	if later["app.css"], err = sheet(areas); err != nil {
		return nil, err
	}
	// Our own sheet names the fonts, and scripts the modules, so they come when those are known.
	for name, b := range later {
		for from, to := range a.names {
			b = bytes.ReplaceAll(b, []byte("url("+from+")"), []byte("url("+to+")"))
			b = bytes.ReplaceAll(b, []byte(`"./`+from+`"`), []byte(`"`+to+`"`))
		}
		if err := add(name, b); err != nil {
			return nil, err
		}
	}
	return a, nil
}

func (a *assets) url(name string) string { return a.names[name] }

func (a *assets) serve(c *gin.Context) {
	f, ok := a.files[c.Request.URL.Path]
	if !ok {
		c.String(http.StatusNotFound, "no such file\n")
		return
	}
	body := f.plain
	c.Header("Cache-Control", "public, max-age=31536000, immutable")
	c.Header("Vary", "Accept-Encoding")
	if f.packed != nil && strings.Contains(c.GetHeader("Accept-Encoding"), "gzip") {
		c.Header("Content-Encoding", "gzip")
		body = f.packed
	}
	c.Data(http.StatusOK, f.kind, body)
}
