-- name: AddMother :execrows
insert into mother (id, code, name, group_key, provenance, pattern, from_cutting) values ($1, $2, $3, $4, $5, $6, $7)
on conflict (id) do nothing;

-- name: MotherByID :one
select * from mother where id = $1;

-- name: MotherCodesLike :many
select code from mother where code like $1 || '%' limit 200;

-- name: Mothers :many
select * from mother order by name, code limit 1000;

-- name: AddStem :execrows
insert into stem (id, mother_id, letter) values ($1, $2, $3) on conflict (id) do nothing;

-- name: StemByID :one
select * from stem where id = $1;

-- name: LockMother :one
select id from mother where id = $1 for update;

-- name: CountStems :one
select count(*) from stem where mother_id = $1;

-- name: AddStemMap :execrows
insert into stem_map (stem_id, version, fact_id, map) values ($1, $2, $3, $4) on conflict do nothing;

-- name: StemMapByFact :one
select * from stem_map where fact_id = $1;

-- name: StemsOfMothers :many
-- The stems with the newest version of each map.
select s.id, s.mother_id, s.letter, m.version, m.map, m.recorded_at
from stem s
join lateral (select * from stem_map where stem_map.stem_id = s.id order by version desc limit 1) m on true
where s.mother_id = any(sqlc.arg(mother_ids)::uuid[])
order by s.mother_id, length(s.letter), s.letter;

-- name: NewestStemMap :one
select * from stem_map where stem_id = $1 order by version desc limit 1;

-- name: TakenNodes :many
select node from cutting_node where stem_id = $1 order by node;

-- name: TakenNodesOfMothers :many
select n.stem_id, n.node, c.code, (c.piece->>'from_mm')::double precision as from_mm
from cutting_node n
join cutting c on c.id = n.cutting_id
join stem s on s.id = n.stem_id
where s.mother_id = any(sqlc.arg(mother_ids)::uuid[])
order by n.stem_id, n.node;

-- name: AddWatering :execrows
insert into watering (id, mother_id, watered_on) values ($1, $2, $3) on conflict (id) do nothing;

-- name: LastWaterings :many
select mother_id, max(watered_on)::timestamptz as watered_on from watering
where mother_id = any(sqlc.arg(mother_ids)::uuid[]) group by mother_id;

-- name: StemCuts :many
-- Every cut of these mothers' stems.
select cut.id, cut.stem_id, s.mother_id, cut.map_version, cut.cut_on
from cut join stem s on s.id = cut.stem_id
where s.mother_id = any(sqlc.arg(mother_ids)::uuid[])
order by cut.cut_on, cut.id;

-- name: MothersFrom :many
-- Mothers that grew from cuttings of these mothers.
select m.id, m.code, m.name, m.from_cutting, s.mother_id as parent_id
from mother m
join cutting c on c.id = m.from_cutting
join stem s on s.id = c.stem_id
where s.mother_id = any(sqlc.arg(mother_ids)::uuid[])
order by m.code;

-- name: StemMapAt :one
select * from stem_map where stem_id = $1 and version = $2;

-- name: MotherByCode :one
select * from mother where code = $1;
