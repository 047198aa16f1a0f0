-- The site lies somewhere in time: its day turns at its own midnight.
alter table site add column time_zone text not null default 'UTC';

-- A season's pattern is kept by its code, not by its place in a list.
update site set season_scheme = jsonb_set(season_scheme, '{marks}', (
  select jsonb_agg(m || jsonb_build_object('pattern', (array['plain', 'two-bands', 'dots', 'slant', 'checks', 'ring'])[(m->>'pattern')::int + 1]) order by n)
  from jsonb_array_elements(season_scheme->'marks') with ordinality as marks (m, n)
  where jsonb_typeof(m->'pattern') = 'number'))
where jsonb_typeof(season_scheme->'marks'->0->'pattern') = 'number';

-- Entries say by which form they were brought to one text before they were hashed: 1 as the first were, 2 by RFC 8785.
alter table ledger add column form smallint not null default 1 check (form in (1, 2));

-- The life of a lift: checked and waiting for a signature, tried, called off.
alter table lift drop constraint lift_state_check;
alter table lift add constraint lift_state_check check (state in ('planned', 'checked', 'ready', 'out', 'tried', 'done', 'called-off'));
alter table lift_record drop constraint lift_record_kind_check;
alter table lift_record add constraint lift_record_kind_check check (kind in ('checked', 'signed', 'weighed', 'trial', 'issued', 'ended', 'called-off'));
drop index lift_open_by_mark;
create index lift_open_by_mark on lift using gin (marks) where state not in ('done', 'called-off') and not is_template;

-- A lift checked on its plan as it stands, not signed yet, waits for its signature.
update lift l set state = 'checked'
where l.state = 'planned' and exists (select from lift_record r where r.lift_id = l.id and r.kind = 'checked' and r.lift_version = l.version);
