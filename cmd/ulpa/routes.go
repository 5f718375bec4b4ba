package main

import (
	"fmt"

	"github.com/spf13/cobra"

	"ulpa/internal/doors/web"
)

// routesCommand lists what the application answers, for whoever stands a proxy before it,
// and for the tests in a browser that look at every page.
func routesCommand() *cobra.Command {
	return &cobra.Command{
		Use:   "routes",
		Short: "List what the server answers",
		Args:  cobra.NoArgs,
		Run: func(c *cobra.Command, _ []string) {
			for _, r := range web.Samples() {
				fmt.Fprintln(c.OutOrStdout(), r.On)
			}
		},
	}
}
