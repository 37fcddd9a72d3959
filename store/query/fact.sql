-- name: AddFact :execrows
-- Two of one id wait for each other here: the second finds the first.
insert into fact (id, kind, about, made_at, digest, content) values ($1, $2, $3, $4, $5, $6) on conflict on constraint fact_pkey do nothing;

-- name: FactByID :one
select * from fact where id = $1;

-- name: FactTouched :exec
update fact set touched = $2 where id = $1;

-- name: AddCorrection :exec
insert into correction (id, kind, about, was, becomes) values ($1, $2, $3, $4, $5);

-- name: CorrectionsOf :many
select * from correction where about = any(sqlc.arg(about)::uuid[]) order by recorded_at, id;

-- name: CorrectMother :exec
update mother set name = $2, group_key = $3, provenance = $4, pattern = $5, known = true where id = $1;

-- name: CorrectVessel :exec
update vessel set name = $2, place_id = $3, width_mm = $4, depth_mm = $5, height_mm = $6, wall_mm = $7, fill_mm = $8, holds = $9, kind = $10, parts = $11 where id = $1;

-- name: PlaceByID :one
select * from place where id = $1;

-- name: CorrectPlace :exec
update place set name = $2 where id = $1;

-- name: OrderPlaces :exec
update place p set position = o.n from unnest(sqlc.arg(ids)::uuid[]) with ordinality o (id, n) where p.id = o.id;

-- name: CutByID :one
select * from cut where id = $1;

-- name: CorrectCut :exec
update cut set cut_on = $2 where id = $1;

-- name: SettingByID :one
select * from setting where id = $1;

-- name: CorrectSetting :exec
update setting set set_on = $2 where id = $1;

-- name: PottingByID :one
select p.*, q.potted_on from potting p join pot q on q.id = p.pot_id where p.id = $1;

-- name: PotByID :one
select * from pot where id = $1;

-- name: CorrectPotting :exec
-- The day of a pot is that of all that came into it.
update pot set potted_on = $2 where id = (select x.pot_id from potting x where x.id = $1);

-- name: OutcomeByID :one
select * from outcome where id = $1;

-- name: CorrectOutcome :exec
update outcome set kind = $2, ended_on = $3, why = $4, note = $5 where id = $1;

-- name: HandoverByID :one
select * from handover where id = $1;

-- name: CorrectHandover :exec
update handover set given_on = $2 where id = $1;

-- name: WateringByID :one
select * from watering where id = $1;

-- name: CorrectWatering :exec
update watering set watered_on = $2 where id = $1;

-- name: CutBackByID :one
select * from cut_back where id = $1;

-- name: CorrectCutBack :exec
update cut_back set cut_on = $2 where id = $1;

-- name: WithdrawMother :execrows
update mother set withdrawn_at = now() where id = $1 and withdrawn_at is null;

-- name: WithdrawVessel :execrows
update vessel set withdrawn_at = now() where id = $1 and withdrawn_at is null;

-- name: WithdrawStem :execrows
update stem set withdrawn_at = now() where id = $1 and withdrawn_at is null;

-- name: WithdrawCutPlan :execrows
update cut_plan set withdrawn_at = now() where id = $1 and withdrawn_at is null;

-- name: WithdrawCut :execrows
update cut set withdrawn_at = now() where id = $1 and withdrawn_at is null;

-- name: WithdrawCuttingsOf :exec
update cutting set withdrawn_at = now() where cut_id = $1 and withdrawn_at is null;

-- name: FreeNodesOf :exec
delete from cutting_node n using cutting c where c.id = n.cutting_id and c.cut_id = $1;

-- name: WithdrawLook :execrows
update look set withdrawn_at = now() where id = $1 and withdrawn_at is null;

-- name: WithdrawSetting :execrows
update setting set withdrawn_at = now() where id = $1 and withdrawn_at is null;

-- name: WithdrawPotting :execrows
update potting set withdrawn_at = now() where id = $1 and withdrawn_at is null;

-- name: WithdrawPotfulOf :execrows
update potting set withdrawn_at = now() where pot_id = $1 and withdrawn_at is null;

-- name: WithdrawEmptyPot :exec
update pot q set withdrawn_at = now() where q.id = $1 and q.withdrawn_at is null and not exists (select 1 from potting x where x.pot_id = q.id and x.withdrawn_at is null);

-- name: WithdrawOutcome :execrows
update outcome set withdrawn_at = now() where id = $1 and withdrawn_at is null;

-- name: WithdrawHandover :execrows
update handover set withdrawn_at = now() where id = $1 and withdrawn_at is null;

-- name: WithdrawWatering :execrows
update watering set withdrawn_at = now() where id = $1 and withdrawn_at is null;

-- name: WithdrawCutBack :execrows
update cut_back set withdrawn_at = now() where id = $1 and withdrawn_at is null;

-- name: ReplacedBy :many
select id from look where replaces = $1 and withdrawn_at is null;

-- name: LivedSince :one
-- What happened to the pieces of a cut that would lose its ground with it.
select (select count(*) from setting s join cutting c on c.id = s.cutting_id where c.cut_id = sqlc.arg(cut_id)::uuid and s.withdrawn_at is null)
     + (select count(*) from look l join cutting c on c.id = l.cutting_id where c.cut_id = sqlc.arg(cut_id)::uuid and l.withdrawn_at is null and l.id <> all(sqlc.arg(but)::uuid[]))
     + (select count(*) from potting p join cutting c on c.id = p.cutting_id where c.cut_id = sqlc.arg(cut_id)::uuid and p.withdrawn_at is null)
     + (select count(*) from cut y join cutting c on c.id = y.parent_id where c.cut_id = sqlc.arg(cut_id)::uuid and y.withdrawn_at is null)
     + (select count(*) from handover h join cutting c on c.id = h.cutting_id where c.cut_id = sqlc.arg(cut_id)::uuid and h.withdrawn_at is null)
     + (select count(*) from outcome o join cutting c on c.id = o.cutting_id where c.cut_id = sqlc.arg(cut_id)::uuid and o.withdrawn_at is null)
     + (select count(*) from mother m join cutting c on c.id = m.from_cutting where c.cut_id = sqlc.arg(cut_id)::uuid and m.withdrawn_at is null) as acts;

-- name: UsesOfStem :one
select (select count(*) from cut where stem_id = sqlc.arg(stem_id)::uuid and withdrawn_at is null)
     + (select count(*) from cut_plan_stem s join cut_plan p on p.id = s.plan_id where s.stem_id = sqlc.arg(stem_id)::uuid and p.withdrawn_at is null) as uses;

-- name: UsesOfMother :one
select (select count(*) from cut join stem s on s.id = cut.stem_id where s.mother_id = sqlc.arg(mother_id)::uuid and cut.withdrawn_at is null)
     + (select count(*) from cut_plan p where p.mother_id = sqlc.arg(mother_id)::uuid and p.withdrawn_at is null) as uses;

-- name: CountInVesselEver :one
select count(*) from setting where vessel_id = $1 and withdrawn_at is null;

-- name: CuttingsEverIn :many
select distinct cutting_id from setting where vessel_id = $1 and withdrawn_at is null;

-- name: NoterOf :one
-- Who noted a fact, or the first fact about a thing.
select by_member from fact where id = sqlc.arg(id)::uuid or about = sqlc.arg(id)::uuid order by (id = sqlc.arg(id)::uuid) desc, made_at, fact.id limit 1;
