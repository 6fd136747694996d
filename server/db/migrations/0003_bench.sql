-- Up Migration

-- Every write of the bench takes the next number, so that a page can ask for what changed since it last looked.
create sequence bench_changes;

create table lots (
  id uuid primary key,
  version integer not null default 1 check (version > 0),
  -- The lot as the contract defines it, checked by the server before it is written.
  lot jsonb not null,
  change bigint not null,
  created_at timestamptz not null default now(),
  updated_at timestamptz not null default now(),
  removed_at timestamptz
);
create index lots_by_change on lots (change);

create table parts (
  id uuid primary key,
  version integer not null default 1 check (version > 0),
  -- The part as the contract defines it, with its readings.
  part jsonb not null,
  tag text generated always as (part ->> 'tag') stored,
  change bigint not null,
  created_at timestamptz not null default now(),
  updated_at timestamptz not null default now(),
  removed_at timestamptz
);
create index parts_by_change on parts (change);
-- A tag is what is written on the label: two parts on the bench with one tag would be taken for each other.
create unique index parts_tag on parts (lower(tag)) where removed_at is null;

create table part_photos (
  part_id uuid primary key references parts (id) on delete cascade,
  -- A data URL, as it is sent and archived.
  photo text not null
);

-- Files of parts that were taken in, by their SHA-256.
create table part_files (
  digest text primary key,
  name text not null,
  parts integer not null,
  taken_at timestamptz not null default now()
);

-- Down Migration
drop table part_files;
drop table part_photos;
drop table parts;
drop table lots;
drop sequence bench_changes;
