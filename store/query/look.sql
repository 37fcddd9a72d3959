-- name: AddLook :execrows
insert into look (id, cutting_id, looked_at, photo_id, replaces, seen, traces, made_at) values ($1, $2, $3, $4, $5, $6, $7, $8);

-- name: TracesOf :many
select id, traces from look where cutting_id = $1;

-- name: LooksOfCuttings :many
-- Looks that hold: those no later look replaces, oldest first.
select l.id, l.cutting_id, l.looked_at, l.photo_id, l.replaces, l.seen, coalesce(m.version, '')::text as measured_by, coalesce(m.lengths, '[]'::jsonb)::jsonb as lengths
from look l left join measured m on m.look_id = l.id
where l.cutting_id = any(sqlc.arg(cutting_ids)::uuid[])
  and l.withdrawn_at is null
  and not exists (select 1 from look later where later.replaces = l.id and later.withdrawn_at is null)
order by l.cutting_id, l.looked_at, l.made_at, l.id;

-- name: TracesOfLooks :many
select id, traces from look where id = any(sqlc.arg(ids)::uuid[]);

-- name: KeepMeasured :exec
insert into measured (look_id, version, lengths)
select r.look_id, sqlc.arg(version)::text, r.lengths from jsonb_to_recordset(sqlc.arg(measured)::jsonb) as r(look_id uuid, lengths jsonb)
order by r.look_id
on conflict on constraint measured_pkey do update set version = excluded.version, lengths = excluded.lengths;

-- name: LookByID :one
select id, cutting_id, looked_at, replaces, withdrawn_at from look where id = $1;

-- name: CountLooks :one
select count(*) from look where cutting_id = $1;

-- name: EarlierLooks :many
-- What a look said before it was corrected, for each correction of this cutting.
select l.id, l.looked_at, l.seen, coalesce(m.lengths, '[]'::jsonb)::jsonb as lengths, later.id as replaced_by
from look l left join measured m on m.look_id = l.id join look later on later.replaces = l.id and later.withdrawn_at is null
where l.cutting_id = $1 order by later.made_at, later.id;

-- name: AddPhoto :execrows
insert into photo (id, sha256, original, media_type, width_px, height_px, orientation, taken_at, taken_from, remark)
values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10) on conflict do nothing;

-- name: PhotoByID :one
select id, sha256, media_type, width_px, height_px, orientation, taken_at, taken_from, remark, uploaded_at from photo where id = $1;

-- name: TurnPhoto :execrows
-- A photo is turned before anything is traced on it: lines are in pixels of the upright picture.
update photo p set orientation = sqlc.arg(orientation)::integer, width_px = sqlc.arg(width_px)::integer, height_px = sqlc.arg(height_px)::integer
where p.id = sqlc.arg(id)::uuid and p.orientation = sqlc.arg(was)::integer and not exists (select 1 from look l where l.photo_id = p.id);

-- name: DropPhotoViews :exec
delete from photo_view where photo_id = $1;

-- name: NamePhoto :exec
insert into photo_name (id, photo_id) values ($1, $2) on conflict do nothing;

-- name: PhotoNamed :one
select photo_id from photo_name where id = $1;

-- name: PhotoBySum :one
select id, sha256, media_type, width_px, height_px, orientation, taken_at, taken_from, remark, uploaded_at from photo where sha256 = $1;

-- name: PhotosByID :many
select id, sha256, media_type, width_px, height_px, orientation, taken_at, taken_from, remark, uploaded_at from photo
where id = any(sqlc.arg(ids)::uuid[]);

-- name: PhotoOriginal :one
select original, media_type, orientation from photo where id = $1;

-- name: PhotoView :one
select jpeg from photo_view where photo_id = $1 and most_px = $2;

-- name: KeepPhotoView :exec
insert into photo_view (photo_id, most_px, jpeg) values ($1, $2, $3) on conflict do nothing;

-- name: PhotosWithoutViews :many
-- Photos that lack a picture of one of the sizes, as after their pictures were thrown away.
select p.id from photo p
where (select count(*) from photo_view v where v.photo_id = p.id and v.most_px = any(sqlc.arg(sizes)::integer[])) < cardinality(sqlc.arg(sizes)::integer[])
order by p.uploaded_at, p.id limit 200;
