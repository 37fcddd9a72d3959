-- name: AddOutsideKey :execrows
insert into outside_key (id, what, name, place_id, digest, made_at) values ($1, $2, $3, $4, $5, $6) on conflict (id, household_id) do nothing;

-- name: OutsideKeyByID :one
select * from outside_key where id = $1;

-- name: OutsideKeyByDigest :one
select * from outside_key where digest = $1 and what = $2;

-- name: OutsideKeys :many
-- Those of a kind, the newest first.
select * from outside_key k where k.what = $1 order by k.ended_at is not null, k.made_at desc, k.id;

-- name: LastReadings :many
-- What each sensor said last, as far as it is kept one by one.
select k.id as sensor_id, r.at, r.temp_c, r.humidity_pct
from outside_key k cross join lateral (select l.at, l.temp_c, l.humidity_pct from reading l where l.sensor_id = k.id order by l.at desc limit 1) r
where k.what = 'sensor';

-- name: EndOutsideKey :exec
update outside_key set ended_at = coalesce(ended_at, sqlc.arg(at)::timestamptz) where id = $1;

-- name: AddReadings :execrows
insert into reading (sensor_id, at, temp_c, humidity_pct)
select sqlc.arg(sensor_id)::uuid, unnest(sqlc.arg(ats)::timestamptz[]), unnest(sqlc.arg(temps)::real[]), unnest(sqlc.arg(humidities)::real[])
on conflict do nothing;

-- name: SensorsWithOldReadings :many
select distinct sensor_id from reading where at < sqlc.arg(before)::timestamptz;

-- name: TakeOldReadings :many
-- Takes readings out that are from now on kept by the hour: some at a time, the oldest first.
delete from reading r using (
    select o.sensor_id, o.at from reading o where o.sensor_id = sqlc.arg(sensor_id)::uuid and o.at < sqlc.arg(before)::timestamptz order by o.at limit sqlc.arg(most)::int
) old
where r.sensor_id = old.sensor_id and r.at = old.at returning r.at, r.temp_c, r.humidity_pct;

-- name: LockSensor :one
select id from outside_key where id = $1 for update;

-- name: HoursOf :many
select * from reading_hour where sensor_id = $1 and hour = any(sqlc.arg(hours)::timestamptz[]);

-- name: PutHours :exec
insert into reading_hour (sensor_id, hour, minutes, temp_min, temp_mean, temp_max, humidity_min, humidity_mean, humidity_max, deficit_min, deficit_mean, deficit_max)
select sqlc.arg(sensor_id)::uuid, unnest(sqlc.arg(hours)::timestamptz[]), unnest(sqlc.arg(minutes)::bigint[]),
       unnest(sqlc.arg(temp_min)::real[]), unnest(sqlc.arg(temp_mean)::real[]), unnest(sqlc.arg(temp_max)::real[]),
       unnest(sqlc.arg(humidity_min)::real[]), unnest(sqlc.arg(humidity_mean)::real[]), unnest(sqlc.arg(humidity_max)::real[]),
       unnest(sqlc.arg(deficit_min)::real[]), unnest(sqlc.arg(deficit_mean)::real[]), unnest(sqlc.arg(deficit_max)::real[])
on conflict (sensor_id, hour, household_id) do update set minutes = excluded.minutes,
       temp_min = excluded.temp_min, temp_mean = excluded.temp_mean, temp_max = excluded.temp_max,
       humidity_min = excluded.humidity_min, humidity_mean = excluded.humidity_mean, humidity_max = excluded.humidity_max,
       deficit_min = excluded.deficit_min, deficit_mean = excluded.deficit_mean, deficit_max = excluded.deficit_max;

-- name: ReadingsAt :many
-- What the sensors of a place said, oldest first.
select r.at, r.temp_c, r.humidity_pct from reading r join outside_key k on k.id = r.sensor_id
where k.place_id = sqlc.arg(place_id)::uuid and r.at >= sqlc.arg(since)::timestamptz and r.at < sqlc.arg(before)::timestamptz order by r.at;

-- name: HoursAt :many
select h.* from reading_hour h join outside_key k on k.id = h.sensor_id
where k.place_id = sqlc.arg(place_id)::uuid and h.hour >= sqlc.arg(since)::timestamptz and h.hour < sqlc.arg(before)::timestamptz order by h.hour;

-- name: AirOfPlaces :many
-- What was read at each place since: the warmest, and the means.
select k.place_id::uuid as place_id, max(r.temp_c)::real as hottest_c, avg(r.temp_c)::real as temp_c, avg(r.humidity_pct)::real as humidity_pct
from reading r join outside_key k on k.id = r.sensor_id
where r.at >= sqlc.arg(since)::timestamptz and r.at < sqlc.arg(before)::timestamptz group by k.place_id;
