-- Up Migration

-- Passkeys (WebAuthn): the public half of a key that a device holds for its person. They go with the account's name.
create table passkeys (
  id text primary key check (length(id) <= 1400),
  account_id uuid not null references accounts (id),
  public_key bytea not null,
  -- How often it was used, as the device says: one that falls back is a copy.
  uses bigint not null,
  transports text[] not null,
  name text not null,
  -- The host name it is for: a browser offers it nowhere else.
  host text not null,
  made_at timestamptz(3) not null default now(),
  used_at timestamptz(3)
);
create index passkeys_by_account on passkeys (account_id);

-- Down Migration
drop table passkeys;
