package main

import (
	"fmt"
	"io"
	"os"
	"strings"
	"time"

	"github.com/spf13/cobra"

	"ulpa/core/calc"
	"ulpa/internal/base/timer"
)

// calcCommand is the command-line face of the calculators. It needs no database
// and no configuration; input it cannot use ends it with exit code 2.
func calcCommand() *cobra.Command {
	c := &cobra.Command{
		Use: "calc [NAME]", Short: "Calculate: one JSON object in, one out", Args: cobra.ArbitraryArgs,
		RunE: func(cmd *cobra.Command, args []string) error {
			if len(args) == 0 {
				for _, k := range calc.All {
					fmt.Fprintf(cmd.OutOrStdout(), "%-18s %s\n", k.Name, k.Answers)
				}
				return nil
			}
			refuse(cmd.ErrOrStderr(), "name: "+args[0]+" is not a calculator; `ulpa calc` lists them")
			return nil
		},
	}
	for _, k := range calc.All {
		sub := &cobra.Command{
			Use: k.Name, Short: string(k.Answers), Long: describe(k), Args: cobra.NoArgs,
			Run: func(cmd *cobra.Command, _ []string) {
				body, err := io.ReadAll(io.LimitReader(cmd.InOrStdin(), calc.MaxBody+1))
				if err == nil {
					var out []byte
					if out, err = k.Timed(timer.Of(cmd.Context(), 10*time.Minute)).RunJSON(body); err == nil {
						fmt.Fprintln(cmd.OutOrStdout(), string(out))
						return
					}
				}
				refuse(cmd.ErrOrStderr(), calc.OneLine(err))
			},
		}
		c.AddCommand(sub)
	}
	return c
}

func refuse(to io.Writer, line string) {
	fmt.Fprintln(to, line)
	os.Exit(2)
}

// describe is what --help says: the fields with units, and an example that runs as printed.
func describe(k calc.Calculator) string {
	var b strings.Builder
	fmt.Fprintf(&b, "%s.\n\nFields:\n", k.Answers)
	for _, f := range k.Fields {
		say := f.Takes
		if len(f.Choices) > 0 {
			say += " (" + strings.Join(f.Choices, ", ") + ")"
		}
		if f.Unit != "" {
			say += "; " + f.Unit
		}
		if f.Needed {
			say += "; needed"
		} else if f.Default != "" {
			say += "; " + f.Default + " when left out"
		}
		fmt.Fprintf(&b, "  %-22s %-8s %s\n", f.Name, f.Kind, say)
	}
	fmt.Fprintf(&b, "\nExample:\n  echo '%s' | ulpa calc %s", k.Example, k.Name)
	return b.String()
}
