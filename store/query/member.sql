-- name: Members :many
-- Those who may come in first, in the order they came.
select * from member order by ended_at is not null, made_at, id;

-- name: MemberByID :one
select * from member where id = $1;

-- name: LockMembers :many
-- Every member of the household, locked: how many keepers there are must not change meanwhile.
select * from member order by id for update;

-- name: AddMember :exec
insert into member (id, name, sign_in_name, role, passphrase, made_at) values ($1, $2, $3, $4, $5, $6);

-- name: ChangeMember :execrows
update member set name = $2, role = $3 where id = $1 and ended_at is null;

-- name: SetPassphrase :exec
update member set passphrase = $2 where id = $1;

-- name: EndMember :execrows
update member set ended_at = sqlc.arg(at)::timestamptz where id = $1 and ended_at is null;

-- name: AddWayIn :execrows
insert into door.way_in (what, word, household_id, about) values ($1, $2, $3, $4) on conflict do nothing;

-- name: WayInByWord :one
select * from door.way_in where what = $1 and word = $2;

-- name: RemoveWayIn :exec
delete from door.way_in where what = $1 and word = $2;

-- name: TryOnce :one
-- One more try, when there is one left: each costs so many seconds, and so many seconds may be owed at a time. What lies further ahead
-- than can be owed was written by a clock that was wrong, and is forgiven.
insert into door.attempt (what, word, until) values (sqlc.arg(what), sqlc.arg(word), sqlc.arg(now)::timestamptz + make_interval(secs => sqlc.arg(cost)::float8))
on conflict (what, word) do update set until = case when attempt.until > sqlc.arg(now)::timestamptz + make_interval(secs => sqlc.arg(most)::float8) then sqlc.arg(now)::timestamptz
         else greatest(attempt.until, sqlc.arg(now)::timestamptz) end + make_interval(secs => sqlc.arg(cost)::float8)
where greatest(attempt.until, sqlc.arg(now)::timestamptz) + make_interval(secs => sqlc.arg(cost)::float8) <= sqlc.arg(now)::timestamptz + make_interval(secs => sqlc.arg(most)::float8)
   or attempt.until > sqlc.arg(now)::timestamptz + make_interval(secs => sqlc.arg(most)::float8)
returning until;

-- name: AttemptOf :one
select until from door.attempt where what = $1 and word = $2;

-- name: ForgetAttempts :exec
delete from door.attempt where what = $1 and word = $2;

-- name: ForgetOldAttempts :exec
delete from door.attempt where until < sqlc.arg(now)::timestamptz;

-- name: AddSignIn :exec
insert into sign_in (id, member_id, device, way, made_at, used_at) values ($1, $2, $3, $4, sqlc.arg(at)::timestamptz, sqlc.arg(at)::timestamptz);

-- name: WhoIsSignedIn :one
-- The member behind a log-in that holds.
select s.id as sign_in_id, s.used_at, m.id, m.name, m.sign_in_name, m.role, h.name as household_name
from sign_in s join member m on m.id = s.member_id cross join household h
where s.id = $1 and s.member_id = sqlc.arg(member_id)::uuid and s.ended_at is null and m.ended_at is null;

-- name: SignInUsed :exec
update sign_in set used_at = sqlc.arg(at)::timestamptz where id = $1;

-- name: SignInsOf :many
-- Where a member is signed in, the last used first.
select * from sign_in where member_id = $1 and ended_at is null order by used_at desc, id limit 200;

-- name: EndSignIn :execrows
update sign_in set ended_at = sqlc.arg(at)::timestamptz where id = $1 and member_id = sqlc.arg(member_id)::uuid and ended_at is null;

-- name: EndSignInsOf :exec
update sign_in set ended_at = sqlc.arg(at)::timestamptz where member_id = $1 and ended_at is null and id <> sqlc.arg(but)::uuid;

-- name: AddInvitation :exec
insert into invitation (id, purpose, role, name, member_id, by_member, digest, made_at, expires_at) values ($1, $2, $3, $4, $5, $6, $7, $8, $9);

-- name: InvitationByID :one
select * from invitation where id = $1;

-- name: Invitations :many
-- What still lets somebody in, the newest first.
select * from invitation where used_at is null and ended_at is null and expires_at > sqlc.arg(now)::timestamptz and purpose <> 'device' order by made_at desc, id limit 200;

-- name: UseInvitation :execrows
-- Once, and in time.
update invitation set used_at = sqlc.arg(now)::timestamptz where id = $1 and used_at is null and ended_at is null and expires_at > sqlc.arg(now)::timestamptz;

-- name: EndInvitation :execrows
update invitation set ended_at = sqlc.arg(now)::timestamptz where id = $1 and used_at is null and ended_at is null;

-- name: EndInvitationsFor :exec
update invitation set ended_at = sqlc.arg(now)::timestamptz where member_id = $1 and used_at is null and ended_at is null;

-- name: EndFirstCodes :exec
-- Codes of a start before: only the newest holds.
update invitation set ended_at = sqlc.arg(now)::timestamptz where by_member is null and member_id is null and used_at is null and ended_at is null;

-- name: AddRecoveryCode :exec
insert into recovery_code (id, member_id, digest, made_at) values ($1, $2, $3, $4);

-- name: RemoveRecoveryCodes :exec
delete from recovery_code where member_id = $1;

-- name: UseRecoveryCode :execrows
update recovery_code set used_at = sqlc.arg(now)::timestamptz where member_id = $1 and digest = $2 and used_at is null;

-- name: RecoveryCodesLeft :one
select count(*) from recovery_code where member_id = $1 and used_at is null;

-- name: AddPasskey :exec
insert into passkey (id, member_id, credential, kept, name, made_at) values ($1, $2, $3, $4, $5, $6);

-- name: PasskeysOf :many
select * from passkey where member_id = $1 and ended_at is null order by made_at, id limit 50;

-- name: PasskeyUsed :exec
update passkey set used_at = sqlc.arg(at)::timestamptz, kept = $2 where id = $1;

-- name: EndPasskey :execrows
update passkey set ended_at = sqlc.arg(at)::timestamptz where id = $1 and member_id = sqlc.arg(member_id)::uuid and ended_at is null;

-- name: NotedBy :many
-- Who noted facts, by the fact.
select f.id, m.id as member_id, m.name from fact f join member m on m.id = f.by_member where f.id = any(sqlc.arg(ids)::uuid[]);
