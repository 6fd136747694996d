-- Up Migration

-- Times are kept as they are told and archived: to the millisecond. What was finer is rounded down, as every answer did before.
do $$
declare c record;
begin
  for c in
    select table_name, column_name from information_schema.columns
    where table_schema = 'public' and data_type = 'timestamp with time zone'
      and table_name in ('rigs', 'revisions', 'lots', 'parts', 'part_files', 'runs', 'run_events', 'shots', 'shot_files')
  loop
    execute format('alter table %I alter column %I type timestamptz(3) using date_trunc(''milliseconds'', %I)',
                   c.table_name, c.column_name, c.column_name);
  end loop;
end $$;

-- A list is searched by name and note, and sorted by name, without reading documents.
create extension if not exists pg_trgm;
alter table rigs
  add column name text generated always as (left(document ->> 'name', 80)) stored,
  add column words text generated always as (lower(coalesce(document ->> 'name', '') || ' ' || left(coalesce(document ->> 'note', ''), 2000))) stored;
create index rigs_by_words on rigs using gin (words gin_trgm_ops);
create index rigs_by_name on rigs (lower(name), id);
create index rigs_by_change on rigs ((coalesce(archived_at, updated_at)) desc, id);
drop index rigs_live;
create index rigs_branched on rigs (branched_from) where branched_from is not null;

-- What a list shows of a rig, worked out once for a version of it by a version of the program.
create table rig_heads (
  rig_id uuid primary key references rigs (id) on delete cascade,
  version integer not null,
  program text not null,
  -- Null of a rig that cannot be read; then `unreadable` says why.
  headline jsonb,
  unreadable text,
  energy double precision,
  built boolean not null default false,
  -- Parts of the bench that its blocks use.
  parts uuid[] not null default '{}'
);
create index rig_heads_by_energy on rig_heads (energy desc nulls last, rig_id);
create index rig_heads_by_parts on rig_heads using gin (parts);

-- What a list shows of a run, for the number of events it has.
create table run_heads (
  run_id uuid primary key references runs (id) on delete cascade,
  events integer not null,
  program text not null,
  head jsonb not null,
  -- Running, live, and its store may be charged: what stands on every page.
  is_open boolean not null,
  acts text not null,
  points double precision
);
create index run_heads_open on run_heads (run_id) where is_open;

drop index runs_by_age;
create index runs_by_age on runs (made_at desc, id);
create index runs_by_revision on runs (revision_id);
create index shots_by_time on shots ((shot ->> 'at') desc, id) where removed_at is null;
alter table shots add column words text generated always as (
  lower(coalesce(shot ->> 'outcome', '') || ' ' || coalesce(shot ->> 'sound', '') || ' ' || coalesce(shot ->> 'remarks', '') || ' ' || coalesce(shot ->> 'at', ''))
) stored;
create index shots_by_words on shots using gin (words gin_trgm_ops);
create index shots_by_run on shots (run_id) where run_id is not null;

-- Backups that were made and read back: the interface says how old the last one is.
create table backups (
  id uuid primary key,
  made_at timestamptz not null default now(),
  kind text not null check (kind in ('asked', 'scheduled', 'download', 'before-restore')),
  path text not null,
  bytes bigint not null,
  records integer not null,
  -- Why a scheduled one could not be made; its bytes and records are 0 then.
  failed text
);
create index backups_by_age on backups (made_at desc);

-- What the workshop is set to, such as backups by themselves. It belongs to this place and goes into no archive.
create table settings (
  name text primary key,
  value jsonb not null
);

-- Down Migration
drop table settings;
drop table backups;
drop index shots_by_run;
drop index shots_by_words;
alter table shots drop column words;
drop index shots_by_time;
drop index runs_by_revision;
drop index runs_by_age;
create index runs_by_age on runs (made_at desc);
drop table run_heads;
drop table rig_heads;
drop index rigs_branched;
create index rigs_live on rigs (updated_at desc) where archived_at is null;
drop index rigs_by_change;
drop index rigs_by_name;
drop index rigs_by_words;
alter table rigs drop column words, drop column name;
drop extension pg_trgm;
