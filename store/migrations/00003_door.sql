-- +goose Up
-- One door for facts: every fact has a row here beside its kind's own table, in one transaction. The
-- same id with the same content is the same fact; with other content it is a conflict.
create table fact (
    id          uuid primary key,
    kind        text not null constraint fact_kind_length check (length(kind) between 1 and 40),
    about       uuid,
    made_at     timestamptz not null,
    recorded_at timestamptz not null default now(),
    digest      bytea not null,
    content     jsonb not null
);
create index fact_about on fact (about, made_at);

-- A fact that was corrected: what it said before, and what it says now.
create table correction (
    id          uuid primary key,
    kind        text not null,
    about       uuid not null,
    was         jsonb not null,
    becomes     jsonb not null,
    recorded_at timestamptz not null default now()
);
create index correction_about on correction (about, recorded_at);

-- A fact that was taken back stays, and counts no longer.
alter table mother add column withdrawn_at timestamptz;
alter table vessel add column withdrawn_at timestamptz;
alter table cut add column withdrawn_at timestamptz;
alter table cutting add column withdrawn_at timestamptz;
alter table setting add column withdrawn_at timestamptz;
alter table look add column withdrawn_at timestamptz;
alter table potting add column withdrawn_at timestamptz;
alter table outcome add column withdrawn_at timestamptz;
alter table handover add column withdrawn_at timestamptz;
alter table watering add column withdrawn_at timestamptz;
alter table stem add column withdrawn_at timestamptz;
alter table cut_plan add column withdrawn_at timestamptz;

alter table potting drop constraint potting_once;
create unique index potting_once on potting (cutting_id) where withdrawn_at is null;
alter table outcome drop constraint outcome_once;
create unique index outcome_once on outcome (cutting_id) where withdrawn_at is null;
alter table handover drop constraint handover_once;
create unique index handover_once on handover (cutting_id) where withdrawn_at is null;
alter table cutting drop constraint cutting_code_unique;
create unique index cutting_code_unique on cutting (code) where withdrawn_at is null;
alter table mother drop constraint mother_code_unique;
create unique index mother_code_unique on mother (code) where withdrawn_at is null;
drop index look_replaces;
create unique index look_replaces on look (replaces) where replaces is not null and withdrawn_at is null;
drop index mother_from_cutting;
create unique index mother_from_cutting on mother (from_cutting) where from_cutting is not null and withdrawn_at is null;

alter table mother drop constraint mother_code_form;
alter table mother add constraint mother_code_form check (code ~ '^[A-Z]{3}[0-9]{0,4}$');
-- The mother of a piece that was bought, traded or found: a name, and nothing else yet.
alter table mother add column known boolean not null default true;
-- The code of a cutting elsewhere that she was raised from, as a file told it.
alter table mother add column raised_from text not null default '' constraint mother_raised_from_length check (length(raised_from) <= 40);
-- How exactly the day of a cut is known.
alter table cut add column known_to text not null default 'day' constraint cut_known_to_known check (known_to in ('day', 'week', 'month'));
alter table outcome add column why text not null default '' constraint outcome_why_known check (why in ('', 'rotted', 'dried', 'never_woke', 'broken', 'other'));

-- Cutting back to sound tissue is an act: what came off, and which nodes and roots went with it.
create table cut_back (
    id          uuid primary key,
    cutting_id  uuid not null references cutting,
    cut_on      timestamptz not null,
    removed_mm  double precision not null constraint cut_back_removed_range check (removed_mm >= 0 and removed_mm <= 2000),
    gone_nodes  integer not null constraint cut_back_gone_range check (gone_nodes between 0 and 60),
    bare_nodes  integer[] not null default '{}',
    note        text not null default '' constraint cut_back_note_length check (length(note) <= 500),
    recorded_at timestamptz not null default now(),
    withdrawn_at timestamptz
);
create index cut_back_cutting on cut_back (cutting_id, cut_on);
create index cut_on_stem on cut (stem_id);

-- When a stem was mapped; by default when that was recorded.
alter table stem_map add column mapped_on timestamptz;
update stem_map set mapped_on = recorded_at;
alter table stem_map alter column mapped_on set default now(), alter column mapped_on set not null;

-- When a plan was kept here, by this clock; made_at is by the grower's.
alter table cut_plan add column recorded_at timestamptz;
update cut_plan set recorded_at = made_at;
alter table cut_plan alter column recorded_at set default now(), alter column recorded_at set not null;

-- +goose Down
drop table cut_back, correction, fact;
