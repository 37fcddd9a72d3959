-- name: AddPlace :execrows
insert into place (id, name, position) values ($1, $2, $3) on conflict do nothing;

-- name: PlaceByName :one
select * from place where name = $1;

-- name: Places :many
select * from place order by position, name;

-- name: AddVessel :execrows
insert into vessel (id, place_id, name, tag, kind, width_mm, depth_mm, height_mm, wall_mm, fill_mm, holds, position)
values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, (select coalesce(max(v.position), 0) + 1 from vessel v where v.place_id = $2))
on conflict (id) do nothing;

-- name: VesselByID :one
select * from vessel where id = $1;

-- name: LockVessel :one
select * from vessel where id = $1 for update;

-- name: Vessels :many
select * from vessel where withdrawn_at is null order by place_id, position, id;

-- name: CountVessels :one
select count(*) from vessel where withdrawn_at is null;

-- name: CountInVessel :one
-- Cuttings standing in the vessel now: set there last, not potted, not ended, not given away.
select count(*) from cutting c
where c.id <> sqlc.arg(but_not)
  and (select s.vessel_id from setting s where s.cutting_id = c.id and s.withdrawn_at is null order by s.set_on desc, s.made_at desc, s.id desc limit 1) = sqlc.arg(vessel_id)::uuid
  and c.withdrawn_at is null
  and not exists (select 1 from potting p where p.cutting_id = c.id and p.withdrawn_at is null)
  and not exists (select 1 from outcome o where o.cutting_id = c.id and o.withdrawn_at is null)
  and not exists (select 1 from handover h where h.cutting_id = c.id and h.withdrawn_at is null);

-- name: AddSetting :execrows
insert into setting (id, cutting_id, vessel_id, set_on, set_nodes, made_at) values ($1, $2, $3, $4, $5, $6) on conflict (id) do nothing;

-- name: SettingsOf :many
select s.*, v.name as vessel_name, v.kind as vessel_kind from setting s join vessel v on v.id = s.vessel_id
where s.cutting_id = $1 and s.withdrawn_at is null order by s.set_on, s.made_at, s.id;
