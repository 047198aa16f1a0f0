-- Heads of the ledger, kept beside it: a ledger cut short or emptied no longer meets them.
create table ledger_head (
  number    bigint not null check (number > 0),
  hash      bytea not null check (length(hash) = 32),
  at        timestamptz not null,
  signature bytea not null,
  primary key (number, at)
);
create trigger ledger_head_is_append_only before update or delete on ledger_head for each row execute function refuse_change();
create trigger ledger_head_is_never_emptied before truncate on ledger_head for each statement execute function refuse_change();

-- Pieces whose records do not verify: they may not be used until they do.
create table distrust (
  piece_id uuid primary key references piece,
  why      text not null,
  at       timestamptz not null
);
