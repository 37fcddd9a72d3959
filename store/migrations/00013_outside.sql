-- +goose Up
-- A key for something outside: a sensor that posts readings, a calendar that reads what is due. Only its digest is kept.
create table outside_key (
    id         uuid not null,
    what       text not null constraint outside_key_what_known check (what in ('sensor', 'calendar')),
    name       text not null constraint outside_key_name_length check (length(name) between 1 and 100),
    place_id   uuid,
    digest     bytea not null,
    made_at    timestamptz not null,
    ended_at   timestamptz,
    constraint outside_key_place check ((what = 'sensor') = (place_id is not null))
);

-- What a sensor said: at most once a minute.
create table reading (
    sensor_id    uuid not null,
    at           timestamptz not null,
    temp_c       real not null,
    humidity_pct real not null
);
-- What older readings come to, by the hour; minutes are those counted in it, bit by bit.
create table reading_hour (
    sensor_id     uuid not null,
    hour          timestamptz not null,
    minutes       bigint not null,
    temp_min      real not null,
    temp_mean     real not null,
    temp_max      real not null,
    humidity_min  real not null,
    humidity_mean real not null,
    humidity_max  real not null,
    deficit_min   real not null,
    deficit_mean  real not null,
    deficit_max   real not null
);

-- +goose StatementBegin
do $$
declare t text;
begin
    perform belongs('outside_key');
    create unique index outside_key_digest on outside_key (digest, household_id);
    alter table outside_key add foreign key (place_id, household_id) references place (id, household_id);
    foreach t in array array['reading', 'reading_hour'] loop
        execute format('alter table %I add column household_id uuid not null default household_now() references household', t);
        execute format('alter table %I add foreign key (sensor_id, household_id) references outside_key (id, household_id)', t);
        execute format('alter table %I enable row level security', t);
        execute format('alter table %I force row level security', t);
        execute format('create policy household on %I using (household_id = (select household_now())) with check (household_id = (select household_now()))', t);
    end loop;
    alter table reading add primary key (sensor_id, at, household_id);
    alter table reading_hour add primary key (sensor_id, hour, household_id);
end
$$;
-- +goose StatementEnd
create index reading_old on reading (household_id, at);

-- +goose Down
drop table reading_hour, reading, outside_key;
