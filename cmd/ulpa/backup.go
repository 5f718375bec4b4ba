package main

import (
	"errors"
	"fmt"
	"io"
	"os"

	"github.com/spf13/cobra"

	"ulpa/internal/base/store"
	"ulpa/internal/work/upkeep"
)

var errNoOwner = errors.New("give the address of the database, as the owner of its tables: --owner-url (or ULPA_OWNER_URL)")

func backupCommand() *cobra.Command {
	var owner string
	var encrypt bool
	c := &cobra.Command{
		Use: "backup FILE", Short: "Write the whole database into a file, while people work", Args: cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			if owner == "" {
				return errNoOwner
			}
			passphrase := ""
			if encrypt {
				if passphrase = os.Getenv("ULPA_PASSPHRASE"); len(passphrase) < 12 {
					return errors.New("give a passphrase of at least 12 characters in ULPA_PASSPHRASE, and store it somewhere else than the file")
				}
			}
			if err := store.Backup(cmd.Context(), owner, args[0], passphrase); err != nil {
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
	c.Flags().BoolVar(&encrypt, "encrypt", setting("ULPA_ENCRYPT", "") != "", "encrypt it with the passphrase in ULPA_PASSPHRASE (ULPA_ENCRYPT)")
	return c
}

func restoreCommand() *cobra.Command {
	var owner, password string
	var again bool
	c := &cobra.Command{
		Use: "restore FILE", Short: "Fill an empty database from your own backup", Args: cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			if owner == "" {
				return errNoOwner
			}
			found, err := upkeep.Restore(cmd.Context(), owner, args[0], password, os.Getenv("ULPA_PASSPHRASE"), again)
			if err != nil {
				return err
			}
			fmt.Fprintf(cmd.OutOrStdout(), "restored %s\n", args[0])
			return tell(cmd.OutOrStdout(), found)
		},
	}
	ownerFlag(c, &owner)
	c.Flags().BoolVar(&again, "again", false, "drop what an interrupted restore left behind")
	c.Flags().StringVar(&password, "app-password", setting("ULPA_APP_PASSWORD", ""), "password to give the role ulpa_app (ULPA_APP_PASSWORD)")
	return c
}

func auditCommand() *cobra.Command {
	var owner string
	var look bool
	c := &cobra.Command{
		Use: "audit", Short: "Compare what is stored beside the facts with the facts, in all schools, and correct it", Args: cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			if owner == "" {
				return errNoOwner
			}
			found, err := upkeep.Audit(cmd.Context(), owner, !look)
			if err != nil {
				return err
			}
			return tell(cmd.OutOrStdout(), found)
		},
	}
	ownerFlag(c, &owner)
	c.Flags().BoolVar(&look, "only-look", false, "say what differs from the facts, and correct nothing")
	return c
}

// tell says what an audit found; it fails when something stays.
func tell(to io.Writer, f upkeep.Found) error {
	for _, s := range f.Stays {
		fmt.Fprintln(to, s)
	}
	fmt.Fprintf(to, "audited: %d schools, %d mended, %d not as the facts have it\n", f.Schools, f.Mended, len(f.Stays))
	if len(f.Stays) > 0 {
		return errors.New("something differs from the facts")
	}
	return nil
}
