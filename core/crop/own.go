package crop

import (
	"strings"
	"unicode"

	"golang.org/x/text/unicode/norm"

	"ulpa/core/field"
	"ulpa/core/say"
)

// likeMark parts the id of a crop of a school's own: the catalogue's that it is like, and
// its name.
const likeMark = "~"

// Like is the id of a crop of a school's own that is called so, and like one of the
// catalogue's until the school knows better.
func Like(id, name string) string { return id + likeMark + name }

// Kin is the id of the catalogue's crop that one is like; of one of the catalogue its own.
func Kin(id string) string {
	kin, _, _ := strings.Cut(id, likeMark)
	return kin
}

// Of is the crop with that id, of the catalogue or of a school's own, and whether the
// catalogue knows it or what it is like.
func Of(id string) (Crop, bool) {
	kin, name, own := strings.Cut(id, likeMark)
	c, ok := Find(kin)
	if !own || !ok {
		return c, ok
	}
	c.ID, c.Name, c.Letters = id, say.Words(name), letters(name)
	return c.cautioned(), true
}

// CheckName refuses a name that no crop of a school's own can have.
func CheckName(name string) error {
	plain := func(r rune) bool {
		return unicode.IsLetter(r) || unicode.IsMark(r) || unicode.IsDigit(r) || strings.ContainsRune(" -'’", r)
	}
	if name == "" || len(name) > 60 || strings.ContainsFunc(name, func(r rune) bool { return !plain(r) }) {
		return field.Refuse("name", "use only letters, digits, spaces and hyphens")
	}
	return nil
}

// CheckOwn refuses a crop of a school's own that would be eaten as what harms: sprouts and
// shoots of plants whose shoots are poisonous.
func CheckOwn(like, name string) error {
	if err := CheckName(name); err != nil {
		return err
	}
	if kin, ok := Find(like); ok && kin.Sprout() && !EatenAsShoots(name) {
		return field.Refuse("name", "sprouts and shoots of this are poisonous: it is never grown to be eaten young")
	}
	return nil
}

// letters are the three of a name that its batch codes begin with.
func letters(name string) string {
	out := ""
	for _, r := range norm.NFD.String(strings.ToUpper(name)) {
		if r >= 'A' && r <= 'Z' && len(out) < 3 {
			out += string(r)
		}
	}
	return out + "OWN"[len(out):]
}
