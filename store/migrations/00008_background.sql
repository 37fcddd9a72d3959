-- +goose Up
-- Which households there are, for the work in the background; of each it sees only what is its own.
-- +goose StatementBegin
create function every_household() returns setof uuid language sql stable security definer set search_path = public
as $$ select id from household order by id $$;
-- +goose StatementEnd
create schema river;

-- +goose Down
drop schema river cascade;
drop function every_household();
