-- +goose Up
-- What the machine was asked to see in a photo, and what it saw: no fact, and thrown away at will.
create table sighting (
    id         uuid not null,
    photo_id   uuid not null,
    cutting_id uuid not null,
    asked      jsonb not null,
    state      text not null default 'waiting' constraint sighting_state_known check (state in ('waiting', 'working', 'done', 'failed', 'stopped')),
    step       text not null default '',
    result     jsonb,
    remark     text not null default '',
    version    text not null default '',
    asked_at   timestamptz not null,
    done_at    timestamptz
);
-- +goose StatementBegin
do $$
begin
    perform belongs('sighting');
    alter table sighting add foreign key (photo_id, household_id) references photo (id, household_id);
    alter table sighting add foreign key (cutting_id, household_id) references cutting (id, household_id);
end
$$;
-- +goose StatementEnd
create index sighting_photo on sighting (photo_id, asked_at);
create index sighting_cutting on sighting (cutting_id, asked_at);

-- +goose Down
drop table sighting;
