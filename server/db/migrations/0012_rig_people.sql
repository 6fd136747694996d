-- Up Migration

-- Who works on a rig that is for some people only: everybody else watches it. A rig without a row is everybody's, by their roles.
create table rig_people (
  rig_id uuid not null,
  account_id uuid not null references accounts (id),
  primary key (rig_id, account_id)
);
create index rig_people_by_account on rig_people (account_id);

-- Down Migration
drop table rig_people;
