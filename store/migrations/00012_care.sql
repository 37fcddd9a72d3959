-- +goose Up
-- What is in a vessel is said beside what kind it is: a jar may hold moss, a box perlite.
alter table vessel add column medium text;
update vessel set medium = case kind when 'jar' then 'water' when 'moss_box' then 'moss' when 'perlite_cup' then 'perlite' else 'mix' end;
alter table vessel alter column medium set not null;
update vessel set kind = case kind when 'moss_box' then 'lidded_box' when 'perlite_cup' then 'lidded_cup' else kind end;
-- What the medium was mixed of, by parts; and how the cover stood when the vessel came, empty when nobody said.
alter table vessel add column parts jsonb not null default '[]';
alter table vessel add column cover text not null default '';
-- Since when it has been in use, which may be before it was noted.
alter table vessel add column since timestamptz;
update vessel v set since = least(v.recorded_at, coalesce((select min(s.set_on) from setting s where s.vessel_id = v.id), v.recorded_at));
alter table vessel alter column since set not null;

-- One visit to one vessel: what was done, what was seen, how the cover was left; or why it was put off.
create table care (
    id           uuid not null,
    vessel_id    uuid not null,
    done_at      timestamptz not null,
    acts         text[] not null default '{}',
    seen         text[] not null default '{}',
    cover        text not null default '',
    well         boolean not null default false,
    put_off      text not null default '' constraint care_put_off_length check (length(put_off) <= 200),
    note         text not null default '' constraint care_note_length check (length(note) <= 500),
    made_at      timestamptz not null,
    recorded_at  timestamptz not null default now(),
    withdrawn_at timestamptz
);
create index care_vessel on care (vessel_id, done_at);
create index care_done on care (done_at);
create index care_cover on care (vessel_id, done_at) where cover <> '';

-- A vessel was carried to another shelf.
create table vessel_move (
    id           uuid not null,
    vessel_id    uuid not null,
    place_id     uuid not null,
    moved_on     timestamptz not null,
    made_at      timestamptz not null,
    recorded_at  timestamptz not null default now(),
    withdrawn_at timestamptz
);
create index vessel_move_vessel on vessel_move (vessel_id, moved_on);

-- A vessel was emptied, or it broke: it stands on no shelf any more.
create table vessel_end (
    id           uuid not null,
    vessel_id    uuid not null,
    ended_on     timestamptz not null,
    how          text not null constraint vessel_end_how_known check (how in ('emptied', 'broken')),
    note         text not null default '' constraint vessel_end_note_length check (length(note) <= 500),
    made_at      timestamptz not null,
    recorded_at  timestamptz not null default now(),
    withdrawn_at timestamptz
);

-- The schools of care the grower goes by: for all vessels, or for one.
create table care_school (
    id           uuid not null,
    vessel_id    uuid,
    about        text not null,
    school       text not null,
    made_at      timestamptz not null,
    recorded_at  timestamptz not null default now()
);
create index care_school_vessel on care_school (vessel_id);

-- What the care of a cutting rests on, beside what else was concluded of it.
alter table conclusion add column tend jsonb not null default '{}';

-- A table that came after households: its rows belong to one, and the database holds it.
-- +goose StatementBegin
create function belongs(t text) returns void language plpgsql as $$
begin
    execute format('alter table %I add column household_id uuid not null default household_now() references household', t);
    execute format('alter table %I add primary key (id, household_id)', t);
    execute format('alter table %I enable row level security', t);
    execute format('alter table %I force row level security', t);
    execute format('create policy household on %I using (household_id = (select household_now())) with check (household_id = (select household_now()))', t);
end
$$;
-- +goose StatementEnd
-- +goose StatementBegin
do $$
begin
    perform belongs('care');
    perform belongs('vessel_move');
    perform belongs('vessel_end');
    perform belongs('care_school');
    create unique index vessel_end_once on vessel_end (vessel_id, household_id) where withdrawn_at is null;
    alter table care add foreign key (vessel_id, household_id) references vessel (id, household_id);
    alter table vessel_move add foreign key (vessel_id, household_id) references vessel (id, household_id);
    alter table vessel_move add foreign key (place_id, household_id) references place (id, household_id);
    alter table vessel_end add foreign key (vessel_id, household_id) references vessel (id, household_id);
    alter table care_school add foreign key (vessel_id, household_id) references vessel (id, household_id);
end
$$;
-- +goose StatementEnd

-- A vessel as it is now: where it stands, how its cover stands and since when, whether it is still in use.
create view vessel_now as
select v.id, v.name, v.tag, v.kind, v.medium, v.parts, v.width_mm, v.depth_mm, v.height_mm, v.wall_mm, v.fill_mm, v.holds, v.position, v.withdrawn_at,
       least(v.since, (select min(s.set_on) from setting s where s.vessel_id = v.id and s.withdrawn_at is null))::timestamptz as since,
       coalesce((select m.place_id from vessel_move m where m.vessel_id = v.id and m.withdrawn_at is null order by m.moved_on desc, m.made_at desc, m.id desc limit 1), v.place_id)::uuid as place_id,
       coalesce((select c.cover from care c where c.vessel_id = v.id and c.cover <> '' and c.withdrawn_at is null order by c.done_at desc, c.made_at desc, c.id desc limit 1), v.cover)::text as cover,
       e.ended_on, e.how as ended_how
from vessel v
left join vessel_end e on e.vessel_id = v.id and e.withdrawn_at is null;
alter view vessel_now set (security_invoker = true);

-- +goose Down
drop view vessel_now;
drop table care_school, vessel_end, vessel_move, care;
drop function belongs;
alter table conclusion drop column tend;
alter table vessel drop column since, drop column cover, drop column parts, drop column medium;
update vessel set kind = case kind when 'lidded_box' then 'moss_box' when 'lidded_cup' then 'perlite_cup' else kind end;
