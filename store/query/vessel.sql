-- name: AddPlace :execrows
insert into place (id, name, position) values ($1, $2, $3) on conflict do nothing;

-- name: PlaceByName :one
select * from place where name = $1;

-- name: Places :many
select * from place order by position, name;

-- name: AddVessel :execrows
insert into vessel (id, place_id, name, tag, kind, medium, parts, cover, since, width_mm, depth_mm, height_mm, wall_mm, fill_mm, holds, position)
values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12, $13, $14, $15, (select coalesce(max(v.position), 0) + 1 from vessel v where v.place_id = $2));

-- name: VesselByID :one
select * from vessel_now where id = $1;

-- name: LockVessel :one
select id from vessel where id = $1 for update;

-- name: Vessels :many
-- Those in use, in the order they stand.
select * from vessel_now where withdrawn_at is null and ended_on is null order by place_id, position, id;

-- name: VesselsEver :many
-- With those that were emptied: what stood in one still says so.
select * from vessel_now where withdrawn_at is null order by place_id, position, id;

-- name: CountVessels :one
select count(*) from vessel v where v.withdrawn_at is null and not exists (select 1 from vessel_end e where e.vessel_id = v.id and e.withdrawn_at is null);

-- name: StandingIn :many
-- Cuttings standing in the vessel now: set there last, and not potted, ended or given away since.
select c.id, c.code from cutting_now n join cutting c on c.id = n.cutting_id
where n.before_pot
  and n.cutting_id in (select s.cutting_id from setting s where s.vessel_id = sqlc.arg(vessel_id)::uuid and s.withdrawn_at is null)
  and (select s.vessel_id from setting s where s.cutting_id = n.cutting_id and s.withdrawn_at is null order by s.set_on desc, s.made_at desc, s.id desc limit 1) = sqlc.arg(vessel_id)::uuid
order by c.code;

-- name: AddSetting :execrows
insert into setting (id, cutting_id, vessel_id, set_on, set_nodes, made_at) values ($1, $2, $3, $4, $5, $6);

-- name: SettingsOfCuttings :many
-- In the order they hold: the last is where it was put last.
select s.id, s.cutting_id, s.vessel_id, s.set_on, s.set_nodes, v.name as vessel_name, v.kind as vessel_kind, v.medium,
    v.width_mm, v.height_mm, v.wall_mm
from setting s join vessel v on v.id = s.vessel_id
where s.cutting_id = any(sqlc.arg(cutting_ids)::uuid[]) and s.withdrawn_at is null order by s.cutting_id, s.set_on, s.made_at, s.id;

-- name: AddCare :execrows
insert into care (id, vessel_id, done_at, acts, seen, cover, well, put_off, note, made_at) values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10);

-- name: CareByID :one
select * from care where id = $1;

-- name: LastDone :many
-- When each act was done and each sign seen last at vessels in use, as far back as asked: what is due rests on no more.
select c.vessel_id, a.what::text as what, max(c.done_at)::timestamptz as last
from care c cross join lateral (
    select unnest(c.acts) as what
    union all select 'seen ' || unnest(c.seen)
    union all select case when c.put_off <> '' then 'put_off' else 'visited' end
) a
where c.withdrawn_at is null and c.done_at >= sqlc.arg(since)::timestamptz and c.done_at < sqlc.arg(before)::timestamptz
  and (cardinality(sqlc.arg(vessel_ids)::uuid[]) = 0 or c.vessel_id = any(sqlc.arg(vessel_ids)::uuid[]))
group by c.vessel_id, a.what;

-- name: LastCovers :many
-- How the cover of each vessel was left last, and when.
select distinct on (c.vessel_id) c.vessel_id, c.cover, c.done_at
from care c
where c.withdrawn_at is null and c.cover <> '' and c.done_at < sqlc.arg(before)::timestamptz
  and (cardinality(sqlc.arg(vessel_ids)::uuid[]) = 0 or c.vessel_id = any(sqlc.arg(vessel_ids)::uuid[]))
order by c.vessel_id, c.done_at desc, c.made_at desc, c.id desc;

-- name: CareOn :many
-- The visits of a day, oldest first.
select * from care c
where c.withdrawn_at is null and c.done_at >= sqlc.arg(since)::timestamptz and c.done_at < sqlc.arg(before)::timestamptz
order by c.done_at, c.made_at, c.id;

-- name: WithdrawCare :execrows
update care set withdrawn_at = now() where id = $1 and withdrawn_at is null;

-- name: AddVesselMove :execrows
insert into vessel_move (id, vessel_id, place_id, moved_on, made_at) values ($1, $2, $3, $4, $5);

-- name: VesselMoveByID :one
select * from vessel_move where id = $1;

-- name: WithdrawVesselMove :execrows
update vessel_move set withdrawn_at = now() where id = $1 and withdrawn_at is null;

-- name: FirstPlaceOf :one
select place_id from vessel where id = $1;

-- name: CorrectLastMove :execrows
-- Where it stands by its last move; none when it was never moved.
update vessel_move set place_id = sqlc.arg(place_id)
where id = (select m.id from vessel_move m where m.vessel_id = sqlc.arg(vessel_id)::uuid and m.withdrawn_at is null order by m.moved_on desc, m.made_at desc, m.id desc limit 1);

-- name: AddVesselEnd :execrows
insert into vessel_end (id, vessel_id, ended_on, how, note, made_at) values ($1, $2, $3, $4, $5, $6);

-- name: VesselEndByID :one
select * from vessel_end where id = $1;

-- name: WithdrawVesselEnd :execrows
update vessel_end set withdrawn_at = now() where id = $1 and withdrawn_at is null;

-- name: VesselHistory :many
-- What was done with one vessel, newest first.
select c.id, 'care'::text as kind, c.done_at as at, c.acts, c.seen, c.cover, c.well, c.put_off, c.note, ''::text as place from care c where c.vessel_id = sqlc.arg(vessel_id)::uuid and c.withdrawn_at is null
union all
select m.id, 'moved'::text, m.moved_on, '{}'::text[], '{}'::text[], '', false, '', '', p.name from vessel_move m join place p on p.id = m.place_id where m.vessel_id = sqlc.arg(vessel_id)::uuid and m.withdrawn_at is null
union all
select e.id, e.how, e.ended_on, '{}'::text[], '{}'::text[], '', false, '', e.note, '' from vessel_end e where e.vessel_id = sqlc.arg(vessel_id)::uuid and e.withdrawn_at is null
order by at desc, id desc limit sqlc.arg(most)::integer;

-- name: AddCareSchool :execrows
insert into care_school (id, vessel_id, about, school, made_at) values ($1, $2, $3, $4, $5);

-- name: CareSchools :many
-- The choice made last of each, for all vessels and for single ones.
select distinct on (vessel_id, about) vessel_id, about, school, made_at from care_school order by vessel_id, about, made_at desc, id desc;

-- name: AddPotVisit :execrows
insert into pot_visit (id, pot_id, visited_at, note, made_at) values ($1, $2, $3, $4, $5);

-- name: PotVisitByID :one
select * from pot_visit where id = $1;

-- name: WithdrawPotVisit :execrows
update pot_visit set withdrawn_at = now() where id = $1 and withdrawn_at is null;

-- name: PotVisits :many
select id, pot_id, visited_at, note from pot_visit where pot_id = any(sqlc.arg(pot_ids)::uuid[]) and withdrawn_at is null order by visited_at, id;

-- name: PotNow :one
select * from pot where id = $1 and withdrawn_at is null;
