-- Rounds: what hangs in a store against what should, or a search for chosen pieces. A closed one keeps its list as it was.
create table round (
  id        uuid primary key,
  store_id  int references store,
  name      text not null,
  begun_at  timestamptz not null,
  begun_by  uuid not null references person,
  closed_at timestamptz,
  closed_by uuid references person,
  standing  jsonb
);
create unique index round_under_way on round (store_id) where closed_at is null;
create table round_piece (
  round_id uuid not null references round,
  piece_id uuid not null references piece,
  primary key (round_id, piece_id)
);
create table round_sight (
  id        bigint generated always as identity primary key,
  round_id  uuid not null references round,
  scanned   text not null,
  piece_id  uuid references piece,
  peg       text not null,
  at        timestamptz not null,
  by_person uuid not null references person
);
create index round_sight_of_round on round_sight (round_id, id);

-- First steps of a role stand on the wall until they are done or taken away.
alter table person add column shows_steps boolean not null default true;
create index ledger_by_actor on ledger (actor, kind);
