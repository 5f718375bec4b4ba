-- +goose Up
-- Who asks with a session or a key is looked up at every request: the database plans these two
-- once for a connection now, and no longer each time.
-- +goose StatementBegin
CREATE OR REPLACE FUNCTION session_find(hash bytea) RETURNS bytea
LANGUAGE plpgsql STABLE SECURITY DEFINER SET search_path = pg_catalog, public, pg_temp AS
$$ BEGIN RETURN (SELECT data FROM session WHERE token_hash = hash AND expiry > now()); END $$;

CREATE OR REPLACE FUNCTION key_holder(hash bytea) RETURNS TABLE (school_id uuid, id uuid, scope text, used_at timestamptz)
LANGUAGE plpgsql STABLE SECURITY DEFINER SET search_path = pg_catalog, public, pg_temp AS
$$ BEGIN RETURN QUERY SELECT k.school_id, k.id, k.scope, k.used_at FROM program_key k
  JOIN person p ON p.school_id = k.school_id AND p.id = k.id WHERE k.token = hash AND p.active; END $$;
-- +goose StatementEnd

-- +goose Down
SELECT 1;
