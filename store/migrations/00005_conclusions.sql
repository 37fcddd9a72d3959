-- +goose Up
-- Where each cutting is now, told in one place: what was taken back counts no longer.
create view cutting_now as
select c.id as cutting_id, c.stem_id, c.cut_id,
       p.potted_on, p.pot, p.place_id as potted_place_id, o.kind as outcome_kind, o.why as outcome_why, o.ended_on, h.given_on,
       (o.id is null and h.id is null)::boolean as stands,
       (o.id is null and h.id is null and p.id is null)::boolean as before_pot
from cutting c
left join potting p on p.cutting_id = c.id and p.withdrawn_at is null
left join outcome o on o.cutting_id = c.id and o.withdrawn_at is null
left join handover h on h.cutting_id = c.id and h.withdrawn_at is null
where c.withdrawn_at is null;

-- What the core concluded of a cutting, beside its facts: it holds for that many facts, under those rules,
-- on that day (of one that no longer stands: on any day), and can be thrown away without harm.
create table conclusion (
    cutting_id  uuid primary key references cutting on delete cascade,
    facts       integer not null,
    rules       text not null,
    day         date not null,
    -- The school it is judged under; verdicts by school; what the shelf draws.
    school      text not null,
    verdicts    jsonb not null,
    shelf       jsonb not null,
    urgency     integer not null,
    vessel_id   uuid,
    place_id    uuid,
    -- What it adds to the records; null while its fate is open or can never be known.
    group_key   text not null,
    medium      text not null,
    won         integer,
    tried       integer
);
create index conclusion_records on conclusion (group_key, medium) where tried is not null;

-- Forecasts as they were issued, to see later whether they held.
create table forecast (
    cutting_id   uuid not null references cutting on delete cascade,
    issued_on    date not null,
    school       text not null,
    facts        integer not null,
    rules        text not null,
    ready_on     date not null,
    ready_first  date,
    ready_last   date,
    forecast     jsonb not null,
    primary key (cutting_id, issued_on, school, facts)
);

-- +goose Down
drop table forecast, conclusion;
drop view cutting_now;
