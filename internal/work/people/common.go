package people

import (
	"slices"
	"strings"
	"unicode"

	"ulpa/core/name"
)

// common are the long passwords that everybody tries first, in lower case and
// without what people put behind them.
var common = strings.Fields(`
1234567890 0123456789 0987654321 1q2w3e4r5t 1qaz2wsx3edc q1w2e3r4t5 zaq12wsxcde qwertyuiop asdfghjkl zxcvbnm qwerty123456 qwertyqwerty asdfasdfasdf
abcdefghij abcdefghijkl password passwordpassword passw0rd p@ssword p@ssw0rd letmein letmeinplease iloveyou iloveyouiloveyou welcome
welcometothe changeme changemenow administrator adminadmin administrator default secret secretsecret trustno1 monkeymonkey dragondragon
football footballfootball baseball basketball superman batman starwars pokemon princess sunshine chocolate computer internet
whatever nothing something mypassword thepassword newpassword testtest testtesttest temporary temppassword school schoolschool myschool
teacher teacherteacher student classroom greenhouse gardening garden hydroponics tomato lettuce
correcthorsebatterystaple spring summer autumn winter january february monday tuesday liverpool arsenal chelsea manchester london
qazwsxedcrfv qweasdzxc poiuytrewq mnbvcxz lkjhgfdsa 1029384756 9876543210 11111111 12121212 123123123 123321123321 147258369 159753`)

// tooCommon tells a password that is guessed first: one of the list with
// figures or signs around it, a run of one or two characters, the login, or little more than
// names that stand near: the person's and the school's.
func tooCommon(password, login string, near ...string) bool {
	p := strings.ToLower(password)
	if rest := name.Key(password); littleBeside(rest, near) {
		return true
	}
	bare := strings.Trim(p, "0123456789!?.,*#$-_+ ")
	before, _, _ := strings.Cut(login, "@")
	if len(before) > 3 && strings.Contains(p, before) {
		return true
	}
	for _, c := range common {
		if p == c || bare == c {
			return true
		}
	}
	return len(distinct(p)) <= 2 || bare == "" && strings.Contains("01234567890123456789 98765432109876543210", p)
}

// littleBeside tells whether a password without the words of some names has fewer than six
// letters left.
func littleBeside(password string, near []string) bool {
	taken := false
	for _, n := range append(slices.Clone(near), "school escuela colegio instituto greenhouse garden ulpa") {
		for _, word := range strings.FieldsFunc(name.Key(n), func(r rune) bool { return !unicode.IsLetter(r) }) {
			if len(word) > 3 && strings.Contains(password, word) {
				password, taken = strings.ReplaceAll(password, word, ""), true
			}
		}
	}
	left := 0
	for _, r := range password {
		if unicode.IsLetter(r) {
			left++
		}
	}
	return taken && left < 6
}

func distinct(s string) map[rune]bool {
	seen := map[rune]bool{}
	for _, r := range s {
		seen[r] = true
	}
	return seen
}

// commonPIN tells a PIN that is guessed first: one or two figures only, a row up or down,
// a year, a keypad's column, or halves that repeat or mirror one another.
func commonPIN(pin string) bool {
	if len(distinct(pin)) <= 2 || strings.Contains("01234567890123456789 98765432109876543210 13579024680 2580852014703690", pin) {
		return true
	}
	if len(pin) == 4 && (pin[:2] == "19" || pin[:2] == "20") {
		return true
	}
	half := len(pin) / 2
	a, b := pin[:half], []byte(pin[len(pin)-half:])
	if a == string(b) {
		return true
	}
	slices.Reverse(b)
	return a == string(b)
}
