-- +goose Up
-- Facts are written once and kept. What follows from them (where a cutting is now,
-- how old, its verdict) is computed by the core and never stored as truth.

create table mother (
    id          uuid primary key,
    code        text not null constraint mother_code_unique unique
                constraint mother_code_form check (code ~ '^[A-Z]{3}[0-9]{0,2}$'),
    name        text not null constraint mother_name_length check (length(name) between 1 and 120),
    group_key   text not null,
    provenance  text not null default '' constraint mother_provenance_length check (length(provenance) <= 500),
    pattern     text not null constraint mother_pattern_known check (pattern in ('plain', 'stable', 'unstable')),
    recorded_at timestamptz not null default now()
);

create table stem (
    id          uuid primary key,
    mother_id   uuid not null references mother,
    letter      text not null,
    recorded_at timestamptz not null default now(),
    constraint stem_letter_unique unique (mother_id, letter)
);

-- Every save of a stem map is a new row; the newest version holds, the earlier stay.
-- Two edits made on one version collide on the key.
create table stem_map (
    stem_id     uuid not null references stem,
    version     integer not null constraint stem_map_version_positive check (version > 0),
    fact_id     uuid not null constraint stem_map_fact_unique unique,
    map         jsonb not null,
    recorded_at timestamptz not null default now(),
    primary key (stem_id, version)
);

create table cut (
    id          uuid primary key,
    stem_id     uuid not null references stem,
    map_version integer not null,
    cut_on      timestamptz not null,
    recorded_at timestamptz not null default now(),
    foreign key (stem_id, map_version) references stem_map (stem_id, version)
);

create table cutting (
    id         uuid primary key,
    cut_id     uuid not null references cut,
    stem_id    uuid not null references stem,
    code       text not null constraint cutting_code_unique unique,
    tag        text not null constraint cutting_tag_unique unique,
    first_node integer not null,
    last_node  integer not null,
    piece      jsonb not null,
    constraint cutting_nodes_ascend check (first_node between 1 and last_node and last_node <= 60)
);
create index cutting_stem on cutting (stem_id);
create index cutting_cut on cutting (cut_id);

-- A node is cut once, whatever two tabs do.
create table cutting_node (
    stem_id    uuid not null references stem,
    node       integer not null,
    cutting_id uuid not null references cutting,
    primary key (stem_id, node)
);

create table place (
    id       uuid primary key,
    name     text not null constraint place_name_unique unique
             constraint place_name_length check (length(name) between 1 and 80),
    position integer not null
);

create table vessel (
    id          uuid primary key,
    place_id    uuid not null references place,
    name        text not null constraint vessel_name_length check (length(name) between 1 and 80),
    tag         text not null constraint vessel_tag_unique unique,
    kind        text not null constraint vessel_kind_known check (kind in ('jar', 'moss_box', 'perlite_cup', 'covered_pot')),
    width_mm    double precision not null,
    depth_mm    double precision not null,
    height_mm   double precision not null,
    wall_mm     double precision not null,
    fill_mm     double precision not null,
    holds       integer not null constraint vessel_holds_range check (holds between 1 and 60),
    position    integer not null,
    recorded_at timestamptz not null default now()
);
create index vessel_place on vessel (place_id);

create table setting (
    id          uuid primary key,
    cutting_id  uuid not null references cutting,
    vessel_id   uuid not null references vessel,
    set_on      timestamptz not null,
    set_nodes   integer not null constraint setting_nodes_range check (set_nodes between 1 and 60),
    recorded_at timestamptz not null default now()
);
create index setting_cutting on setting (cutting_id, set_on);
create index setting_vessel on setting (vessel_id);

create table school_choice (
    id          uuid primary key,
    cutting_id  uuid not null references cutting,
    school      text not null,
    chosen_at   timestamptz not null default now()
);
create index school_choice_cutting on school_choice (cutting_id, chosen_at);

-- Original bytes are kept unchanged; the same photo twice is one.
create table photo (
    id          uuid primary key,
    sha256      bytea not null constraint photo_sha256_unique unique,
    original    bytea not null,
    media_type  text not null,
    width_px    integer not null,
    height_px   integer not null,
    orientation integer not null,
    taken_at    timestamptz not null,
    taken_from  text not null constraint photo_taken_from_known check (taken_from in ('exif', 'upload')),
    remark      text not null default '',
    uploaded_at timestamptz not null default now()
);

-- Upright pictures for the screen; can be thrown away and rebuilt.
create table photo_view (
    photo_id uuid not null references photo on delete cascade,
    most_px  integer not null,
    jpeg     bytea not null,
    primary key (photo_id, most_px)
);

create table look (
    id          uuid primary key,
    cutting_id  uuid not null references cutting,
    looked_at   timestamptz not null,
    photo_id    uuid references photo,
    -- A correction names the look it replaces; the earlier one stays.
    replaces    uuid references look,
    seen        jsonb not null,
    -- The traced line of each root of seen, in its order: only the photo's own page reads them.
    traces      jsonb not null default '[]',
    recorded_at timestamptz not null default now()
);
create index look_cutting on look (cutting_id, looked_at);
create unique index look_replaces on look (replaces) where replaces is not null;
create index look_photo on look (photo_id);

create table potting (
    id          uuid primary key,
    cutting_id  uuid not null constraint potting_once unique references cutting,
    place_id    uuid not null references place,
    potted_on   timestamptz not null,
    pot         jsonb not null,
    mix_ml      double precision not null,
    note        text not null default '' constraint potting_note_length check (length(note) <= 500),
    recorded_at timestamptz not null default now()
);
create index potting_place on potting (place_id);

create table outcome (
    id          uuid primary key,
    cutting_id  uuid not null constraint outcome_once unique references cutting,
    kind        text not null constraint outcome_kind_known check (kind in ('established', 'lost')),
    ended_on    timestamptz not null,
    note        text not null default '' constraint outcome_note_length check (length(note) <= 500),
    recorded_at timestamptz not null default now()
);

-- +goose Down
drop table outcome, potting, look, photo_view, photo, school_choice, setting, vessel, place,
    cutting_node, cutting, cut, stem_map, stem, mother;
