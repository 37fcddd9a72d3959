-- name: HouseholdNow :one
-- The household of this connection.
select id, name, time_zone, southern from household;

-- name: CorrectHousehold :exec
update household set time_zone = $1, southern = $2;

-- name: EveryHousehold :many
select h::uuid as id from every_household() h;
