-- name: AddMother :execrows
insert into mother (id, code, name, group_key, provenance, pattern, from_cutting, known) values ($1, $2, $3, $4, $5, $6, $7, $8);

-- name: MotherByID :one
select * from mother where id = $1;

-- name: MotherCodesLike :many
select code from mother where code like sqlc.arg(base)::text || '%' and withdrawn_at is null;

-- name: CountMothers :one
select count(*) from mother where withdrawn_at is null;

-- name: MothersNamed :many
select * from mother where name = $1 and withdrawn_at is null order by recorded_at;

-- name: LockMotherCodes :exec
-- Codes are given out one at a time.
select pg_advisory_xact_lock(hashtext('mother_code'));

-- name: Mothers :many
select * from mother where withdrawn_at is null order by name, code;

-- name: AddStem :execrows
insert into stem (id, mother_id, letter) values ($1, $2, $3);

-- name: StemByID :one
select * from stem where id = $1;

-- name: LockMother :one
select id from mother where id = $1 for update;

-- name: AddStemMap :execrows
insert into stem_map (stem_id, version, fact_id, map, mapped_on) values ($1, $2, $3, $4, $5);

-- name: StemsOfMothers :many
-- The stems with the newest version of each map.
select s.id, s.mother_id, s.letter, m.version, m.map, m.mapped_on
from stem s
join lateral (select * from stem_map where stem_map.stem_id = s.id order by version desc limit 1) m on true
where s.mother_id = any(sqlc.arg(mother_ids)::uuid[]) and s.withdrawn_at is null
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
insert into watering (id, mother_id, watered_on) values ($1, $2, $3);

-- name: LastWaterings :many
select mother_id, max(watered_on)::timestamptz as watered_on from watering
where mother_id = any(sqlc.arg(mother_ids)::uuid[]) and withdrawn_at is null group by mother_id;

-- name: StemCuts :many
-- Every cut of these mothers' stems.
select cut.id, cut.stem_id, s.mother_id, cut.map_version, cut.cut_on, cut.parent_id, coalesce(p.code, '')::text as parent_code
from cut join stem s on s.id = cut.stem_id left join cutting p on p.id = cut.parent_id
where s.mother_id = any(sqlc.arg(mother_ids)::uuid[]) and cut.withdrawn_at is null
order by cut.cut_on, cut.id;

-- name: MothersFrom :many
-- Mothers that grew from cuttings of these mothers.
select m.id, m.code, m.name, m.from_cutting, s.mother_id as parent_id
from mother m
join cutting c on c.id = m.from_cutting
join stem s on s.id = c.stem_id
where s.mother_id = any(sqlc.arg(mother_ids)::uuid[]) and m.withdrawn_at is null
order by m.code;

-- name: StemMapAt :one
select * from stem_map where stem_id = $1 and version = $2;

-- name: RaisedFromCodes :many
-- The code of the cutting each of these mothers was raised from; of one that is not here, as it came with her.
select m.id, coalesce(c.code, m.raised_from)::text as code from mother m left join cutting c on c.id = m.from_cutting
where m.id = any(sqlc.arg(mother_ids)::uuid[]) and (m.from_cutting is not null or m.raised_from <> '');

-- name: CuttingByCode :one
select id from cutting where code = $1 and withdrawn_at is null;

-- name: SetRaisedFrom :exec
update mother set raised_from = $2 where id = $1;

-- name: LettersOfMother :many
select letter from stem where mother_id = $1;

-- name: AddMotherPot :execrows
insert into mother_pot (id, mother_id, potted_on, pot, roots_off, note, made_at) values ($1, $2, $3, $4, $5, $6, $7);

-- name: MotherPotByID :one
select * from mother_pot where id = $1;

-- name: WithdrawMotherPot :execrows
update mother_pot set withdrawn_at = now() where id = $1 and withdrawn_at is null;

-- name: MotherPots :many
-- The pots of a mother, oldest first.
select * from mother_pot where mother_id = $1 and withdrawn_at is null order by potted_on, made_at, id;
