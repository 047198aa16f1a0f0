-- The private address a person's calendar reads what is due from; only its hash is kept. A new one ends the old.
create table due_feed (
  person_id uuid primary key references person,
  hash      bytea not null unique check (length(hash) = 32),
  made_at   timestamptz not null
);

-- What happened to gear beyond its use, and every piece it happened to.
create table gear_event (
  id        uuid primary key,
  kind      text not null check (kind in ('overload', 'shock', 'fire', 'chemical', 'collision', 'lightning')),
  happened  date not null,
  what      text not null check (length(what) > 0),
  at        timestamptz not null,
  by_person uuid not null references person
);
create table gear_event_piece (
  event_id uuid not null references gear_event,
  piece_id uuid not null references piece,
  primary key (event_id, piece_id)
);
create index gear_event_by_piece on gear_event_piece (piece_id);

do $$
declare t text;
begin
  foreach t in array array['gear_event', 'gear_event_piece'] loop
    execute format('create trigger %I_is_append_only before update or delete on %I for each row execute function refuse_change()', t, t);
    execute format('create trigger %I_is_never_emptied before truncate on %I for each statement execute function refuse_change()', t, t);
  end loop;
end $$;
