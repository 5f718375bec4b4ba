package crop

// Unknown is the id of a plant that nobody knows. It is grown on and watched like another until
// somebody can name it, and it is never food.
const Unknown = "unknown"

// unknown stands for such a plant. What is usual of lettuce is taken for it where a figure is needed,
// such as how much light it wants; but it is taken for tender, and nothing of it may be eaten.
func unknown() Crop {
	c := catalogue()["lettuce"]
	c.ID, c.Name, c.Letters, c.Family, c.Kind, c.Food = Unknown, "Unknown plant", "UNK", "", "unknown", NoFood
	c.Hazard = "Nobody knows what this is: never taste it, wear gloves to touch it, and wash your hands."
	c.Tender, c.SafeC, c.UnhardenedC = TenderCrop, 10, 12
	c.Start, c.Cuts, c.Clump, c.Bolts, c.GerminateAs = "either", false, false, false, ""
	return c
}
