-- +goose Up
-- A mother was potted on: into which pot, and how much of her roots came off, as a fraction.
create table mother_pot (
    id           uuid not null,
    mother_id    uuid not null,
    potted_on    timestamptz not null,
    pot          jsonb not null,
    roots_off    double precision not null default 0 constraint mother_pot_roots_range check (roots_off between 0 and 1),
    note         text not null default '' constraint mother_pot_note_length check (length(note) <= 500),
    made_at      timestamptz not null,
    recorded_at  timestamptz not null default now(),
    withdrawn_at timestamptz
);
create index mother_pot_mother on mother_pot (mother_id, potted_on);
-- +goose StatementBegin
do $$
begin
    perform belongs('mother_pot');
    alter table mother_pot add foreign key (mother_id, household_id) references mother (id, household_id);
end
$$;
-- +goose StatementEnd
-- How long a cut face dried before the piece was reset; 0 when nobody said.
alter table cut_back add column dried_hours double precision not null default 0 constraint cut_back_dried_range check (dried_hours between 0 and 1000);

-- +goose Down
alter table cut_back drop column dried_hours;
drop table mother_pot;
