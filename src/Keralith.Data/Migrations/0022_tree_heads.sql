-- The ledger as a Merkle log: its signed heads, and the keys they are signed with. The private half is kept sealed.
create table head_key (
  fingerprint text primary key,
  public_pem  text not null,
  sealed      text not null,
  made_at     timestamptz not null
);
create table tree_head (
  id        bigint generated always as identity primary key,
  works     text not null,
  size      bigint not null check (size > 0),
  root      bytea not null,
  at        timestamptz not null,
  key       text not null references head_key,
  signature bytea not null
);
do $$
declare t text;
begin
  foreach t in array array['head_key', 'tree_head'] loop
    execute format('create trigger %I_is_append_only before update or delete on %I for each row execute function refuse_change()', t, t);
    execute format('create trigger %I_is_never_emptied before truncate on %I for each statement execute function refuse_change()', t, t);
  end loop;
end $$;
