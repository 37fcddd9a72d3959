-- +goose Up
-- Young plants parted from a piece, or a rooted piece cut in two: a cut of a piece, not of a stem of the mother. Taken are the numbers
-- of the piece's own growing points that went with them.
alter table cut add column parent_id uuid, add column taken integer[] not null default '{}', add column note text not null default '' constraint cut_note_length check (length(note) <= 500);
alter table cut add foreign key (parent_id, household_id) references cutting (id, household_id);
create index cut_parent on cut (parent_id) where parent_id is not null;
-- A part has its number, growing points of its own, and whether it kept its mother's pattern; empty when nobody said.
alter table cutting add column part integer not null default 0, add column nodes jsonb not null default '[]';
alter table cutting add column pattern text not null default '' constraint cutting_pattern_known check (pattern in ('', 'kept', 'partly', 'lost'));
-- A piece that went into its young plants has ended, and is not lost.
alter table outcome drop constraint outcome_kind_known;
alter table outcome add constraint outcome_kind_known check (kind in ('established', 'lost', 'parted'));

-- +goose Down
alter table outcome drop constraint outcome_kind_known;
delete from outcome where kind = 'parted';
alter table outcome add constraint outcome_kind_known check (kind in ('established', 'lost'));
alter table cutting drop column pattern, drop column nodes, drop column part;
alter table cut drop column note, drop column taken, drop column parent_id;
