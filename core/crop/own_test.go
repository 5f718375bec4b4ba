package crop_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"ulpa/core/crop"
)

// A crop of a school's own is its kin under another name, with letters of its own.
func TestACropLikeAnother(t *testing.T) {
	for name, letters := range map[string]string{"Oak leaf": "OAK", "Épinard fraise": "EPI", "Yu": "YUN", "大根": "OWN", "-x'": "XWN"} {
		require.NoError(t, crop.CheckName(name))
		for _, kin := range crop.All() {
			id := crop.Like(kin.ID, name)
			c, ok := crop.Of(id)
			require.True(t, ok)
			require.Equal(t, []string{id, name, letters, kin.ID}, []string{c.ID, string(c.Name), c.Letters, crop.Kin(id)})
			c.ID, c.Name, c.Letters = kin.ID, kin.Name, kin.Letters
			require.Equal(t, kin, c, "in all else it is as its kin")
		}
	}
	for _, name := range []string{"", "a/b", "a~b", "a?b", "a%b", "a\nb"} {
		require.Error(t, crop.CheckName(name), name)
	}
	_, ok := crop.Of(crop.Like("tumbleweed", "Oak leaf"))
	require.False(t, ok)
}

// What a school enters under the name of a plant that harms carries that plant's caution,
// whatever it is said to be like, in either language; and no sprouts are grown of what is
// poisonous young.
func TestNamesThatHarm(t *testing.T) {
	for name, like := range map[string]string{
		"Foxglove": "snapdragon", "Castor bean": "bean", "Dwarf daffodils": "onion", "Lily of the valley": "chives", "Lupin": "pea",
		"Dedalera roja": "snapdragon", "Ricino": "bean", "Narciso": "onion", "Adelfa": "rosemary", "Datura": "tomato", "Lirio de los valles": "chives",
	} {
		c, ok := crop.Of(crop.Like(like, name))
		require.True(t, ok)
		require.Equal(t, crop.Poison, c.Food, name)
		require.Contains(t, c.Hazard, "Known by name, not food", name)
		_, err := c.With("food", crop.Food)
		require.Error(t, err, "and no school can say otherwise")
	}
	sesame, _ := crop.Of(crop.Like("mustard", "Black sesame"))
	require.Contains(t, sesame.Hazard, "allergen")
	plain, _ := crop.Of(crop.Like("tomato", "Striped tomato"))
	kin, _ := crop.Find("tomato")
	require.Equal(t, kin.Hazard, plain.Hazard, "of its nearest kind")
	eyed, _ := crop.Of(crop.Like("lettuce", "Lupinella"))
	require.Equal(t, crop.Food, eyed.Food, "a part of a word is another word")
	for name, eaten := range map[string]bool{
		"Kidney bean": false, "Tomato shoots": false, "Potatoes": false, "Aubergine": false, "Rhubarb": false, "Alubias": false, "Brotes de tomate": false,
		"Adzuki beans": true, "Red radish": true, "Kale mix": true, "Chickpea": true, "Lupins": false, "Mung bean": true,
	} {
		require.Equal(t, eaten, crop.EatenAsShoots(name), name)
		err := crop.CheckOwn("mungbean", name)
		require.Equal(t, eaten, err == nil, name)
		require.NoError(t, crop.CheckOwn("tomato", name), "as a plant")
	}
	for _, c := range crop.All() {
		if c.Sprout() {
			require.Equal(t, crop.Food, c.Food, c.ID)
			require.Regexp(t, "(?i)raw", c.Hazard, "%s is eaten young: it says of raw eating", c.ID)
		}
		if c.Food == crop.Poison || c.Food == crop.FoodPart {
			require.NotEmpty(t, c.Hazard, c.ID)
		}
		if c.Start == "cutting" && c.ID != "spiderplant" {
			require.InDelta(t, 3, c.DepthCM, 2, "%s: a cutting stands in the mix", c.ID)
			require.Equal(t, 1, c.SeedsCell, c.ID)
		}
	}
}
