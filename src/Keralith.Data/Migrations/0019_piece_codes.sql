-- Further codes a piece carries beside its label. One that came off stays readable and may lead elsewhere from then on.
create table piece_code (
  id         uuid primary key,
  piece_id   uuid not null references piece,
  code       text not null,
  at         timestamptz not null,
  by_person  uuid not null references person,
  removed_at timestamptz
);
create unique index piece_code_in_use on piece_code (code) where removed_at is null;
create index piece_code_of_piece on piece_code (piece_id);
