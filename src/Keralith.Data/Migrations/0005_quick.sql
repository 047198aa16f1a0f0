-- What is due, whichever inspection runs out first; whole stores and states without reading the rest.
drop index piece_by_due;
create index piece_by_due on piece (least(periodic_due, frequent_due)) where state in ('in-service', 'held');
create index piece_new on piece (registered_at desc) where state = 'new';

-- What the register counts by, beside what is a column already.
alter table piece
  add column colour text generated always as (attributes->>'colour') stored,
  add column rated_band smallint generated always as (width_bucket(rated_kg, array[1000, 3000, 10000]::numeric[])) stored;
