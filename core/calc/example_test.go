package calc_test

import (
	"fmt"

	"ulpa/core/calc"
)

func Example() {
	c, _ := calc.Find("oxygen")
	answer, err := c.Run([]byte(`{"temperature_c": 20}`))
	fmt.Println(c.Title, err)
	fmt.Printf("%.2f mg/L\n", answer["saturation_mg_l"])
	_, err = c.Run([]byte(`{"temperature_c": "warm"}`))
	fmt.Println(err)
	// Output:
	// Oxygen for roots <nil>
	// 9.09 mg/L
	// temperature_c: must be a number, not a text
}
