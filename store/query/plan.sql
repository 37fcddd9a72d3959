-- name: AddPlannerNumber :execrows
insert into planner_number (id, key, kind, value, won, tried, made_at) values ($1, $2, $3, $4, $5, $6, $7);

-- name: PlannerNumbers :many
-- The newest decision for each key.
select distinct on (key) * from planner_number order by key, made_at desc, id desc;

-- name: AddCutPlan :execrows
insert into cut_plan (id, mother_id, wish, made_at) values ($1, $2, $3, $4);

-- name: AddCutPlanStem :exec
insert into cut_plan_stem (plan_id, stem_id, map_version, position, knives_mm, skip) values ($1, $2, $3, $4, $5, $6);

-- name: CutPlanByID :one
select * from cut_plan where id = $1;

-- name: CutPlans :many
-- Plans from the newest back, with whether they were carried out.
select p.id, p.mother_id, p.wish, p.made_at, exists (select 1 from cut where cut.plan_id = p.id and cut.withdrawn_at is null)::boolean as done
from cut_plan p where p.withdrawn_at is null order by p.made_at desc, p.id desc;

-- name: CutPlanPage :many
-- The same, some at a time: of one mother, those not carried out, those before a plan.
select p.id, p.mother_id, p.made_at, exists (select 1 from cut where cut.plan_id = p.id and cut.withdrawn_at is null)::boolean as done
from cut_plan p
where p.withdrawn_at is null
  and (sqlc.narg(mother)::uuid is null or p.mother_id = sqlc.narg(mother)::uuid)
  and (not sqlc.arg(only_open)::boolean or not exists (select 1 from cut where cut.plan_id = p.id and cut.withdrawn_at is null))
  and (sqlc.narg(before)::uuid is null or (p.made_at, p.id) < (select b.made_at, b.id from cut_plan b where b.id = sqlc.narg(before)::uuid))
order by p.made_at desc, p.id desc limit sqlc.arg(most)::integer;

-- name: CountCutPlans :one
select count(*) from cut_plan;

-- name: CutPlanStems :many
select * from cut_plan_stem where plan_id = any(sqlc.arg(plan_ids)::uuid[]) order by plan_id, position;

-- name: AddBenchTick :execrows
insert into bench_tick (id, plan_id, step, done, ticked_at, made_at) values ($1, $2, $3, $4, $5, $6);

-- name: BenchTicks :many
-- The newest tick of each step.
select distinct on (step) * from bench_tick where plan_id = $1 order by step, ticked_at desc, made_at desc, id desc;
