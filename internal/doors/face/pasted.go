package face

import (
	"io"

	"github.com/gin-gonic/gin"

	"ulpa/core/say"
	"ulpa/internal/base/bound"
)

// ReadBytes reads a form with a file in the field file; of more than most bytes one more, so
// that it is seen to be too large. Without a file there are none.
func ReadBytes(c *gin.Context, p say.Reader, most int64) (f *Form, b []byte, err error) {
	bound.Dear(c.Request.Context(), "a file that is sent")
	file, head, missing := c.Request.FormFile("file") // which makes the other fields readable too
	if f = ReadForm(c, p); missing != nil {
		return f, nil, nil
	}
	defer func() { _ = file.Close() }()
	b = make([]byte, min(head.Size, most+1)) // in one piece: it would take twice as much, growing
	_, err = io.ReadFull(file, b)
	return f, b, err
}

// ReadFile reads a form with a text that was sent as a file, as ReadBytes does, or pasted into
// the field text.
func ReadFile(c *gin.Context, p say.Reader, most int64) (f *Form, text string, err error) {
	f, b, err := ReadBytes(c, p, most)
	if len(b) == 0 {
		return f, f.Get("text"), err
	}
	return f, string(b), err
}

// PictureForm asks for a picture of something.
type PictureForm struct {
	Form        *Form
	About, Back string // what it is of, and the page to come back to
}
