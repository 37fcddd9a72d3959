-- +goose Up
-- Somebody saw to a pot in the weeks after potting.
create table pot_visit (
    id           uuid not null,
    pot_id       uuid not null,
    visited_at   timestamptz not null,
    note         text not null default '' constraint pot_visit_note_length check (length(note) <= 500),
    made_at      timestamptz not null,
    recorded_at  timestamptz not null default now(),
    withdrawn_at timestamptz
);
create index pot_visit_pot on pot_visit (pot_id, visited_at);
-- +goose StatementBegin
do $$
begin
    perform belongs('pot_visit');
    alter table pot_visit add foreign key (pot_id, household_id) references pot (id, household_id);
end
$$;
-- +goose StatementEnd

-- +goose Down
drop table pot_visit;
