-- +goose Up
-- A household: whose rows are whose. There is one until accounts come. An empty time zone is the server's own.
create table household (
    id          uuid primary key,
    name        text not null default '' constraint household_name_length check (length(name) <= 120),
    time_zone   text not null default '' constraint household_time_zone_length check (length(time_zone) <= 60),
    -- South of the equator the dark half of the year is the other one.
    southern    boolean not null default false,
    recorded_at timestamptz not null default now()
);
insert into household (id) values ('00000000-0000-7000-8000-000000000001');

-- The household that this connection was taken for; null for none, and then no row is seen and none is written.
-- +goose StatementBegin
create function household_now() returns uuid language sql stable
as $$ select nullif(current_setting('clearjar.household', true), '')::uuid $$;
-- +goose StatementEnd

-- Every table: its household in each of its rows, in each key, unique rule and reference; held by the database. It
-- stands last in keys, so that a question about one thing goes by its id, whatever is known of how many there are.
-- +goose StatementBegin
do $$
declare
    t text;
    c record;
    foreigns text[] := '{}';
    uniques text[] := '{}';
    line text;
begin
    for c in
        select con.conname, rel.relname as of_table, target.relname as to_table, con.confdeltype,
               (select string_agg(quote_ident(a.attname), ', ' order by k.at) from unnest(con.conkey) with ordinality k(n, at)
                    join pg_attribute a on a.attrelid = con.conrelid and a.attnum = k.n) as from_columns,
               (select string_agg(quote_ident(a.attname), ', ' order by k.at) from unnest(con.confkey) with ordinality k(n, at)
                    join pg_attribute a on a.attrelid = con.confrelid and a.attnum = k.n) as to_columns
        from pg_constraint con
        join pg_class rel on rel.oid = con.conrelid
        join pg_class target on target.oid = con.confrelid
        where con.contype = 'f' and con.connamespace = 'public'::regnamespace
    loop
        execute format('alter table %I drop constraint %I', c.of_table, c.conname);
        foreigns := foreigns || format('alter table %I add constraint %I foreign key (%s, household_id) references %I (%s, household_id)%s',
            c.of_table, c.conname, c.from_columns, c.to_table, c.to_columns, case c.confdeltype when 'c' then ' on delete cascade' else '' end);
    end loop;

    for t in select tablename from pg_tables where schemaname = 'public' and tablename not in ('household', 'goose_db_version') loop
        execute format('alter table %I add column household_id uuid not null default ''00000000-0000-7000-8000-000000000001'' references household', t);
        execute format('alter table %I alter column household_id set default household_now()', t);
        for c in
            select con.conname, con.contype,
                   (select string_agg(quote_ident(a.attname), ', ' order by k.at) from unnest(con.conkey) with ordinality k(n, at)
                        join pg_attribute a on a.attrelid = con.conrelid and a.attnum = k.n) as columns
            from pg_constraint con where con.conrelid = format('public.%I', t)::regclass and con.contype in ('p', 'u')
        loop
            execute format('alter table %I drop constraint %I', t, c.conname);
            execute format('alter table %I add constraint %I %s (%s, household_id)', t, c.conname,
                case c.contype when 'p' then 'primary key' else 'unique' end, c.columns);
        end loop;
        -- Unique rules that hold for some rows only.
        for c in
            select i.indexrelid::regclass::text as name, pg_get_indexdef(i.indexrelid) as def
            from pg_index i where i.indrelid = format('public.%I', t)::regclass and i.indisunique and not i.indisprimary
              and not exists (select 1 from pg_constraint con where con.conindid = i.indexrelid)
        loop
            execute format('drop index %s', c.name);
            execute regexp_replace(c.def, ' \(([^)]*)\)', ' (\1, household_id)');
        end loop;
        execute format('alter table %I enable row level security', t);
        execute format('alter table %I force row level security', t);
        execute format('create policy household on %I using (household_id = (select household_now())) with check (household_id = (select household_now()))', t);
    end loop;

    foreach line in array foreigns loop
        execute line;
    end loop;
end
$$;
-- +goose StatementEnd
alter table household enable row level security;
alter table household force row level security;
create policy household on household using (id = (select household_now())) with check (id = (select household_now()));
-- A view sees what its reader may see.
alter view cutting_now set (security_invoker = true);

-- +goose Down
-- There is no way back to rows without an owner: take the backup from before.
select 1 / 0;
