-- Up Migration

-- One shot of a rig: what was set, predicted and measured. It points at the revision that was fired.
create table shots (
  id uuid primary key,
  revision_id uuid not null references revisions (id) on delete restrict,
  run_id uuid references runs (id) on delete restrict,
  version integer not null default 1 check (version > 0),
  shot jsonb not null,
  predicted jsonb not null,
  created_at timestamptz not null default now(),
  updated_at timestamptz not null default now(),
  removed_at timestamptz
);
create index shots_by_revision on shots (revision_id);

-- Traces and photos of shots, as they were taken in.
create table shot_files (
  id uuid primary key,
  shot_id uuid not null references shots (id) on delete cascade,
  kind text not null check (kind in ('trace', 'photo')),
  name text not null,
  -- A trace as JSON with its samples, a photo as a data URL.
  content text not null,
  bytes integer not null,
  added_at timestamptz not null default now()
);
create index shot_files_by_shot on shot_files (shot_id);

-- Down Migration
drop table shot_files;
drop table shots;
