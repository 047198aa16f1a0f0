-- What witnesses say of a piece that failed.
create table witness (
  id        uuid primary key,
  piece_id  uuid not null references piece,
  who       text not null check (length(who) > 0),
  said_on   date not null,
  words     text not null check (length(words) > 0),
  at        timestamptz not null,
  by_person uuid not null references person
);
create index witness_by_piece on witness (piece_id, at desc);
create trigger witness_is_append_only before update or delete on witness for each row execute function refuse_change();
create trigger witness_is_never_emptied before truncate on witness for each statement execute function refuse_change();

-- What else runs out: the few pieces that carry such a day.
create index piece_that_runs_out on piece (id)
  where details ? 'proofTestDue' or details ? 'discardOn' or calibration_due is not null;
