-- +goose Up
-- Which kinds of vessel there are is a table of the rules: what comes in is held against it there.
alter table vessel drop constraint vessel_kind_known;

-- +goose Down
alter table vessel add constraint vessel_kind_known check (kind in ('jar', 'moss_box', 'perlite_cup', 'covered_pot'));
