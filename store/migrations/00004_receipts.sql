-- +goose Up
-- What a fact touched, for its receipt: the same fact again names the same things.
alter table fact add column touched jsonb not null default '{}';
-- When the grower decided, never later than when it was heard: a device's clock may run ahead.
update fact set made_at = recorded_at where made_at > recorded_at;

-- What happened last is what was decided last, whenever it arrived: a queue that comes late overrides nothing newer.
alter table setting add column made_at timestamptz;
update setting t set made_at = coalesce((select f.made_at from fact f where f.id = t.id), t.recorded_at);
alter table setting alter column made_at set not null;
alter table look add column made_at timestamptz;
update look t set made_at = coalesce((select f.made_at from fact f where f.id = t.id), t.recorded_at);
alter table look alter column made_at set not null;
alter table school_choice rename column chosen_at to made_at;
alter table school_choice alter column made_at drop default;
update school_choice t set made_at = coalesce((select f.made_at from fact f where f.id = t.id), t.made_at);
alter table planner_number rename column chosen_at to made_at;
alter table planner_number alter column made_at drop default;
update planner_number t set made_at = coalesce((select f.made_at from fact f where f.id = t.id), t.made_at);
alter table bench_tick add column made_at timestamptz;
update bench_tick t set made_at = coalesce((select f.made_at from fact f where f.id = t.id), t.ticked_at);
alter table bench_tick alter column made_at set not null;

-- How many facts touched it: what was concluded from fewer no longer holds.
alter table cutting add column facts integer not null default 0;

-- The same photo twice is one: a second id it was sent under names the first.
create table photo_name (
    id       uuid primary key,
    photo_id uuid not null references photo
);
create index photo_name_photo on photo_name (photo_id);

-- +goose Down
drop table photo_name;
alter table cutting drop column facts;
alter table bench_tick drop column made_at;
alter table planner_number rename column made_at to chosen_at;
alter table planner_number alter column chosen_at set default now();
alter table school_choice rename column made_at to chosen_at;
alter table school_choice alter column chosen_at set default now();
alter table look drop column made_at;
alter table setting drop column made_at;
alter table fact drop column touched;
