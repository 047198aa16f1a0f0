-- Who may sign for which group of families, and until when; the newest counts. Who could sign before may for another year.
create table authorisation (
  id        bigint generated always as identity primary key,
  person_id uuid not null references person,
  family_group text not null check (family_group in ('sling', 'hardware', 'hoist', 'below-hook')),
  until     date not null,
  set_at    timestamptz not null,
  set_by    uuid not null references person
);
create index authorisation_newest on authorisation (person_id, family_group, id desc);
insert into authorisation (person_id, family_group, until, set_at, set_by)
select p.id, g, current_date + 365, now(), p.id from person p, unnest(array['sling', 'hardware', 'hoist', 'below-hook']) g where p.role in ('inspector', 'qualified');

-- What readings are taken with; the newest row of a name counts.
create table instrument (
  id              uuid primary key,
  name            text not null check (length(name) > 0),
  uncertainty     text not null,
  calibration_due date not null,
  set_at          timestamptz not null,
  set_by          uuid not null references person
);
create index instrument_newest on instrument (lower(name), set_at desc);
create table instrument_in_hand (
  person_id     uuid not null references person,
  day           date not null,
  instrument_id uuid not null references instrument,
  primary key (person_id, day)
);

-- A trainee's draft offered for countersignature, or handed back with a remark; what each reading was taken with.
alter table draft
  add column offered_by uuid references person,
  add column offered_at timestamptz,
  add column inspected_on date,
  add column remark text,
  add column remark_by uuid references person;
alter table draft_answer
  add column instrument_id uuid references instrument,
  add column at_x numeric,
  add column at_y numeric;

-- Who inspected where another countersigned; a verdict stricter than the rules; an earlier next one; how long it took, on how many parts.
alter table inspection
  add column made_by uuid references person check (made_by <> signed_by),
  add column stricter text,
  add column next_by date,
  add column instruments jsonb not null default '[]',
  add column minutes integer,
  add column parts_touched integer,
  add column pins jsonb not null default '{}';

do $$
declare t text;
begin
  foreach t in array array['authorisation', 'instrument'] loop
    execute format('create trigger %I_is_append_only before update or delete on %I for each row execute function refuse_change()', t, t);
    execute format('create trigger %I_is_never_emptied before truncate on %I for each statement execute function refuse_change()', t, t);
  end loop;
end $$;
