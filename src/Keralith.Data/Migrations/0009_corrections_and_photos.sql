-- A wrong record stays as it was signed; what stands in its place, or that it was withdrawn, and why.
create table supersession (
  inspection_id uuid primary key references inspection,
  became        uuid unique references inspection check (became <> inspection_id),
  why           text not null check (length(why) > 0),
  at            timestamptz not null,
  by_person     uuid not null references person
);

-- A correction speaks of the piece as it was seen when the wrong record was signed, and counts from then.
alter table inspection add column seen_at timestamptz;
alter table inspection add column counts_from timestamptz generated always as (coalesce(seen_at, signed_at)) stored;
drop index inspection_last_full;
create index inspection_last_full on inspection (piece_id, counts_from desc, id) where kind not in ('frequent', 'return');

-- The records that count: neither corrected nor withdrawn.
create view standing_inspection as
  select i.* from inspection i where not exists (select from supersession s where s.inspection_id = i.id);

-- The draft of a correction stands beside any other of its kind; one for each record.
alter table draft
  add column corrects uuid unique references inspection,
  add column correction_why text check ((correction_why is null) = (corrects is null));
drop index draft_one_of_a_kind;
create unique index draft_one_of_a_kind on draft (piece_id, kind) where corrects is null;

-- Pictures of what was found, and of what a piece was held for.
create table draft_photo (
  draft_id      uuid not null references draft on delete cascade,
  part          text not null,
  criterion     text not null,
  attachment_id uuid not null references attachment,
  primary key (draft_id, attachment_id)
);
create table inspection_photo (
  inspection_id uuid not null references inspection,
  part          text not null,
  criterion     text not null,
  attachment_id uuid not null references attachment,
  primary key (inspection_id, attachment_id)
);
create table hold_photo (
  hold_id       uuid not null references hold,
  attachment_id uuid not null references attachment,
  primary key (hold_id, attachment_id)
);

-- Who inspected it last, kept with its other answers: the due list asks it of every piece.
alter table piece add column last_by uuid references person;
update piece p set last_by = (select coalesce(i.made_by, i.signed_by) from inspection i where i.piece_id = p.id order by i.signed_at desc, i.id limit 1);

do $$
declare t text;
begin
  foreach t in array array['supersession', 'inspection_photo', 'hold_photo'] loop
    execute format('create trigger %I_is_append_only before update or delete on %I for each row execute function refuse_change()', t, t);
    execute format('create trigger %I_is_never_emptied before truncate on %I for each statement execute function refuse_change()', t, t);
  end loop;
end $$;
