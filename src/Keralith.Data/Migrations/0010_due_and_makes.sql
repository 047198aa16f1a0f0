-- When the first of its inspections runs out, as a column: what is due is counted from the index alone.
alter table piece add column due_on date generated always as (least(periodic_due, frequent_due)) stored;
drop index piece_by_due;
create index piece_by_due on piece (due_on, store_id, family, last_by) where state in ('in-service', 'held');

-- Everything that what is marked on a piece is judged by, as one key: pieces of one make are judged once, however many hang on a wall.
create function make_of(family text, attributes jsonb, rated_load text, design_factor numeric, tag_read boolean, legibility text, tag_entries text[], surroundings jsonb) returns uuid
  language sql immutable parallel safe as $$
  select md5(jsonb_build_array(family, attributes, rated_load, design_factor, tag_read, legibility, tag_entries, surroundings)::text)::uuid
$$;
alter table piece add column make uuid generated always as (make_of(family, attributes, rated_load, design_factor, tag_read, details->>'legibility', tag_entries, surroundings)) stored;
