package meterlog_test

import (
	"fmt"
	"strings"
	"time"

	"ulpa/core/meterlog"
)

func Example() {
	file := "time,series,value,unit\n2027-03-18 09:00,Vat,21.5,°C\n2027-03-18 09:15,Vat,71.6,°F\n"
	within := meterlog.Bounds{Zone: time.UTC, From: time.Unix(0, 0), To: time.Date(2027, 3, 19, 0, 0, 0, 0, time.UTC)}
	log, problems := meterlog.Parse(strings.NewReader(file), within)
	fmt.Println(log.Readings, "readings,", len(problems), "problems")
	_, problems = meterlog.Parse(strings.NewReader(file+"2027-03-18 09:30,Vat,warm,°C\n"), within)
	for _, p := range problems {
		fmt.Printf("line %d, %s: %s\n", p.Line, p.Column, p.Message)
	}
	// Output:
	// 2 readings, 0 problems
	// line 4, value: "warm" is not a number
}
