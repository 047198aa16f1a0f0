-- The register grown up: tags over time, lots, seasons, gear taken over, files, moves, kits, parts replaced, imports, views.
alter table piece
  add column batch text,
  add column tag_read boolean not null default true,
  add column details jsonb not null default '{}',
  add column lot_count integer check (lot_count >= 0),
  add column calibration_due date,
  add column season_for date,
  add column carried boolean not null default false,
  add column touched date,
  add column rated_kg numeric;
alter table piece drop constraint piece_state_check;
alter table piece add constraint piece_state_check check (state in ('new', 'in-service', 'held', 'condemned', 'destroyed', 'missing'));
create index piece_by_batch on piece (lower(maker), lower(model), lower(batch));

-- The season scheme of the site, its other policies.
alter table site
  add column season_scheme jsonb,
  add column no_chain_hoisting boolean not null default false,
  add column back_up_sling boolean not null default false,
  add column capacity_colours boolean not null default false,
  add column two_to_destroy boolean not null default true;

-- What a marking said, each time it was entered; the newest counts, the older stay readable.
create table tag_record (
  id            bigint generated always as identity primary key,
  piece_id      uuid not null references piece,
  rated_load    text,
  design_factor numeric,
  rated_for     text,
  entries       text[] not null,
  words         jsonb not null,
  why           text not null,
  at            timestamptz not null,
  by_person     uuid not null references person
);
create index tag_record_by_piece on tag_record (piece_id, id desc);

-- Files of a piece: certificates, reports, photographs. Pictures are made anew from what was sent.
create table attachment (
  id         uuid primary key,
  kind       text not null check (kind in ('conformity', 'proof-test', 'report', 'photo', 'tag-photo', 'drawing', 'other')),
  title      text not null,
  dated      date,
  media_type text not null check (media_type in ('application/pdf', 'image/jpeg')),
  bytes      bytea not null,
  small      bytea,
  sha256     bytea not null,
  at         timestamptz not null,
  by_person  uuid not null references person
);
create table piece_attachment (
  piece_id      uuid not null references piece,
  attachment_id uuid not null references attachment,
  primary key (piece_id, attachment_id)
);
create index piece_attachment_by_file on piece_attachment (attachment_id);

-- The last report of gear taken over; accepted when its file is attached and somebody who may has looked at it.
create table carried_over (
  piece_id      uuid primary key references piece,
  last_periodic date not null,
  inspector     text not null,
  evidence      text not null,
  at            timestamptz not null,
  by_person     uuid not null references person
);
create table carried_accepted (
  piece_id      uuid primary key references carried_over,
  attachment_id uuid not null references attachment,
  at            timestamptz not null,
  by_person     uuid not null references person
);

create table season_mark (
  id         uuid primary key,
  piece_id   uuid not null references piece,
  season_for date not null,
  letter     text not null,
  at         timestamptz not null,
  by_person  uuid not null references person
);
create index season_mark_by_piece on season_mark (piece_id, at desc);

-- A lot's pieces, seen and rejected, split out under a mark of their own, or scrapped by count.
create table lot_change (
  id        uuid primary key,
  piece_id  uuid not null references piece,
  kind      text not null check (kind in ('counted', 'split', 'scrapped', 'added')),
  seen      integer not null check (seen >= 0),
  rejected  integer not null default 0 check (rejected >= 0),
  left_over integer not null check (left_over >= 0),
  became    uuid references piece,
  reason    text not null,
  at        timestamptz not null,
  by_person uuid not null references person
);
create index lot_change_by_piece on lot_change (piece_id, at desc);

create table part_change (
  id        uuid primary key,
  piece_id  uuid not null references piece,
  part      text not null,
  what      text not null,
  fitted_by text not null,
  reason    text not null,
  at        timestamptz not null,
  by_person uuid not null references person
);
create index part_change_by_piece on part_change (piece_id, at desc);

-- Where it hung, where it went, lost and found.
create table move (
  id         uuid primary key,
  piece_id   uuid not null references piece,
  kind       text not null check (kind in ('moved', 'lost', 'found')),
  from_place text not null,
  to_place   text not null,
  reason     text not null default '',
  at         timestamptz not null,
  by_person  uuid not null references person
);
create index move_by_piece on move (piece_id, at desc);

create table saved_view (
  id        uuid primary key,
  person_id uuid not null references person,
  name      text not null,
  query     text not null,
  unique (person_id, name)
);

-- A file sent to be imported, what each column means, and how far it has come.
create table import_file (
  id        uuid primary key,
  name      text not null,
  bytes     bytea not null,
  mapping   jsonb not null,
  at        timestamptz not null,
  by_person uuid not null references person,
  state     text not null default 'waiting' check (state in ('waiting', 'landing', 'landed', 'refused')),
  partial   boolean not null default false,
  done      integer not null default 0,
  total     integer not null default 0,
  outcome   text
);

do $$
declare t text;
begin
  foreach t in array array['tag_record', 'attachment', 'piece_attachment', 'carried_over', 'carried_accepted', 'season_mark', 'lot_change', 'part_change', 'move'] loop
    execute format('create trigger %I_is_append_only before update or delete on %I for each row execute function refuse_change()', t, t);
    execute format('create trigger %I_is_never_emptied before truncate on %I for each statement execute function refuse_change()', t, t);
  end loop;
end $$;

-- What is on record of markings so far begins their history.
insert into tag_record (piece_id, rated_load, design_factor, rated_for, entries, words, why, at, by_person)
select p.id, p.rated_load, p.design_factor, p.rated_for, p.tag_entries, '{}', 'on record', p.registered_at, (select id from person order by username limit 1)
from piece p where exists (select from person);
