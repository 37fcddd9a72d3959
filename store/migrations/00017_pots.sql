-- +goose Up
-- A pot is one thing, whoever stands in it: when it was filled, with what, and where it stands.
create table pot (
    id           uuid not null,
    place_id     uuid not null,
    potted_on    timestamptz not null,
    pot          jsonb not null,
    -- The key of its mix and the parts it was mixed of; empty and none where nobody said.
    mix          text not null default '',
    parts        jsonb not null default '[]',
    mix_ml       double precision not null,
    note         text not null default '' constraint pot_note_length check (length(note) <= 500),
    recorded_at  timestamptz not null default now(),
    withdrawn_at timestamptz
);
-- +goose StatementBegin
do $$
begin
    perform belongs('pot');
    alter table pot add foreign key (place_id, household_id) references place (id, household_id);
end
$$;
-- +goose StatementEnd
create index pot_place on pot (place_id);
insert into pot (id, place_id, potted_on, pot, mix_ml, note, recorded_at, withdrawn_at, household_id)
select id, place_id, potted_on, pot, mix_ml, note, recorded_at, withdrawn_at, household_id from potting;

drop view cutting_now;
-- Who went into it, where in it, and the potting it was moved on from, if it stood in a pot before.
alter table potting add column pot_id uuid, add column at jsonb not null default '{}', add column follows uuid;
update potting set pot_id = id;
alter table potting alter column pot_id set not null, drop column place_id, drop column potted_on, drop column pot, drop column mix_ml, drop column note;
alter table potting add foreign key (pot_id, household_id) references pot (id, household_id);
alter table potting add foreign key (follows, household_id) references potting (id, household_id);
create index potting_pot on potting (pot_id);
drop index potting_once;
create unique index potting_once on potting (cutting_id, household_id) where withdrawn_at is null and follows is null;
create unique index potting_follows on potting (follows, household_id) where withdrawn_at is null and follows is not null;
create index potting_cutting on potting (cutting_id);

-- The potting it stands by now, counted anew with every fact that touches it, as whether it is gone.
alter table cutting add column potting_id uuid;
update cutting c set potting_id = (select p.id from potting p where p.cutting_id = c.id and p.withdrawn_at is null);

-- The pot is the one it stands in now, and potted_on when it came into that one; follows is there when it stood in another before.
create view cutting_now as
select c.id as cutting_id, c.stem_id, c.cut_id,
       q.potted_on, p.follows, p.id as potting_id, q.pot, p.pot_id, p.at as pot_at, q.place_id as potted_place_id,
       o.kind as outcome_kind, o.why as outcome_why, o.ended_on, h.given_on,
       (o.id is null and h.id is null)::boolean as stands,
       (o.id is null and h.id is null and p.id is null)::boolean as before_pot
from cutting c
left join potting p on p.id = c.potting_id
left join pot q on q.id = p.pot_id
left join outcome o on o.cutting_id = c.id and o.withdrawn_at is null
left join handover h on h.cutting_id = c.id and h.withdrawn_at is null
where c.withdrawn_at is null;
alter view cutting_now set (security_invoker = true);

-- +goose Down
-- There is no way back to one plant a pot: take the backup from before.
select 1 / 0;
