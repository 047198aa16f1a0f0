-- Lifts as they are put together: what was typed, field by field, and the marks it names.
create table lift (
  id          uuid primary key,
  name        text not null,
  job         text not null default '',
  critical    boolean not null default false,
  is_template boolean not null default false,
  fields      jsonb not null,
  marks       text[] not null default '{}',
  state       text not null default 'planned' check (state in ('planned', 'ready', 'out', 'done')),
  version     integer not null default 1,
  made_by     uuid not null references person,
  made_at     timestamptz not null,
  changed_by  uuid not null references person,
  changed_at  timestamptz not null
);
create index lift_open_by_mark on lift using gin (marks) where state <> 'done' and not is_template;
create index lift_newest on lift (is_template, changed_at desc);

-- What was done with a lift: checked, signed, weighed, tried, handed out, ended. What was checked or signed holds for the version it was done on.
create table lift_record (
  id           uuid primary key,
  lift_id      uuid not null references lift,
  kind         text not null check (kind in ('checked', 'signed', 'weighed', 'trial', 'issued', 'ended')),
  lift_version integer not null,
  data         jsonb not null,
  at           timestamptz not null,
  by_person    uuid not null references person
);
create index lift_record_by_lift on lift_record (lift_id, at);

-- Gear in somebody's hands: handed out to a job, and given back.
create table issue (
  id            uuid primary key,
  piece_id      uuid not null references piece,
  lift_id       uuid references lift,
  holder        text not null check (length(holder) > 0),
  job           text not null,
  expected_back date,
  at            timestamptz not null,
  by_person     uuid not null references person
);
create index issue_by_piece on issue (piece_id, at desc);
create table give_back (
  issue_id  uuid primary key references issue,
  doubt     text,
  at        timestamptz not null,
  by_person uuid not null references person
);
alter table piece add column issue_id uuid references issue;
create index piece_out on piece (issue_id) where issue_id is not null;

-- What somebody is to be told.
create table notice (
  id        bigint generated always as identity primary key,
  person_id uuid not null references person,
  words     text not null,
  link      text not null,
  at        timestamptz not null,
  seen_at   timestamptz
);
create index notice_open on notice (person_id, id) where seen_at is null;

do $$
declare t text;
begin
  foreach t in array array['lift_record', 'issue', 'give_back'] loop
    execute format('create trigger %I_is_append_only before update or delete on %I for each row execute function refuse_change()', t, t);
    execute format('create trigger %I_is_never_emptied before truncate on %I for each statement execute function refuse_change()', t, t);
  end loop;
end $$;
