-- Only the loader puts sightings into the staging area, and reads them there.
revoke all on staging.incoming from public;
grant select, insert on staging.incoming to loader;
