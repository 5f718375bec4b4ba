package crop

import (
	"io/fs"
	"testing"
	"testing/fstest"

	"github.com/stretchr/testify/require"
)

// A crop that is new is whole when every table has it; what is missing is named all at once.
func TestANewCropIsFoundToBeWhole(t *testing.T) {
	_, err := read(tables)
	require.NoError(t, err)
	names, err := fs.Glob(tables, "catalogue/*.csv")
	require.NoError(t, err)
	more := fstest.MapFS{}
	for _, name := range names {
		b, err := fs.ReadFile(tables, name)
		require.NoError(t, err)
		more[name] = &fstest.MapFile{Data: b}
	}
	crops := more["catalogue/crops.csv"]
	crops.Data = append(crops.Data, "skirret,Skirret,SKI,carrot,root,seed,perennial\n"...)
	_, err = read(more)
	for _, name := range names {
		if name != "catalogue/crops.csv" {
			require.ErrorContains(t, err, name+": skirret is missing")
		}
	}
	more["catalogue/water.csv"] = &fstest.MapFile{Data: []byte("id,thirst\nlettuce,3\nlettuce,3\nmoonwort,1\n")}
	_, err = read(more)
	for _, what := range []string{"no column thirst in the schema", "lettuce is there twice", "moonwort is there twice, or not in crops.csv"} {
		require.ErrorContains(t, err, what)
	}
}
