-- One site; its rule books and policies.
create table site (
  id            smallint primary key default 1 check (id = 1),
  name          text not null,
  rule_books    text[] not null check (cardinality(rule_books) > 0),
  watch_share   numeric not null default 0.75 check (watch_share > 0 and watch_share <= 1),
  due_notice    integer not null default 30 check (due_notice between 0 and 365),
  one_may_do_both boolean not null default false,
  demo          boolean not null default false
);

create table store (
  id       integer generated always as identity primary key,
  name     text not null unique,
  about    text not null default '',
  position integer not null
);

create table person (
  id            uuid primary key,
  username      text not null unique,
  name          text not null,
  role          text not null check (role in ('crew', 'stores', 'trainee', 'inspector', 'qualified', 'admin', 'auditor')),
  password_hash text not null,
  failed        integer not null default 0,
  locked_until  timestamptz
);

-- A piece as it stands now. State, due dates and last verdict are Core's answers, kept in the transaction that adds the fact.
create table piece (
  id               uuid primary key,
  mark             text not null unique,
  family           text not null,
  serial           text,
  maker            text,
  model            text,
  attributes       jsonb not null,
  rated_load       text,
  design_factor    numeric check (design_factor > 0),
  rated_for        text,
  tag_entries      text[] not null default '{}',
  service_class    text not null default 'normal' check (service_class in ('normal', 'heavy', 'severe')),
  in_service_since date,
  store_id         integer not null references store,
  peg              text not null default '',
  state            text not null check (state in ('new', 'in-service', 'held', 'condemned', 'destroyed')),
  verdict          text check (verdict in ('fit', 'watch', 'hold', 'remove')),
  open_holds       integer not null default 0 check (open_holds >= 0),
  periodic_due     date,
  frequent_due     date,
  registered_at    timestamptz not null,
  version          integer not null default 1
);
create index piece_by_store on piece (store_id, peg, mark);
create index piece_by_serial on piece (upper(serial));
create index piece_by_due on piece (periodic_due) where state in ('in-service', 'held');
create index piece_held on piece (state) where state in ('held', 'condemned');

-- The figure when new of one measure on one part. The newest counts; the older stay readable.
create table baseline (
  id        bigint generated always as identity primary key,
  piece_id  uuid not null references piece,
  part      text not null,
  criterion text not null,
  value     text not null,
  basis     text not null check (basis in ('new', 'catalogue', 'twin', 'provisional')),
  links     integer check (links > 0),
  set_at    timestamptz not null,
  set_by    uuid not null references person
);
create index baseline_by_piece on baseline (piece_id, part, criterion, id);

create table inspection (
  id                uuid primary key,
  piece_id          uuid not null references piece,
  kind              text not null check (kind in ('initial', 'frequent', 'periodic', 'return', 'after-event')),
  inspected_on      date not null,
  signed_at         timestamptz not null,
  signed_by         uuid not null references person,
  verdict           text not null check (verdict in ('fit', 'watch', 'hold', 'remove')),
  complete          boolean not null,
  catalogue_version text not null,
  case_document     text not null,
  verdict_document  text not null,
  notes             jsonb not null default '{}'
);
create index inspection_by_piece on inspection (piece_id, signed_at desc);

create table draft (
  id         uuid primary key,
  piece_id   uuid not null references piece,
  kind       text not null check (kind in ('initial', 'frequent', 'periodic', 'return', 'after-event')),
  started_by uuid not null references person,
  started_at timestamptz not null,
  saved_by   uuid not null references person,
  saved_at   timestamptz not null,
  version    integer not null default 1
);
create unique index draft_one_of_a_kind on draft (piece_id, kind);

create table draft_answer (
  draft_id    uuid not null references draft on delete cascade,
  part        text not null,
  criterion   text not null,
  answer      text,
  value       text,
  shortest    text,
  uncertainty text,
  note        text,
  saved_by    uuid not null references person,
  saved_at    timestamptz not null,
  primary key (draft_id, part, criterion)
);

create table hold (
  id            uuid primary key,
  piece_id      uuid not null references piece,
  cause         text not null check (cause in ('doubt', 'marking', 'verdict-hold', 'verdict-remove', 'event')),
  reason        text not null check (length(reason) > 0),
  inspection_id uuid references inspection,
  placed_at     timestamptz not null,
  placed_by     uuid not null references person
);
create index hold_by_piece on hold (piece_id, placed_at);

create table release (
  hold_id     uuid primary key references hold,
  reason      text not null check (length(reason) > 0),
  released_at timestamptz not null,
  released_by uuid not null references person
);

create table retag (
  id        uuid primary key,
  piece_id  uuid not null references piece,
  proof     text not null check (length(proof) > 0),
  fitted_by text not null,
  at        timestamptz not null,
  by_person uuid not null references person
);

create table disposal (
  id        uuid primary key,
  piece_id  uuid not null references piece,
  step      text not null check (step in ('condemned', 'destroyed')),
  reason    text not null,
  method    text,
  witness   uuid references person,
  at        timestamptz not null,
  by_person uuid not null references person,
  unique (piece_id, step),
  check (step <> 'destroyed' or (method is not null and witness is not null and witness <> by_person))
);

-- Client-made ids of what was submitted: the same twice is one record.
create table submission (
  id uuid primary key,
  at timestamptz not null
);

create table ledger (
  number   bigint primary key,
  at       timestamptz not null,
  actor    text not null,
  kind     text not null,
  subject  text not null,
  data     text not null,
  previous bytea not null check (length(previous) = 32),
  hash     bytea not null unique check (length(hash) = 32)
);
create index ledger_by_subject on ledger (subject, number desc);

-- Keys that seal cookies and forms: in the database, so that any node reads them.
create table protection_key (
  id  text primary key,
  xml text not null
);

create function refuse_change() returns trigger language plpgsql as $$
begin
  raise exception 'signed records are never changed or deleted (table %)', tg_table_name using errcode = 'restrict_violation';
end $$;

do $$
declare t text;
begin
  foreach t in array array['inspection', 'hold', 'release', 'retag', 'disposal', 'ledger', 'baseline'] loop
    execute format('create trigger %I_is_append_only before update or delete on %I for each row execute function refuse_change()', t, t);
    execute format('create trigger %I_is_never_emptied before truncate on %I for each statement execute function refuse_change()', t, t);
  end loop;
end $$;

-- What is retired stays retired, whatever a program asks for.
create function refuse_return() returns trigger language plpgsql as $$
begin
  if (old.state = 'destroyed' and new.state <> 'destroyed') or (old.state = 'condemned' and new.state not in ('condemned', 'destroyed')) or old.mark <> new.mark then
    raise exception 'a retired piece never comes back and a mark never changes (%)', old.mark using errcode = 'restrict_violation';
  end if;
  return new;
end $$;
create trigger piece_stays_retired before update on piece for each row execute function refuse_return();
create trigger piece_is_never_deleted before delete on piece for each row execute function refuse_change();
