-- Up Migration
create table rigs (
  id uuid primary key,
  version integer not null default 1 check (version > 0),
  -- The rig document as the contract defines it, checked by the server before it is written.
  document jsonb not null,
  created_at timestamptz not null default now(),
  updated_at timestamptz not null default now(),
  archived_at timestamptz
);

create index rigs_live on rigs (updated_at desc) where archived_at is null;

-- What was done once and must not be done again, such as loading the demo workshop.
create table marks (
  name text primary key,
  made_at timestamptz not null default now()
);

-- Down Migration
drop table marks;
drop table rigs;
