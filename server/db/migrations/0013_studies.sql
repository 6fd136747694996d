-- Up Migration

-- A study of a rig that is worked out by whoever is free: what was asked, of which revision, by which program. It is made in chunks, and the
-- same question gives the same bytes whoever makes them.
create table studies (
  id uuid primary key,
  revision_id uuid not null references revisions (id) on delete restrict,
  question jsonb not null,
  program text not null,
  account_id uuid,
  priority smallint not null,
  chunk integer not null check (chunk > 0),
  chunks integer not null check (chunks > 0),
  state text not null default 'asked' check (state in ('asked', 'paused', 'done', 'cancelled', 'failed')),
  fault text,
  digest text,
  made_at timestamptz(3) not null default now(),
  ended_at timestamptz(3)
);
create index studies_by_revision on studies (revision_id);
create index studies_waiting on studies (account_id) where state in ('asked', 'paused');

-- A stretch of a study as its columns lie in memory, one behind the other: numbers that nothing makes shorter.
create table study_chunks (
  study_id uuid not null references studies (id) on delete cascade,
  number integer not null check (number >= 0),
  columns bytea not null,
  seconds real not null,
  worker text not null,
  made_at timestamptz(3) not null default clock_timestamp(),
  primary key (study_id, number)
);
alter table study_chunks alter column columns set storage external;

-- Who works on studies now, and by which names it holds its jobs: what a worker that died had in hand goes to another.
create table study_workers (
  id uuid primary key,
  host text not null,
  program text not null,
  slots text[] not null,
  seen_at timestamptz(3) not null default clock_timestamp()
);

create trigger studies_come_live after insert on studies referencing new table as written for each statement execute function told_live('id');
create trigger studies_change_live after update on studies referencing new table as written for each statement execute function told_live('id');
create trigger study_chunks_come_live after insert on study_chunks referencing new table as written
  for each statement execute function told_live('study_id');

-- Down Migration
drop table study_workers;
drop table study_chunks;
drop table studies;
