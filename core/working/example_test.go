package working_test

import (
	"encoding/json"
	"fmt"

	"ulpa/core/say"
	"ulpa/core/unit"
	"ulpa/core/working"
)

func Example() {
	fill, level := say.Of(58, unit.Litre), say.Of(40, unit.Litre)
	step := working.Step{Name: say.T("Water to add"), Formula: say.T("%s − %s", fill, level), Value: 18, Unit: unit.Litre}
	out, err := json.Marshal(step)
	fmt.Println(string(out), err)
	// Output:
	// {"name":"Water to add","formula":"58 L − 40 L","value":18,"unit":"L"} <nil>
}
