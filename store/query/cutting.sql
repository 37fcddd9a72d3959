-- name: AddCut :execrows
insert into cut (id, stem_id, map_version, cut_on, plan_id, known_to) values ($1, $2, $3, $4, $5, $6);

-- name: AddCutting :exec
insert into cutting (id, cut_id, stem_id, code, tag, first_node, last_node, piece)
values ($1, $2, $3, $4, $5, $6, $7, $8);

-- name: TakeNode :exec
insert into cutting_node (stem_id, node, cutting_id) values ($1, $2, $3);

-- name: TagTaken :one
select (exists (select 1 from cutting c where c.tag = sqlc.arg(tag)::text) or exists (select 1 from vessel v where v.tag = sqlc.arg(tag)::text))::boolean as taken;

-- name: LockCutting :one
select id from cutting where id = $1 for update;

-- name: TouchCuttings :exec
update cutting c set facts = c.facts + 1,
    gone = exists (select 1 from outcome o where o.cutting_id = c.id and o.withdrawn_at is null) or exists (select 1 from handover h where h.cutting_id = c.id and h.withdrawn_at is null)
where c.id = any(sqlc.arg(ids)::uuid[]);

-- name: CuttingsOfMother :many
select c.id from cutting c join stem s on s.id = c.stem_id where s.mother_id = $1 and c.withdrawn_at is null;

-- name: Cuttings :many
-- Every cutting with its mother and stem, its school, and where it is now.
select c.id, c.cut_id, c.code, c.tag, c.stem_id, c.first_node, c.last_node, c.piece, c.facts, cut.cut_on, cut.map_version, cut.known_to,
       m.id as mother_id, m.code as mother_code, m.name as mother_name, m.group_key, m.pattern, m.known as mother_known,
       coalesce(sc.school, '')::text as school, n.potted_on, coalesce(n.pot, '{}'::jsonb)::jsonb as pot, n.potted_place_id,
       n.outcome_kind, n.outcome_why, n.ended_on, n.given_on
from cutting_now n
join cutting c on c.id = n.cutting_id
join cut on cut.id = c.cut_id
join stem st on st.id = c.stem_id
join mother m on m.id = st.mother_id
left join lateral (select school_choice.school from school_choice
    where school_choice.cutting_id = c.id order by school_choice.made_at desc, school_choice.id desc limit 1) sc on true
where c.id = any(sqlc.arg(ids)::uuid[])
order by cut.cut_on, c.code;

-- name: StemMapsCut :many
-- The maps that the cuttings of these stems were cut on, each once.
select sm.stem_id, sm.version, sm.map from stem_map sm
where sm.stem_id = any(sqlc.arg(stem_ids)::uuid[])
  and exists (select 1 from cut where cut.stem_id = sm.stem_id and cut.map_version = sm.version);

-- name: AddSchoolChoice :execrows
insert into school_choice (id, cutting_id, school, made_at) values ($1, $2, $3, $4);

-- name: AddOutcome :execrows
insert into outcome (id, cutting_id, kind, ended_on, note, why) values ($1, $2, $3, $4, $5, $6);

-- name: AddPotting :execrows
insert into potting (id, cutting_id, place_id, potted_on, pot, mix_ml, note) values ($1, $2, $3, $4, $5, $6, $7);

-- name: PottingOf :one
select * from potting where cutting_id = $1 and withdrawn_at is null;

-- name: OutcomeOf :one
select * from outcome where cutting_id = $1 and withdrawn_at is null;

-- name: PiecesOfStem :many
-- What was taken from a stem, with when that was recorded.
select c.piece, cut.recorded_at from cutting c join cut on cut.id = c.cut_id where c.stem_id = $1 and c.withdrawn_at is null;

-- name: AddHandover :execrows
insert into handover (id, cutting_id, given_on, note) values ($1, $2, $3, $4);

-- name: CutsOfPlan :many
select id, stem_id, cut_on from cut where plan_id = sqlc.arg(plan_id)::uuid and withdrawn_at is null;

-- name: HandoverOf :one
select * from handover where cutting_id = $1 and withdrawn_at is null;

-- name: AddCutBack :execrows
insert into cut_back (id, cutting_id, cut_on, removed_mm, gone_nodes, bare_nodes, note) values ($1, $2, $3, $4, $5, $6, $7);

-- name: CutBacksOfCuttings :many
select * from cut_back where cutting_id = any(sqlc.arg(cutting_ids)::uuid[]) and withdrawn_at is null order by cutting_id, cut_on, id;

-- name: CuttingsOfCuts :many
select * from cutting where cut_id = any(sqlc.arg(cut_ids)::uuid[]) and withdrawn_at is null order by first_node;

-- name: FindCuttings :many
-- Cuttings by the words of what was asked: code, tag or name; those that still stand first.
select c.id, c.code, c.tag, m.name as mother_name, n.stands, n.outcome_kind, n.given_on, n.potted_on
from cutting_now n
join cutting c on c.id = n.cutting_id
join stem st on st.id = c.stem_id
join mother m on m.id = st.mother_id
where (select bool_and(strpos(lower(c.code || ' ' || c.tag || ' ' || m.name), w) > 0) from unnest(sqlc.arg(words)::text[]) w)
order by n.stands desc, c.code
limit sqlc.arg(most)::integer;
