grant usage on schema public to clearjar_app;
grant select, insert, update, delete on all tables in schema public to clearjar_app;
revoke all on goose_db_version from clearjar_app;
-- The work in the background: its jobs are no household's rows.
grant usage on schema river to clearjar_app;
grant select, insert, update, delete on all tables in schema river to clearjar_app;
grant usage, select on all sequences in schema river to clearjar_app;
grant execute on all functions in schema river to clearjar_app;
-- The door: who comes in, before it is known whose rows they may see.
grant usage on schema door to clearjar_app;
grant select, insert, update, delete on all tables in schema door to clearjar_app;
