-- Who is signed in stands here: ended, it is ended on the next request, on every node. Of its secret only a hash is kept.
create table sign_in (
  hash      bytea primary key check (length(hash) = 32),
  person_id uuid not null references person,
  address   text not null,
  begun_at  timestamptz not null,
  seen_at   timestamptz not null,
  ended_at  timestamptz
);
create index sign_in_by_person on sign_in (person_id, address) where ended_at is null;

-- Somebody who left signs in no more, nor do their programs and feeds; records go on naming them.
alter table person add column disabled_at timestamptz;

-- Tries to sign in, counted before a password is looked at.
create table attempt (
  key   text primary key,
  tries integer not null,
  since timestamptz not null
);
alter table person drop column failed, drop column locked_until;

-- A password changed or a person disabled ends what was signed in with it, whoever changed it and by what path.
create function end_sign_ins() returns trigger language plpgsql as $$
begin
  if new.password_hash is distinct from old.password_hash or (new.disabled_at is not null and old.disabled_at is null) then
    update sign_in set ended_at = clock_timestamp() where person_id = new.id and ended_at is null;
  end if;
  return new;
end $$;
create trigger person_ends_sign_ins after update on person for each row execute function end_sign_ins();
