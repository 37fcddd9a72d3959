-- +goose Up
-- The member that this connection was taken for; null for none: a device with a key, the work in the background, a command.
-- +goose StatementBegin
create function member_now() returns uuid language sql stable
as $$ select nullif(current_setting('clearjar.member', true), '')::uuid $$;
-- +goose StatementEnd

-- A person of a household. The passphrase is kept as an Argon2id hash; empty when there is none.
create table member (
    id           uuid not null,
    name         text not null constraint member_name_length check (length(name) between 1 and 60),
    sign_in_name text not null constraint member_sign_in_name_length check (length(sign_in_name) between 1 and 60),
    role         text not null constraint member_role_length check (length(role) between 1 and 20),
    passphrase   text not null default '' constraint member_passphrase_length check (length(passphrase) <= 400),
    made_at      timestamptz not null,
    ended_at     timestamptz
);
-- A device on which a member is signed in.
create table sign_in (
    id        uuid not null,
    member_id uuid not null,
    device    text not null constraint sign_in_device_length check (length(device) <= 120),
    way       text not null constraint sign_in_way_length check (length(way) between 1 and 20),
    made_at   timestamptz not null,
    used_at   timestamptz not null,
    ended_at  timestamptz
);
-- A code that lets somebody in once: a new member, a device of a member, or a member who lost the way in.
create table invitation (
    id         uuid not null,
    purpose    text not null constraint invitation_purpose_known check (purpose in ('member', 'device', 'again')),
    role       text not null default '' constraint invitation_role_length check (length(role) <= 20),
    name       text not null default '' constraint invitation_name_length check (length(name) <= 60),
    member_id  uuid,
    by_member  uuid,
    digest     bytea not null,
    made_at    timestamptz not null,
    expires_at timestamptz not null,
    used_at    timestamptz,
    ended_at   timestamptz,
    constraint invitation_whose check ((purpose = 'member') = (member_id is null))
);
create table recovery_code (
    id        uuid not null,
    member_id uuid not null,
    digest    bytea not null,
    made_at   timestamptz not null,
    used_at   timestamptz
);
create table passkey (
    id         uuid not null,
    member_id  uuid not null,
    credential bytea not null,
    kept       jsonb not null,
    name       text not null constraint passkey_name_length check (length(name) <= 120),
    made_at    timestamptz not null,
    used_at    timestamptz,
    ended_at   timestamptz
);

-- Who did it: every write that people make.
alter table fact add column by_member uuid default member_now();
alter table photo add column by_member uuid default member_now();
alter table outside_key add column by_member uuid default member_now();
alter table sighting add column by_member uuid default member_now();

-- +goose StatementBegin
do $$
declare t text;
begin
    foreach t in array array['member', 'sign_in', 'invitation', 'recovery_code', 'passkey'] loop
        perform belongs(t);
    end loop;
    foreach t in array array['sign_in', 'invitation', 'recovery_code', 'passkey'] loop
        execute format('alter table %I add foreign key (member_id, household_id) references member (id, household_id)', t);
        execute format('create index %I on %I (member_id, household_id)', t || '_member', t);
    end loop;
    foreach t in array array['fact', 'photo', 'outside_key', 'sighting'] loop
        execute format('alter table %I add foreign key (by_member, household_id) references member (id, household_id)', t);
    end loop;
    alter table invitation add foreign key (by_member, household_id) references member (id, household_id);
    create unique index member_sign_in_name on member (sign_in_name, household_id);
    create unique index invitation_digest on invitation (digest, household_id);
    create unique index passkey_credential on passkey (credential, household_id);
end
$$;
-- +goose StatementEnd

-- At the door, before it is known who somebody is, no household is named: its rows are no household's, and stand apart.
create schema door;
-- Whose a sign-in name or the digest of an invitation is.
create table door.way_in (
    what         text not null,
    word         text not null,
    household_id uuid not null references public.household,
    about        uuid not null,
    primary key (what, word)
);
-- How often somebody may still try: the instant by which all that was tried is paid for.
create table door.attempt (
    what  text not null,
    word  text not null,
    until timestamptz not null,
    primary key (what, word)
);
create index attempt_until on door.attempt (until);
-- Log-ins as the session library keeps them; the token is kept as a digest.
create table door.sessions (
    token  text primary key,
    data   bytea not null,
    expiry timestamptz not null
);
create index sessions_expiry on door.sessions (expiry);

-- +goose Down
drop schema door cascade;
alter table sighting drop column by_member;
alter table outside_key drop column by_member;
alter table photo drop column by_member;
alter table fact drop column by_member;
drop table passkey, recovery_code, invitation, sign_in, member;
drop function member_now();
