-- Finding by fragments and misspellings: what is written of a piece, as one text with its trigrams.
create extension if not exists pg_trgm;
alter table piece add column sought text not null
  generated always as (upper(mark || ' ' || coalesce(serial, '') || ' ' || coalesce(maker, '') || ' ' || coalesce(model, '') || ' ' || replace(family, '-', ' ') || ' ' || peg)) stored;
create index piece_sought on piece using gin (sought gin_trgm_ops);
