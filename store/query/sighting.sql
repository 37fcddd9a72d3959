-- name: AskSighting :execrows
insert into sighting (id, photo_id, cutting_id, asked, asked_at) values ($1, $2, $3, $4, $5) on conflict do nothing;

-- name: SightingByID :one
select id, photo_id, cutting_id, asked, state, step, coalesce(result, 'null'::jsonb)::jsonb as result, remark, version, asked_at, done_at from sighting where id = $1;

-- name: StepSighting :execrows
-- Goes on only while nobody stopped it.
update sighting set state = 'working', step = $2 where id = $1 and state in ('waiting', 'working');

-- name: EndSighting :execrows
update sighting set state = $2, step = '', result = $3, remark = $4, version = $5, done_at = $6 where id = $1 and state in ('waiting', 'working');

-- name: StopSighting :execrows
update sighting set state = 'stopped', step = '', done_at = $2 where id = $1 and state in ('waiting', 'working');

-- name: OldSightings :execrows
delete from sighting where asked_at < $1;

-- name: TagNames :many
-- What a tag names: a cutting, or a vessel; of a vessel the one that is asked for only.
select c.id, c.code from cutting c where c.tag = sqlc.arg(tag)::text and c.withdrawn_at is null
union all
select v.id, v.name as code from vessel v where v.tag = sqlc.arg(tag)::text;
