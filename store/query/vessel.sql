-- name: AddPlace :execrows
insert into place (id, name, position) values ($1, $2, $3) on conflict do nothing;

-- name: PlaceByName :one
select * from place where name = $1;

-- name: Places :many
select * from place order by position, name;

-- name: AddVessel :execrows
insert into vessel (id, place_id, name, tag, kind, width_mm, depth_mm, height_mm, wall_mm, fill_mm, holds, position)
values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, (select coalesce(max(v.position), 0) + 1 from vessel v where v.place_id = $2));

-- name: VesselByID :one
select * from vessel where id = $1;

-- name: LockVessel :one
select * from vessel where id = $1 for update;

-- name: Vessels :many
select * from vessel where withdrawn_at is null order by place_id, position, id;

-- name: CountVessels :one
select count(*) from vessel where withdrawn_at is null;

-- name: CountInVessel :one
-- Cuttings standing in the vessel now: set there last, and not potted, ended or given away since.
select count(*) from cutting_now n
where n.before_pot and n.cutting_id <> sqlc.arg(but_not)
  and n.cutting_id in (select s.cutting_id from setting s where s.vessel_id = sqlc.arg(vessel_id)::uuid and s.withdrawn_at is null)
  and (select s.vessel_id from setting s where s.cutting_id = n.cutting_id and s.withdrawn_at is null order by s.set_on desc, s.made_at desc, s.id desc limit 1) = sqlc.arg(vessel_id)::uuid;

-- name: AddSetting :execrows
insert into setting (id, cutting_id, vessel_id, set_on, set_nodes, made_at) values ($1, $2, $3, $4, $5, $6);

-- name: SettingsOfCuttings :many
-- In the order they hold: the last is where it was put last.
select s.id, s.cutting_id, s.vessel_id, s.set_on, s.set_nodes, v.name as vessel_name, v.kind as vessel_kind, v.place_id
from setting s join vessel v on v.id = s.vessel_id
where s.cutting_id = any(sqlc.arg(cutting_ids)::uuid[]) and s.withdrawn_at is null order by s.cutting_id, s.set_on, s.made_at, s.id;
