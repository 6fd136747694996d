-- Up Migration

-- Whoever watches is told that something was written, of what kind and of which rig, run or campaign: never what. One line for each statement,
-- so that a restore of a workshop is told in a few; of more than twenty rows none is named.
create function told_live() returns trigger language plpgsql as $$
declare
  ids text[];
begin
  execute format('select array_agg(id) from (select distinct %I::text as id from written limit 21) as few', tg_argv[0]) into ids;
  if ids is null then
    return null;
  end if;
  perform pg_notify('live', json_build_object('of', tg_table_name, 'ids', case when cardinality(ids) > 20 then '{}' else ids end)::text);
  return null;
end $$;

do $$
declare
  told record;
begin
  for told in select * from (values
    ('rigs', 'id', true), ('revisions', 'rig_id', true), ('runs', 'id', false), ('run_events', 'run_id', false), ('shots', 'id', true),
    ('shot_files', 'shot_id', false), ('campaigns', 'id', false), ('campaign_entries', 'campaign_id', false), ('checks', 'id', false),
    ('parts', 'id', true), ('lots', 'id', true), ('backups', 'id', false), ('rig_heads', 'rig_id', true)) as t(name, id, changes)
  loop
    if not exists (select from information_schema.columns where table_name = told.name and column_name = told.id and table_schema = 'public') then
      raise exception 'table % has no column %', told.name, told.id;
    end if;
    execute format('create trigger %I after insert on %I referencing new table as written for each statement execute function told_live(%L)',
      told.name || '_come_live', told.name, told.id);
    if told.changes then
      execute format('create trigger %I after update on %I referencing new table as written for each statement execute function told_live(%L)',
        told.name || '_change_live', told.name, told.id);
    end if;
  end loop;
  create trigger shot_files_go_live after delete on shot_files referencing old table as written
    for each statement execute function told_live('shot_id');
end $$;

-- Down Migration
drop function told_live() cascade;
