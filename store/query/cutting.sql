-- name: AddCut :execrows
insert into cut (id, stem_id, map_version, cut_on, plan_id, known_to) values ($1, $2, $3, $4, $5, $6) on conflict (id) do nothing;

-- name: AddCutting :exec
insert into cutting (id, cut_id, stem_id, code, tag, first_node, last_node, piece)
values ($1, $2, $3, $4, $5, $6, $7, $8);

-- name: TakeNode :exec
insert into cutting_node (stem_id, node, cutting_id) values ($1, $2, $3);

-- name: TagTaken :one
select (exists (select 1 from cutting c where c.tag = sqlc.arg(tag)::text) or exists (select 1 from vessel v where v.tag = sqlc.arg(tag)::text))::boolean as taken;

-- name: CuttingByID :one
select * from cutting where id = $1;

-- name: LockCutting :one
select id from cutting where id = $1 for update;

-- name: TouchCuttings :exec
update cutting set facts = facts + 1 where id = any(sqlc.arg(ids)::uuid[]);

-- name: CuttingsOfMother :many
select c.id from cutting c join stem s on s.id = c.stem_id where s.mother_id = $1 and c.withdrawn_at is null;

-- name: Cuttings :many
-- Every cutting with its mother and stem, its newest setting and school, its potting and outcome.
select c.id, c.cut_id, c.code, c.tag, c.stem_id, c.first_node, c.last_node, c.piece, cut.cut_on,
       st.letter, m.id as mother_id, m.code as mother_code, m.name as mother_name, m.group_key, m.pattern, m.known as mother_known, cut.map_version, cut.known_to,
       -- Not set yet: a nil vessel and the zero time.
       coalesce(se.vessel_id, '00000000-0000-0000-0000-000000000000')::uuid as vessel_id,
       coalesce(se.set_on, '0001-01-01 00:00:00+00')::timestamptz as set_on,
       coalesce(se.first_set_on, '0001-01-01 00:00:00+00')::timestamptz as first_set_on,
       -- Since when it stands in this medium: the first setting after the last one into another kind of vessel.
       coalesce((select min(a.set_on) from setting a join vessel av on av.id = a.vessel_id
           where a.cutting_id = c.id and a.withdrawn_at is null and av.kind = se.kind
             and not exists (select 1 from setting b join vessel bv on bv.id = b.vessel_id
                 where b.cutting_id = c.id and b.withdrawn_at is null and bv.kind <> se.kind and (b.set_on, b.made_at, b.id) > (a.set_on, a.made_at, a.id))),
           '0001-01-01 00:00:00+00')::timestamptz as medium_on,
       coalesce(se.set_nodes, 0)::integer as set_nodes,
       coalesce(sc.school, '')::text as school, p.potted_on, coalesce(p.pot, '{}'::jsonb)::jsonb as pot, p.place_id as potted_place_id, p.mix_ml, o.kind as outcome_kind, o.why as outcome_why, o.ended_on, h.given_on
from cutting c
join cut on cut.id = c.cut_id
join stem st on st.id = c.stem_id
join mother m on m.id = st.mother_id
left join lateral (select s.vessel_id, s.set_on, s.set_nodes, v.kind, min(s.set_on) over ()::timestamptz as first_set_on from setting s
    join vessel v on v.id = s.vessel_id
    where s.cutting_id = c.id and s.withdrawn_at is null order by s.set_on desc, s.made_at desc, s.id desc limit 1) se on true
left join lateral (select school_choice.school from school_choice
    where school_choice.cutting_id = c.id order by school_choice.made_at desc, school_choice.id desc limit 1) sc on true
left join potting p on p.cutting_id = c.id and p.withdrawn_at is null
left join outcome o on o.cutting_id = c.id and o.withdrawn_at is null
left join handover h on h.cutting_id = c.id and h.withdrawn_at is null
where c.withdrawn_at is null
  and (not sqlc.arg(standing)::boolean or (o.id is null and h.id is null))
  and (cardinality(sqlc.arg(ids)::uuid[]) = 0 or c.id = any(sqlc.arg(ids)::uuid[]))
  and (cardinality(sqlc.arg(mother_ids)::uuid[]) = 0 or m.id = any(sqlc.arg(mother_ids)::uuid[]))
order by cut.cut_on, c.code;

-- name: StemMapsCut :many
-- The maps that the cuttings of these stems were cut on, each once.
select sm.stem_id, sm.version, sm.map from stem_map sm
where sm.stem_id = any(sqlc.arg(stem_ids)::uuid[])
  and exists (select 1 from cut where cut.stem_id = sm.stem_id and cut.map_version = sm.version);

-- name: AddSchoolChoice :execrows
insert into school_choice (id, cutting_id, school, made_at) values ($1, $2, $3, $4) on conflict (id) do nothing;

-- name: AddOutcome :execrows
insert into outcome (id, cutting_id, kind, ended_on, note, why) values ($1, $2, $3, $4, $5, $6) on conflict (id) do nothing;

-- name: AddPotting :execrows
insert into potting (id, cutting_id, place_id, potted_on, pot, mix_ml, note) values ($1, $2, $3, $4, $5, $6, $7)
on conflict (id) do nothing;

-- name: PottingOf :one
select * from potting where cutting_id = $1 and withdrawn_at is null;

-- name: OutcomeOf :one
select * from outcome where cutting_id = $1 and withdrawn_at is null;

-- name: PiecesOfStem :many
-- What was taken from a stem, with when that was recorded.
select c.piece, cut.recorded_at from cutting c join cut on cut.id = c.cut_id where c.stem_id = $1 and c.withdrawn_at is null;

-- name: AddHandover :execrows
insert into handover (id, cutting_id, given_on, note) values ($1, $2, $3, $4) on conflict (id) do nothing;

-- name: CutsOfPlan :many
select id, stem_id, cut_on from cut where plan_id = sqlc.arg(plan_id)::uuid and withdrawn_at is null;

-- name: HandoverOf :one
select * from handover where cutting_id = $1 and withdrawn_at is null;

-- name: AddCutBack :execrows
insert into cut_back (id, cutting_id, cut_on, removed_mm, gone_nodes, bare_nodes, note) values ($1, $2, $3, $4, $5, $6, $7)
on conflict (id) do nothing;

-- name: CutBacksOfCuttings :many
select * from cut_back where cutting_id = any(sqlc.arg(cutting_ids)::uuid[]) and withdrawn_at is null order by cutting_id, cut_on, id;

-- name: CuttingsOfCuts :many
select * from cutting where cut_id = any(sqlc.arg(cut_ids)::uuid[]) and withdrawn_at is null order by first_node;

-- name: FindCuttings :many
-- Cuttings by the words of what was asked: code, tag or name; those that still stand first.
select c.id, c.code, c.tag, m.name as mother_name, cut.cut_on, o.kind as outcome_kind, h.given_on, p.potted_on
from cutting c
join cut on cut.id = c.cut_id
join stem st on st.id = c.stem_id
join mother m on m.id = st.mother_id
left join potting p on p.cutting_id = c.id and p.withdrawn_at is null
left join outcome o on o.cutting_id = c.id and o.withdrawn_at is null
left join handover h on h.cutting_id = c.id and h.withdrawn_at is null
where c.withdrawn_at is null
  and (select bool_and(strpos(lower(c.code || ' ' || c.tag || ' ' || m.name), w) > 0) from unnest(sqlc.arg(words)::text[]) w)
order by (o.id is null and h.id is null) desc, c.code
limit sqlc.arg(most)::integer;
