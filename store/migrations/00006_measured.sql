-- +goose Up
-- Lengths of traced roots are concluded from the photo's scale, the lines and the vessel, by a named version
-- of the measuring: a better one measures old looks anew. What was drawn stays in look.
create table measured (
    look_id  uuid primary key references look on delete cascade,
    version  text not null,
    -- One length with its interval for each root of the look, in its order; zero where none was traced.
    lengths  jsonb not null
);

-- +goose Down
drop table measured;
