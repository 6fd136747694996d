-- Up Migration

-- People of a workshop that other devices come into. The id stays for ever, in the audit and in runs; the name goes on wish.
create table accounts (
  id uuid primary key,
  name text check (length(name) between 1 and 60),
  -- Null until it is set, and of a person whose name was taken out.
  password text,
  roles text[] not null,
  made_at timestamptz(3) not null default date_trunc('milliseconds', now()),
  ended_at timestamptz(3)
);
create unique index accounts_by_name on accounts (lower(name));

-- What somebody is signed in on.
create table devices (
  id uuid primary key,
  account_id uuid not null references accounts (id),
  name text not null check (length(name) between 1 and 60),
  for_good boolean not null,
  address text not null,
  made_at timestamptz(3) not null default date_trunc('milliseconds', now()),
  seen_at timestamptz(3) not null default date_trunc('milliseconds', now()),
  revoked_at timestamptz(3)
);
create index devices_by_account on devices (account_id);

-- Links that are taken up once: the sum of the secret, never the secret.
create table links (
  digest bytea primary key,
  kind text not null check (kind in ('account', 'password', 'device')),
  roles text[] not null default '{}',
  account_id uuid references accounts (id),
  made_by uuid references accounts (id),
  made_at timestamptz(3) not null default date_trunc('milliseconds', now()),
  expires_at timestamptz(3) not null,
  used_at timestamptz(3),
  check ((kind = 'account') = (account_id is null))
);

-- As connect-pg-simple wants it.
create table sessions (
  sid varchar primary key,
  sess json not null,
  expire timestamptz(6) not null
);
create index sessions_by_end on sessions (expire);

-- As rate-limiter-flexible wants it.
create table sign_in_limits (
  key varchar(255) primary key,
  points integer not null default 0,
  expire bigint
);

-- Who did what, added to and never changed. Each entry holds the sum of the one before, over ids alone: a gap or a change shows, and a name can go.
create table audit (
  number bigint primary key,
  at timestamptz(3) not null,
  who uuid,
  device uuid,
  act text not null check (act ~ '^[a-z0-9 .-]{1,80}$'),
  about text check (about ~ '^[\w.:-]{1,80}$'),
  what jsonb,
  before bytea not null,
  hash bytea not null
);
create index audit_by_who on audit (who, number);

create function chain_audit() returns trigger language plpgsql as $$
declare
  last record;
begin
  -- One after the other, each behind the last that is committed.
  perform pg_advisory_xact_lock(7218055);
  select number, hash into last from audit order by number desc limit 1;
  new.number := coalesce(last.number, 0) + 1;
  new.at := date_trunc('milliseconds', clock_timestamp());
  new.before := coalesce(last.hash, ''::bytea);
  new.hash := sha256(new.before || convert_to(concat_ws(E'\n', new.number::text, (extract(epoch from new.at) * 1000)::bigint::text,
    coalesce(new.who::text, '-'), coalesce(new.device::text, '-'), new.act, coalesce(new.about, '-'), coalesce(new.what::text, '-')), 'UTF8'));
  return new;
end $$;
create trigger audit_chained before insert on audit for each row execute function chain_audit();

create function audit_stays() returns trigger language plpgsql as $$
begin
  raise exception 'the audit is added to and never changed';
end $$;
create trigger audit_stays before update or delete or truncate on audit for each statement execute function audit_stays();

-- Whose device an event of a run came from; null in a workshop without accounts.
alter table run_events add column by_account uuid;

-- Down Migration
alter table run_events drop column by_account;
drop table audit;
drop function audit_stays();
drop function chain_audit();
drop table sign_in_limits, sessions, links, devices, accounts;
