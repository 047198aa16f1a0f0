-- A person may hold several roles. What a program of the version before reads is the first of them: fewer rights, never more.
alter table person add column roles text[];
update person set roles = array[role];
alter table person alter column roles set not null,
  add check (roles <@ array['crew', 'stores', 'trainee', 'inspector', 'qualified', 'admin', 'auditor'] and cardinality(roles) > 0),
  drop column role;
alter table person add column role text generated always as (roles[1]) stored,
  add column mail text not null default '',
  add column added_at timestamptz,
  add column last_step bigint,
  add column factor bytea,
  add column mails boolean not null default true;

-- Where somebody is signed in, as they are told of it.
alter table sign_in add column id uuid not null default gen_random_uuid(), add column agent text not null default '';
create unique index sign_in_id on sign_in (id);

-- Addresses that work once: to set the works up, to choose a first password, to choose another. Of their secret only a
-- hash is kept.
create table one_time_link (
  hash       bytea primary key check (length(hash) = 32),
  purpose    text not null check (purpose in ('set-up', 'invitation', 'reset')),
  person_id  uuid references person,
  made_at    timestamptz not null,
  expires_at timestamptz not null,
  used_at    timestamptz,
  check ((purpose = 'set-up') = (person_id is null))
);

-- Codes that stand in for a lost second factor, each once.
create table recovery_code (
  person_id uuid not null references person,
  hash      bytea not null check (length(hash) = 32),
  used_at   timestamptz,
  primary key (person_id, hash)
);

-- Whether those who release, condemn or administer sign in with a second factor.
alter table site add column second_factor boolean not null default false;

-- A store is of a kind, may often be without network, and is closed when nothing hangs in it; what hung there names it.
alter table store
  add column kind text not null default 'rack' check (kind in ('rack', 'container', 'boat')),
  add column often_offline boolean not null default false,
  add column closed_at timestamptz;

-- Work that is done on a schedule: when it last ran and what came of it.
create table chore (
  name       text primary key,
  started_at timestamptz,
  ended_at   timestamptz,
  failed     boolean not null default false,
  said       text not null default '',
  asked_at   timestamptz
);

-- The unit a bare figure is taken in where nothing else says it; a works on record goes on with the one it had.
alter table site add column unit text not null default 'mm' check (unit in ('in', 'mm'));

-- Mails on their way: what could not be delivered is tried again.
create table mail (
  id         uuid primary key,
  username   text not null,
  name       text not null,
  address    text not null check (length(address) > 0),
  subject    text not null,
  body       text not null,
  made_at    timestamptz not null default clock_timestamp(),
  sent_at    timestamptz,
  tries      integer not null default 0,
  next_try   timestamptz not null default clock_timestamp(),
  last_fault text
);
create index mail_waiting on mail (next_try) where sent_at is null;

-- Whom the works' own directory knows: by the name it gives them, which never changes. They sign in by it alone.
alter table person add column directory_subject text unique;

-- What people are told goes to them by mail too, once, where they want it and have not seen it.
alter table notice add column mailed_at timestamptz;
update notice set mailed_at = now();
create index notice_to_mail on notice (id) where mailed_at is null;
