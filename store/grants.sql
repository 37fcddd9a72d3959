grant usage on schema public to clearjar_app;
grant select, insert, update, delete on all tables in schema public to clearjar_app;
revoke all on goose_db_version from clearjar_app;
