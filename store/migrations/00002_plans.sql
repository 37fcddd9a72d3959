-- +goose Up
-- What the grower decided about a number of the planner: a value of their own, their
-- records, or back to the starting value. The newest decision for a key holds.
create table planner_number (
    id         uuid primary key,
    key        text not null constraint planner_number_key_length check (length(key) between 1 and 80),
    kind       text not null constraint planner_number_kind_known check (kind in ('value', 'records', 'start')),
    value      double precision not null default 0,
    won        integer not null default 0,
    tried      integer not null default 0,
    chosen_at  timestamptz not null default now()
);
create index planner_number_key on planner_number (key, chosen_at);

create table watering (
    id          uuid primary key,
    mother_id   uuid not null references mother,
    watered_on  timestamptz not null,
    recorded_at timestamptz not null default now()
);
create index watering_mother on watering (mother_id, watered_on);

-- A plan that is being prepared: which stems of one mother, on which maps, with which knives.
create table cut_plan (
    id         uuid primary key,
    mother_id  uuid not null references mother,
    wish       jsonb not null,
    made_at    timestamptz not null default now()
);
create index cut_plan_mother on cut_plan (mother_id, made_at);

create table cut_plan_stem (
    plan_id     uuid not null references cut_plan,
    stem_id     uuid not null references stem,
    map_version integer not null,
    position    integer not null,
    knives_mm   double precision[] not null,
    skip        integer[] not null,
    primary key (plan_id, stem_id),
    foreign key (stem_id, map_version) references stem_map (stem_id, version)
);

-- A line of the bench checklist ticked, or unticked; the newest holds. Timers count from it.
create table bench_tick (
    id        uuid primary key,
    plan_id   uuid not null references cut_plan,
    step      text not null constraint bench_tick_step_length check (length(step) between 1 and 60),
    done      boolean not null,
    ticked_at timestamptz not null
);
create index bench_tick_plan on bench_tick (plan_id, step, ticked_at);

alter table cut add column plan_id uuid references cut_plan;
create index cut_plan_id on cut (plan_id) where plan_id is not null;

create table handover (
    id          uuid primary key,
    cutting_id  uuid not null constraint handover_once unique references cutting,
    given_on    timestamptz not null,
    note        text not null default '' constraint handover_note_length check (length(note) <= 500),
    recorded_at timestamptz not null default now()
);

-- A mother that grew from a cutting of another.
alter table mother add column from_cutting uuid references cutting;
create index mother_from_cutting on mother (from_cutting) where from_cutting is not null;

-- +goose Down
alter table mother drop column from_cutting;
drop table handover;
alter table cut drop column plan_id;
drop table bench_tick, cut_plan_stem, cut_plan, watering, planner_number;
