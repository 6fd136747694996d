-- Up Migration

-- A study is of samples or of a sweep: how many rows it has in all, how many columns, and of a sweep how its points lie in them.
alter table studies add column total integer check (total > 0);
alter table studies add column width smallint check (width > 0);
alter table studies add column layout jsonb;
-- What was kept so far drew samples, and no shots.
update studies set question = question || '{"of": "samples", "withShots": false}', total = (question ->> 'samples')::integer,
  width = jsonb_array_length(question -> 'outputs');
alter table studies alter column total set not null;
alter table studies alter column width set not null;

-- Down Migration
delete from studies where question ->> 'of' <> 'samples';
update studies set question = question - 'of' - 'withShots';
alter table studies drop column layout;
alter table studies drop column width;
alter table studies drop column total;
