-- What takes the place of what.
create table replacement (
  id        uuid primary key,
  piece_id  uuid not null unique references piece,
  replaces  uuid not null unique references piece,
  at        timestamptz not null,
  by_person uuid not null references person,
  check (piece_id <> replaces)
);
create trigger replacement_is_append_only before update or delete on replacement for each row execute function refuse_change();
create trigger replacement_is_never_emptied before truncate on replacement for each statement execute function refuse_change();
