-- +goose Up
-- What the grower's own records came to on a day: made once a day, so that a verdict does not move with every look at another piece.
create table learned (
    day   date not null,
    made  jsonb not null
);
-- +goose StatementBegin
do $$
begin
    alter table learned add column household_id uuid not null default household_now() references household;
    alter table learned add primary key (day, household_id);
    alter table learned enable row level security;
    alter table learned force row level security;
    create policy household on learned using (household_id = (select household_now())) with check (household_id = (select household_now()));
end
$$;
-- +goose StatementEnd

-- +goose Down
drop table learned;
