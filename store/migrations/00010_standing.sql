-- +goose Up
-- Whether it no longer stands, counted anew with every fact that touches it: what ended is never walked through to
-- find what stands. cutting_now tells the same from the facts themselves.
alter table cutting add column gone boolean not null default false;
update cutting c set gone = true from cutting_now n where n.cutting_id = c.id and not n.stands;
create index cutting_standing on cutting (household_id, id) where not gone and withdrawn_at is null;

-- +goose Down
drop index cutting_standing;
alter table cutting drop column gone;
