package face

import (
	"io"

	"github.com/gin-gonic/gin"

	"ulpa/core/say"
)

// ReadFile reads a form with a text that was sent as a file, in the field file, or pasted into
// the field text; of more than most bytes one more, so that it is seen to be too large.
func ReadFile(c *gin.Context, p say.Reader, most int64) (f Form, text string, err error) {
	file, _, missing := c.Request.FormFile("file") // which makes the other fields readable too
	if f = ReadForm(c, p); missing != nil {
		return f, f.Get("text"), nil
	}
	defer func() { _ = file.Close() }()
	b, err := io.ReadAll(io.LimitReader(file, most+1))
	if len(b) == 0 {
		return f, f.Get("text"), err
	}
	return f, string(b), err
}
