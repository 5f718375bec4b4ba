package store

import (
	"context"
	"fmt"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
)

// Reword goes over all entries of all schools with what each is found by, and keeps what words
// makes of it. It is for the owner of the tables.
func Reword(ctx context.Context, ownerURL string, words func(kind string, data []byte, found string) string) error {
	conn, err := pgx.Connect(ctx, ownerURL)
	if err != nil {
		return fmt.Errorf("database: %w", err)
	}
	defer conn.Close(ctx)
	type entry struct {
		School, ID uuid.UUID
		Kind       string
		Data       []byte
		Words      string
	}
	var last entry
	for {
		rows, err := conn.Query(ctx, `SELECT school_id, id, kind, data::text::bytea, words FROM entry
			WHERE (school_id, id) > ($1, $2) ORDER BY school_id, id LIMIT 1000`, last.School, last.ID)
		if err != nil {
			return err
		}
		list, err := pgx.CollectRows(rows, pgx.RowToStructByPos[entry])
		if err != nil || len(list) == 0 {
			return err
		}
		last = list[len(list)-1]
		var schools, ids []uuid.UUID
		var found []string
		for _, e := range list {
			if w := words(e.Kind, e.Data, e.Words); w != e.Words {
				schools, ids, found = append(schools, e.School), append(ids, e.ID), append(found, w)
			}
		}
		if _, err := conn.Exec(ctx, `UPDATE entry e SET words = n.words FROM unnest($1::uuid[], $2::uuid[], $3::text[]) AS n (school_id, id, words)
			WHERE e.school_id = n.school_id AND e.id = n.id`, schools, ids, found); err != nil {
			return err
		}
	}
}
