-- Up Migration

-- A run of a rig, or a rehearsal of one: what was planned when it was begun. It is never changed.
create table runs (
  id uuid primary key,
  revision_id uuid not null references revisions (id) on delete restrict,
  plan jsonb not null,
  -- Null of a live run.
  rehearsal jsonb,
  made_at timestamptz not null default now()
);
create index runs_by_age on runs (made_at desc);

-- What was done in it, in the order in which it was done. Nothing is ever changed or taken out.
create table run_events (
  run_id uuid not null references runs (id) on delete restrict,
  number integer not null check (number > 0),
  id uuid not null unique,
  event jsonb not null,
  received_at timestamptz not null default clock_timestamp(),
  primary key (run_id, number)
);

create function run_stays() returns trigger language plpgsql as $$
begin
  raise exception 'what was done in a run is never changed' using errcode = 'restrict_violation';
end $$;

create trigger run_stays before update or delete on runs for each row execute function run_stays();
create trigger run_events_stay before update or delete on run_events for each row execute function run_stays();

-- Down Migration
drop table run_events;
drop table runs;
drop function run_stays();
