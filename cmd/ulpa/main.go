// Command ulpa is the whole of Ulpa: the demo, the server, and the tools
// around them.
package main

import (
	"fmt"
	"os"

	"github.com/spf13/cobra"
)

func main() {
	root := &cobra.Command{
		Use:           "ulpa",
		Short:         "Plans, measures and remembers a school's greenhouse",
		SilenceUsage:  true,
		SilenceErrors: true,
	}
	root.CompletionOptions.DisableDefaultCmd = true
	root.AddCommand(
		demoCommand(),
		seasonTrialCommand(),
		calcCommand(),
		serveCommand(),
		migrateCommand(),
		schoolCommand(),
		userCommand(),
		keyCommand(),
		importCommand(),
		backupCommand(),
		restoreCommand(),
		auditCommand(),
		routesCommand(),
		withPostgresCommand(),
	)
	if err := root.Execute(); err != nil {
		fmt.Fprintln(os.Stderr, "ulpa:", err)
		os.Exit(1)
	}
}

// setting is a flag's default: the environment's variable, or otherwise.
func setting(name, otherwise string) string {
	if v := os.Getenv(name); v != "" {
		return v
	}
	return otherwise
}
