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

-- name: InPhoto :many
-- What stands and is named by tags: cuttings, and those in vessels that are named or given; each with what it stands in.
select c.id, c.code, m.name as mother_name, s.vessel_id, coalesce(v.name, '')::text as vessel_name,
       (c.tag = any(sqlc.arg(tags)::text[]))::boolean as by_tag
from cutting_now n
join cutting c on c.id = n.cutting_id
join stem st on st.id = c.stem_id
join mother m on m.id = st.mother_id
left join lateral (select setting.vessel_id from setting
    where setting.cutting_id = c.id and setting.withdrawn_at is null order by setting.set_on desc, setting.made_at desc, setting.id desc limit 1) s on n.before_pot
left join vessel v on v.id = s.vessel_id
where n.stands and (c.tag = any(sqlc.arg(tags)::text[]) or v.tag = any(sqlc.arg(tags)::text[]) or s.vessel_id = any(sqlc.arg(vessels)::uuid[]))
order by c.code;
