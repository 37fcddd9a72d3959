-- +goose Up
-- What leaving a cutting a day costs, and when it is expected to be ready, as the model weighed it: for as many facts, under those rules.
alter table conclusion add column day_loss real not null default 0;
alter table conclusion add column expected jsonb;

-- +goose Down
alter table conclusion drop column expected, drop column day_loss;
