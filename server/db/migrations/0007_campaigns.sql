-- Up Migration

-- A campaign of a rig: what was asked and planned when it was begun. It is never changed.
create table campaigns (
  id uuid primary key,
  revision_id uuid not null references revisions (id) on delete restrict,
  campaign jsonb not null,
  made_at timestamptz(3) not null default now()
);
create index campaigns_by_revision on campaigns (revision_id);

-- Its book, in the order in which it was written. Nothing is ever changed or taken out.
create table campaign_entries (
  campaign_id uuid not null references campaigns (id) on delete restrict,
  number integer not null check (number > 0),
  id uuid not null unique,
  entry jsonb not null,
  received_at timestamptz(3) not null default clock_timestamp(),
  primary key (campaign_id, number)
);

-- Checks of the workshop that were made: tools, meters, interlocks.
create table checks (
  id uuid primary key,
  made jsonb not null,
  received_at timestamptz(3) not null default clock_timestamp()
);

create function book_stays() returns trigger language plpgsql as $$
begin
  raise exception 'what stands in the book is never changed' using errcode = 'restrict_violation';
end $$;

create trigger campaigns_stay before update or delete on campaigns for each row execute function book_stays();
create trigger campaign_entries_stay before update or delete on campaign_entries for each row execute function book_stays();
create trigger checks_stay before update or delete on checks for each row execute function book_stays();

-- Shots say to which campaign they belong.
create index shots_by_campaign on shots ((shot -> 'campaign' ->> 'id')) where shot -> 'campaign' ->> 'id' is not null;

-- Down Migration
drop index shots_by_campaign;
drop table checks;
drop table campaign_entries;
drop table campaigns;
drop function book_stays();
