-- +goose Up
-- What the shelf draws is written once and sent as it is: text, which costs nothing to read.
delete from conclusion;
alter table conclusion alter column shelf type text using shelf::text;

-- +goose Down
delete from conclusion;
alter table conclusion alter column shelf type jsonb using shelf::jsonb;
