-- name: AddPicture :exec
INSERT INTO picture (school_id, id, large, small) VALUES ($1, $2, $3, $4);

-- name: GetPicture :one
SELECT large FROM picture WHERE id = $1;

-- name: GetSmallPicture :one
SELECT small FROM picture WHERE id = $1;

-- name: DropPicture :exec
DELETE FROM picture WHERE id = $1;

-- name: CountPictures :one
SELECT count(*)::int FROM picture;

-- name: EntryOfPicture :one
-- The entry that keeps a picture, as it stands after what was put right.
SELECT e.id FROM entry e WHERE e.kind = 'picture' AND e.data ->> 'picture' = sqlc.arg(picture)::text
   AND NOT EXISTS (SELECT FROM entry n WHERE n.school_id = e.school_id AND n.corrects = e.id);
