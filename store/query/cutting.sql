-- name: AddCut :execrows
insert into cut (id, stem_id, map_version, cut_on, plan_id, known_to, parent_id, taken, note) values ($1, $2, $3, $4, $5, $6, $7, $8, $9);

-- name: AddCutting :exec
insert into cutting (id, cut_id, stem_id, code, tag, first_node, last_node, piece, part, nodes, pattern)
values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11);

-- name: TakeNode :exec
insert into cutting_node (stem_id, node, cutting_id) values ($1, $2, $3);

-- name: TagTaken :one
select (exists (select 1 from cutting c where c.tag = sqlc.arg(tag)::text) or exists (select 1 from vessel v where v.tag = sqlc.arg(tag)::text))::boolean as taken;

-- name: LockCutting :one
select id from cutting where id = $1 for update;

-- name: TouchCuttings :exec
update cutting c set facts = c.facts + 1,
    gone = exists (select 1 from outcome o where o.cutting_id = c.id and o.withdrawn_at is null) or exists (select 1 from handover h where h.cutting_id = c.id and h.withdrawn_at is null),
    potting_id = (select p.id from potting p where p.cutting_id = c.id and p.withdrawn_at is null
        and not exists (select 1 from potting l where l.follows = p.id and l.withdrawn_at is null))
where c.id = any(sqlc.arg(ids)::uuid[]);

-- name: CuttingsOfMother :many
select c.id from cutting c join stem s on s.id = c.stem_id where s.mother_id = $1 and c.withdrawn_at is null;

-- name: Cuttings :many
-- Every cutting with its mother and stem, its school, and where it is now, as cutting_now tells it: joined from the cutting itself, so that
-- one is looked up by its id whatever is known of how many there are.
select c.id, c.cut_id, c.code, c.tag, c.stem_id, c.first_node, c.last_node, c.piece, c.part, c.nodes, c.pattern as pattern_came, c.facts, cut.parent_id, cut.cut_on, cut.map_version, cut.known_to,
       m.id as mother_id, m.code as mother_code, m.name as mother_name, m.group_key, m.pattern, m.known as mother_known,
       coalesce(sc.school, '')::text as school, q.potted_on, p.follows, p.id as potting_id, coalesce(q.pot, '{}'::jsonb)::jsonb as pot, p.pot_id, coalesce(p.at, '{}'::jsonb)::jsonb as pot_at, q.place_id as potted_place_id,
       o.kind as outcome_kind, o.why as outcome_why, o.ended_on, h.given_on
from cutting c
join cut on cut.id = c.cut_id
join stem st on st.id = c.stem_id
join mother m on m.id = st.mother_id
left join potting p on p.id = c.potting_id
left join pot q on q.id = p.pot_id
left join outcome o on o.cutting_id = c.id and o.withdrawn_at is null
left join handover h on h.cutting_id = c.id and h.withdrawn_at is null
left join lateral (select school_choice.school from school_choice
    where school_choice.cutting_id = c.id order by school_choice.made_at desc, school_choice.id desc limit 1) sc on true
where c.id = any(sqlc.arg(ids)::uuid[]) and c.withdrawn_at is null
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

-- name: AddPot :exec
insert into pot (id, place_id, potted_on, pot, mix, parts, mix_ml, note) values ($1, $2, $3, $4, $5, $6, $7, $8);

-- name: AddPotting :execrows
insert into potting (id, cutting_id, pot_id, at, follows) values ($1, $2, $3, $4, $5);

-- name: PottingsOf :many
-- The pots a cutting came into, in their order.
select p.id, p.pot_id, (p.follows is not null)::boolean as moves_on, q.potted_on, q.pot, q.mix, q.mix_ml, q.note,
       (select count(*) from potting o where o.pot_id = p.pot_id and o.withdrawn_at is null)::integer as together
from potting p join pot q on q.id = p.pot_id
where p.cutting_id = $1 and p.withdrawn_at is null order by q.potted_on, p.recorded_at, p.id;

-- name: CuttingsOfPot :many
select cutting_id, (follows is not null)::boolean as moves_on from potting where pot_id = $1 and withdrawn_at is null order by cutting_id;

-- name: OutcomeOf :one
select * from outcome where cutting_id = $1 and withdrawn_at is null;

-- name: PiecesOfStem :many
-- What was taken from a stem, with when that was recorded.
select c.piece, cut.recorded_at from cutting c join cut on cut.id = c.cut_id where c.stem_id = $1 and c.withdrawn_at is null and cut.parent_id is null;

-- name: AddHandover :execrows
insert into handover (id, cutting_id, given_on, note) values ($1, $2, $3, $4);

-- name: CutsOfPlan :many
select id, stem_id, cut_on from cut where plan_id = sqlc.arg(plan_id)::uuid and withdrawn_at is null;

-- name: HandoverOf :one
select * from handover where cutting_id = $1 and withdrawn_at is null;

-- name: AddCutBack :execrows
insert into cut_back (id, cutting_id, cut_on, removed_mm, gone_nodes, bare_nodes, note, dried_hours) values ($1, $2, $3, $4, $5, $6, $7, $8);

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

-- name: PartingsOf :many
-- When young plants were parted from cuttings, and which of their growing points went with them.
select id, parent_id::uuid as parent_id, cut_on, taken, note from cut
where parent_id = any(sqlc.arg(parent_ids)::uuid[]) and withdrawn_at is null order by cut_on, id;

-- name: PartsOf :many
-- The plants that were parted from cuttings, and what became of them.
select c.id, c.cut_id, c.code, c.part, c.pattern, c.piece, cut.parent_id::uuid as parent_id, cut.cut_on, n.stands::boolean as stands, n.potted_on, n.outcome_kind, n.ended_on, n.given_on
from cutting_now n join cutting c on c.id = n.cutting_id join cut on cut.id = c.cut_id
where cut.parent_id = any(sqlc.arg(parent_ids)::uuid[]) order by c.part;

-- name: LastPart :one
-- The number given out last, to one that was taken back too.
select coalesce(max(c.part), 0)::integer as last from cutting c join cut on cut.id = c.cut_id where cut.parent_id = sqlc.arg(parent_id)::uuid;

-- name: CodeOf :one
select code from cutting where id = $1;

-- name: StandingInPots :many
-- What stands in pots, by the day it came into its pot.
select c.id from cutting c join potting p on p.id = c.potting_id join pot q on q.id = p.pot_id
where not c.gone and c.withdrawn_at is null
order by q.potted_on, q.id, c.code;

-- name: CuttingsOfGroup :many
select c.id from cutting c join stem s on s.id = c.stem_id join mother m on m.id = s.mother_id
where m.group_key = $1 and c.withdrawn_at is null order by c.id;

-- name: FirstPots :many
-- When cuttings that were moved on came into their first pots.
select p.cutting_id, q.potted_on from potting p join pot q on q.id = p.pot_id
where p.cutting_id = any(sqlc.arg(ids)::uuid[]) and p.withdrawn_at is null and p.follows is null;
