-- What lies between a hold and scrap: away at a shop or a test bed, proof tests, recalls, evidence.
alter table piece drop constraint piece_state_check;
alter table piece add constraint piece_state_check check (state in (
  'new', 'in-service', 'held', 'condemned', 'destroyed', 'missing', 'at-repair', 'at-test'));
alter table hold drop constraint hold_cause_check;
alter table hold add constraint hold_cause_check check (cause in (
  'doubt', 'marking', 'verdict-hold', 'verdict-remove', 'event', 'facts-changed', 'rules-changed', 'returned', 'recall'));

create table away (
  id            uuid primary key,
  piece_id      uuid not null references piece,
  sent_for      text not null check (sent_for in ('repair', 'test')),
  sent_to       text not null check (length(sent_to) > 0),
  what          text not null check (length(what) > 0),
  expected_back date,
  at            timestamptz not null,
  by_person     uuid not null references person
);
create index away_by_piece on away (piece_id, at desc);
create table away_return (
  away_id      uuid primary key references away,
  note         text not null check (length(note) > 0),
  load_bearing boolean not null,
  seq          bigint not null default nextval('fact_order'),
  at           timestamptz not null,
  by_person    uuid not null references person
);
create table proof_test (
  id               uuid primary key,
  piece_id         uuid not null references piece,
  subject          text not null check (subject in ('leg', 'master-link')),
  load             text not null,
  factor           numeric not null,
  tested_on        date not null,
  made_by          text not null,
  instrument       text not null,
  calibrated_until date not null,
  certificate      text not null,
  passed           boolean not null,
  seq              bigint not null default nextval('fact_order'),
  at               timestamptz not null,
  by_person        uuid not null references person
);
create index proof_test_by_piece on proof_test (piece_id, at desc);
create table recall (
  id          uuid primary key,
  maker       text not null,
  model       text,
  batch       text,
  serial_from text,
  serial_to   text,
  since_from  date,
  since_until date,
  reason      text not null check (length(reason) > 0),
  source      text not null check (length(source) > 0),
  at          timestamptz not null,
  by_person   uuid not null references person
);
create table recall_end (
  recall_id uuid primary key references recall,
  reason    text not null check (length(reason) > 0),
  at        timestamptz not null,
  by_person uuid not null references person
);
alter table hold add column recall_id uuid references recall;
create index hold_by_recall on hold (recall_id) where recall_id is not null;
create index piece_by_maker on piece (lower(maker));
create table evidence (
  id        uuid primary key,
  piece_id  uuid not null references piece,
  locked    boolean not null,
  reason    text not null check (length(reason) > 0),
  at        timestamptz not null,
  by_person uuid not null references person
);
create index evidence_by_piece on evidence (piece_id, at desc);
alter table piece add column away_id uuid references away;
alter table piece add column locked text;

do $$
declare t text;
begin
  foreach t in array array['away', 'away_return', 'proof_test', 'recall', 'recall_end', 'evidence'] loop
    execute format('create trigger %I_is_append_only before update or delete on %I for each row execute function refuse_change()', t, t);
    execute format('create trigger %I_is_never_emptied before truncate on %I for each statement execute function refuse_change()', t, t);
  end loop;
end $$;
