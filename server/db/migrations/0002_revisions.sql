-- Up Migration

-- Which version of the rig file a document was written by, so that older ones are brought up when they are read.
alter table rigs add column file_version integer not null default 1 check (file_version > 0);

create table revisions (
  id uuid primary key,
  rig_id uuid not null references rigs (id) on delete restrict,
  number integer not null check (number > 0),
  -- The version of the rig that this revision holds.
  version integer not null check (version > 0),
  name text check (char_length(name) between 1 and 80),
  document jsonb not null,
  file_version integer not null check (file_version > 0),
  made_at timestamptz not null default now(),
  unique (rig_id, number),
  unique (rig_id, version)
);

alter table rigs add column branched_from uuid references revisions (id) deferrable initially deferred;

-- A revision is never changed and never goes: what points at it must find what it pointed at. An unnamed one may be named once.
create function revision_stays() returns trigger language plpgsql as $$
begin
  if tg_op = 'UPDATE' and old.name is null
     and (new.id, new.rig_id, new.number, new.version, new.document, new.file_version, new.made_at)
         is not distinct from (old.id, old.rig_id, old.number, old.version, old.document, old.file_version, old.made_at) then
    return new;
  end if;
  raise exception 'a revision is never changed' using errcode = 'restrict_violation';
end $$;

create trigger revision_stays before update or delete on revisions for each row execute function revision_stays();

-- Every write that was acknowledged, by the key its client made: a request that comes again gets the same answer and does nothing.
create table writes (
  key uuid primary key,
  request text not null,
  status integer,
  response jsonb,
  made_at timestamptz not null default now()
);

create index writes_by_age on writes (made_at);

-- Down Migration
drop table writes;
alter table rigs drop column branched_from;
drop table revisions;
drop function revision_stays();
alter table rigs drop column file_version;
