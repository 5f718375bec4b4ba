package main

import (
	"errors"
	"fmt"
	"os"

	"github.com/spf13/cobra"

	"ulpa/internal/store"
)

var errNoOwner = errors.New("say where the database is, as the owner of its tables: --owner-url (or ULPA_OWNER_URL)")

func backupCommand() *cobra.Command {
	var owner string
	c := &cobra.Command{
		Use: "backup FILE", Short: "Write the whole database into a file, while people work", Args: cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			if owner == "" {
				return errNoOwner
			}
			if err := store.Backup(cmd.Context(), owner, args[0]); err != nil {
				return err
			}
			st, err := os.Stat(args[0])
			if err == nil {
				fmt.Fprintf(cmd.OutOrStdout(), "%s: %d kB\n", args[0], (st.Size()+1023)/1024)
			}
			return err
		},
	}
	ownerFlag(c, &owner)
	return c
}

func restoreCommand() *cobra.Command {
	var owner, password string
	c := &cobra.Command{
		Use: "restore FILE", Short: "Fill an empty database from a backup", Args: cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			if owner == "" {
				return errNoOwner
			}
			return store.Restore(cmd.Context(), owner, args[0], password)
		},
	}
	ownerFlag(c, &owner)
	c.Flags().StringVar(&password, "app-password", setting("ULPA_APP_PASSWORD", ""), "password to give the role ulpa_app (ULPA_APP_PASSWORD)")
	return c
}
