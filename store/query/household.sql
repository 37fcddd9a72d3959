-- name: HouseholdNow :one
-- The household of this connection.
select id, name, time_zone, southern from household;

-- name: CorrectHousehold :exec
update household set time_zone = $1, southern = $2;

-- name: EveryHousehold :many
select h::uuid as id from every_household() h;

-- name: AddHousehold :exec
insert into household (id, name, time_zone) values ($1, $2, $3);

-- name: NameHousehold :exec
update household set name = $1;
