-- Three roles: the owner of the cluster, who makes the others; the migrator, who owns tables and changes them; the
-- application, which reads and writes rows and can neither empty a table, nor change one, nor pass over a trigger.
-- Run as the owner, in the database, whenever Jubark starts: it changes only what is not so yet.
-- For a database elsewhere, as its superuser:
--   psql -d jubark -v migrator=jubark_migrator -v application=jubark_app \
--        -v migrator_password=... -v application_password=... -f launcher/roles.sql
\set ON_ERROR_STOP on
SET client_min_messages = warning;
SELECT format('CREATE ROLE %I LOGIN', name)
  FROM unnest(ARRAY[:'migrator', :'application']) AS name
 WHERE NOT EXISTS (SELECT 1 FROM pg_roles WHERE rolname = name) \gexec
ALTER ROLE :"migrator" LOGIN NOSUPERUSER NOCREATEDB NOCREATEROLE NOREPLICATION PASSWORD :'migrator_password';
ALTER ROLE :"application" LOGIN NOSUPERUSER NOCREATEDB NOCREATEROLE NOREPLICATION PASSWORD :'application_password';
CREATE EXTENSION IF NOT EXISTS postgis;
CREATE EXTENSION IF NOT EXISTS pg_trgm;
SELECT format('ALTER DATABASE %I OWNER TO %I', current_database(), :'migrator') \gexec
SELECT format('GRANT CONNECT, TEMPORARY ON DATABASE %I TO %I', current_database(), :'application') \gexec
ALTER SCHEMA public OWNER TO :"migrator";
REVOKE ALL ON SCHEMA public FROM PUBLIC;
GRANT USAGE ON SCHEMA public TO :"application";

-- what an extension brought stays its own
CREATE TEMPORARY VIEW ours AS
  SELECT c.oid, format('%s %s', CASE c.relkind WHEN 'S' THEN 'SEQUENCE' WHEN 'v' THEN 'VIEW' WHEN 'm' THEN
         'MATERIALIZED VIEW' ELSE 'TABLE' END, c.oid::regclass) AS thing, c.relowner AS owner, 'pg_class'::regclass AS of
    FROM pg_class c
   WHERE c.relnamespace = 'public'::regnamespace AND c.relkind IN ('r', 'p', 'v', 'm', 'S')
     -- a sequence of a column follows its table
     AND NOT EXISTS (SELECT 1 FROM pg_depend d WHERE d.classid = 'pg_class'::regclass AND d.objid = c.oid
                        AND d.refclassid = 'pg_class'::regclass AND c.relkind = 'S' AND d.deptype IN ('a', 'i'))
  UNION ALL
  SELECT p.oid, format('ROUTINE %s', p.oid::regprocedure), p.proowner, 'pg_proc'::regclass
    FROM pg_proc p WHERE p.pronamespace = 'public'::regnamespace
  UNION ALL
  SELECT t.oid, format('TYPE %s', t.oid::regtype), t.typowner, 'pg_type'::regclass
    FROM pg_type t WHERE t.typnamespace = 'public'::regnamespace AND t.typtype IN ('e', 'd');
SELECT format('ALTER %s OWNER TO %I', thing, :'migrator')
  FROM ours
 WHERE owner <> :'migrator'::regrole
   AND NOT EXISTS (SELECT 1 FROM pg_depend d WHERE d.classid = ours.of AND d.objid = ours.oid AND d.deptype = 'e') \gexec

GRANT SELECT, INSERT, UPDATE, DELETE ON ALL TABLES IN SCHEMA public TO :"application";
GRANT USAGE, SELECT ON ALL SEQUENCES IN SCHEMA public TO :"application";
ALTER DEFAULT PRIVILEGES FOR ROLE :"migrator" IN SCHEMA public
  GRANT SELECT, INSERT, UPDATE, DELETE ON TABLES TO :"application";
ALTER DEFAULT PRIVILEGES FOR ROLE :"migrator" IN SCHEMA public GRANT USAGE, SELECT ON SEQUENCES TO :"application";
-- which migrations are applied is the migrator's to say; reference systems are PostGIS's own
SELECT format('REVOKE INSERT, UPDATE, DELETE ON %s FROM %I', thing, :'application')
  FROM unnest(ARRAY['django_migrations', 'spatial_ref_sys']) AS thing WHERE to_regclass(thing) IS NOT NULL \gexec
