-- +goose Up
-- In which language a school reads, and who has chosen another: a BCP 47 tag. Which there
-- are the program knows.
ALTER TABLE school ADD COLUMN language text NOT NULL DEFAULT 'en' CHECK (language ~ '^[a-z]{2,3}(-[A-Za-z0-9]{2,8})*$');
ALTER TABLE person ADD COLUMN language text CHECK (language ~ '^[a-z]{2,3}(-[A-Za-z0-9]{2,8})*$');
GRANT SELECT (language), INSERT (language), UPDATE (language) ON person TO ulpa_app;

-- What a tablet shows before anybody has signed in is in its school's language.
DROP FUNCTION sign_in_crews;
CREATE FUNCTION sign_in_crews(slug text, device bytea) RETURNS TABLE (school_name text, language text, shut boolean, id uuid, name text)
LANGUAGE sql STABLE SECURITY DEFINER SET search_path = pg_catalog, public, pg_temp AS
$$ SELECT s.name, s.language, s.shut, p.id, p.name
     FROM (SELECT s.*, s.crews_on_enrolled_only AND NOT EXISTS (SELECT FROM crew_device d WHERE d.school_id = s.id AND d.token = $2) AS shut FROM school s WHERE s.slug = $1) s
     LEFT JOIN person p ON p.school_id = s.id AND p.kind = 'crew' AND p.active AND NOT s.shut
    ORDER BY p.name $$;
REVOKE ALL ON FUNCTION sign_in_crews FROM PUBLIC;
GRANT EXECUTE ON FUNCTION sign_in_crews TO ulpa_app;

-- +goose Down
SELECT 1;
