-- name: Conclusions :many
-- Every cutting asked for, with what was concluded of it and whether that still holds.
select c.id, c.cut_id, st.mother_id, n.stands::boolean as stands, cut.cut_on, c.code,
       coalesce(x.facts = c.facts and x.rules = sqlc.arg(rules)::text and (x.day = sqlc.arg(day)::date or not n.stands), false)::boolean as holds,
       coalesce(x.shelf, '')::text as shelf, coalesce(x.verdicts->>x.school, '')::text as verdict,
       coalesce(x.urgency, 0)::integer as urgency, coalesce(x.day_loss, 0)::real as day_loss, case when x.rules = sqlc.arg(rules)::text then x.school else '' end::text as ruled_school,
       x.vessel_id, x.place_id, coalesce(x.tend::text, '{}')::text as tend
from cutting_now n
join cutting c on c.id = n.cutting_id
join cut on cut.id = c.cut_id
join stem st on st.id = c.stem_id
left join conclusion x on x.cutting_id = c.id
where (cardinality(sqlc.arg(ids)::uuid[]) = 0 or c.id = any(sqlc.arg(ids)::uuid[]))
  and (cardinality(sqlc.arg(mother_ids)::uuid[]) = 0 or st.mother_id = any(sqlc.arg(mother_ids)::uuid[]))
order by cut.cut_on, c.code;

-- name: StandingConclusions :many
-- The same of everything that stands, without walking through what does not.
select c.id, c.cut_id, st.mother_id, (not c.gone)::boolean as stands, cut.cut_on, c.code,
       coalesce(x.facts = c.facts and x.rules = sqlc.arg(rules)::text and x.day = sqlc.arg(day)::date, false)::boolean as holds,
       coalesce(x.shelf, '')::text as shelf, coalesce(x.verdicts->>x.school, '')::text as verdict,
       coalesce(x.urgency, 0)::integer as urgency, coalesce(x.day_loss, 0)::real as day_loss, case when x.rules = sqlc.arg(rules)::text then x.school else '' end::text as ruled_school,
       x.vessel_id, x.place_id, coalesce(x.tend::text, '{}')::text as tend
from cutting c
join cut on cut.id = c.cut_id
join stem st on st.id = c.stem_id
left join conclusion x on x.cutting_id = c.id
where not c.gone and c.withdrawn_at is null
order by cut.cut_on, c.code;

-- name: Expected :many
-- When what stands is expected to be ready, as far as that was concluded of all its facts.
select c.id, x.expected::text as expected
from conclusion x
join cutting c on c.id = x.cutting_id and not c.gone and c.withdrawn_at is null and c.facts = x.facts
where x.rules = sqlc.arg(rules)::text and x.expected is not null
order by c.id;

-- name: DecidedUnconcluded :many
-- Cuttings that no longer stand and of which nothing that holds was concluded.
select c.id from cutting_now n
join cutting c on c.id = n.cutting_id
left join conclusion x on x.cutting_id = c.id and x.facts = c.facts and x.rules = sqlc.arg(rules)::text
where not n.stands and x.cutting_id is null
order by c.id limit 500;

-- name: CountUnconcluded :one
-- How many those are.
select count(*) from cutting_now n
join cutting c on c.id = n.cutting_id
left join conclusion x on x.cutting_id = c.id and x.facts = c.facts and x.rules = sqlc.arg(rules)::text
where not n.stands and x.cutting_id is null;

-- name: Records :many
-- What the cuttings whose fate is known say of each group and medium.
select x.group_key, x.medium, sum(x.won)::integer as won, sum(x.tried)::integer as tried
from conclusion x
join cutting c on c.id = x.cutting_id and c.withdrawn_at is null and c.facts = x.facts
where x.tried is not null and x.rules = sqlc.arg(rules)::text
group by x.group_key, x.medium;

-- name: KeepConclusions :exec
insert into conclusion (cutting_id, facts, rules, day, school, verdicts, shelf, tend, urgency, day_loss, expected, vessel_id, place_id, group_key, medium, won, tried)
select r.cutting_id, r.facts, sqlc.arg(rules)::text, sqlc.arg(day)::date, r.school, r.verdicts, r.shelf, r.tend, r.urgency, r.day_loss, r.expected, r.vessel_id, r.place_id, r.group_key, r.medium, r.won, r.tried
from jsonb_to_recordset(sqlc.arg(kept)::jsonb) as r(cutting_id uuid, facts integer, school text, verdicts jsonb, shelf text, tend jsonb, urgency integer, day_loss real, expected jsonb, vessel_id uuid, place_id uuid, group_key text, medium text, won integer, tried integer)
order by r.cutting_id
on conflict on constraint conclusion_pkey do update set facts = excluded.facts, rules = excluded.rules, day = excluded.day, school = excluded.school, verdicts = excluded.verdicts,
    shelf = excluded.shelf, tend = excluded.tend, urgency = excluded.urgency, day_loss = excluded.day_loss, expected = excluded.expected, vessel_id = excluded.vessel_id, place_id = excluded.place_id,
    group_key = excluded.group_key, medium = excluded.medium, won = excluded.won, tried = excluded.tried
where excluded.facts >= conclusion.facts;

-- name: IssueForecasts :exec
insert into forecast (cutting_id, issued_on, school, facts, rules, ready_on, ready_first, ready_last, forecast)
select r.cutting_id, sqlc.arg(issued_on)::date, r.school, r.facts, sqlc.arg(rules)::text, r.ready_on, r.ready_first, r.ready_last, r.forecast
from jsonb_to_recordset(sqlc.arg(issued)::jsonb) as r(cutting_id uuid, school text, facts integer, ready_on date, ready_first date, ready_last date, forecast jsonb)
-- Without a new fact a forecast says nothing new.
where not exists (select 1 from forecast f where f.cutting_id = r.cutting_id and f.school = r.school and f.facts = r.facts)
order by r.cutting_id
on conflict do nothing;

-- name: ForecastsOf :many
select * from forecast where cutting_id = $1 order by issued_on, school, facts;

-- name: LearnedOn :one
-- What the records came to on a day.
select made from learned where day = $1;

-- name: KeepLearned :exec
-- What they came to, kept the first time it is made; older days are of no more use.
with old as (delete from learned where day < sqlc.arg(day)::date)
insert into learned (day, made) values (sqlc.arg(day)::date, sqlc.arg(made)::jsonb) on conflict do nothing;

-- name: SetCuttings :many
-- Every cutting that was ever set.
select c.id from cutting c where c.withdrawn_at is null and exists (select 1 from setting s where s.cutting_id = c.id and s.withdrawn_at is null) order by c.id;

-- name: ForecastsOfGroup :many
-- The first forecast of each cutting of a group under each school that was issued on a look, newest cuttings first.
select distinct on (f.cutting_id, f.school) f.cutting_id, c.code, f.school, f.issued_on, f.ready_on, f.ready_first, f.ready_last
from forecast f
join cutting c on c.id = f.cutting_id and c.withdrawn_at is null
join stem st on st.id = c.stem_id
join mother m on m.id = st.mother_id
where m.group_key = $1
order by f.cutting_id, f.school, f.issued_on, f.facts;
