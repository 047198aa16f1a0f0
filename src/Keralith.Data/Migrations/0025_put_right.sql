-- Records found wrong, other than inspections: they stay, and say why they count no more.
create table put_right (
  id        uuid primary key,
  piece_id  uuid not null references piece,
  kind      text not null check (kind in ('hand-out', 'release', 'tag', 'move', 'proof-test', 'destruction')),
  record_id uuid not null unique,
  why       text not null check (length(why) > 0),
  right_is  text not null,
  at        timestamptz not null,
  by_person uuid not null references person
);
create index put_right_by_piece on put_right (piece_id, at desc);
create trigger put_right_is_append_only before update or delete on put_right for each row execute function refuse_change();
create trigger put_right_is_never_emptied before truncate on put_right for each statement execute function refuse_change();

-- What was not destroyed may be destroyed later.
alter table disposal drop constraint disposal_piece_id_step_key;
create index disposal_by_piece on disposal (piece_id, step);

-- Destructions that count.
create view standing_disposal as
select d.* from disposal d where not exists (select from put_right r where r.record_id = d.id);

-- What is retired stays retired: a destruction that was none leaves it condemned, and nothing else leads back.
create or replace function refuse_return() returns trigger language plpgsql as $$
begin
  if (old.state = 'destroyed' and new.state <> 'destroyed') or (old.state = 'condemned' and new.state not in ('condemned', 'destroyed')) or old.mark <> new.mark then
    if old.state = 'destroyed' and new.state = 'condemned' and old.mark = new.mark then
      if exists (select from put_right r where r.piece_id = old.id and r.kind = 'destruction') then
        return new;
      end if;
    end if;
    raise exception 'a retired piece never comes back and a mark never changes (%)', old.mark using errcode = 'restrict_violation';
  end if;
  return new;
end $$;
create index retag_by_piece on retag (piece_id);
