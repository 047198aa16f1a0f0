-- Of two sources of a lift's figures the harsher counts; a qualified person sets one aside for one version of its plan.
alter table lift_record drop constraint lift_record_kind_check;
alter table lift_record add constraint lift_record_kind_check
  check (kind in ('checked', 'signed', 'weighed', 'set-aside', 'trial', 'issued', 'ended', 'called-off'));

-- The share of a crane above which a lift is critical is the site's to say; a plan may only be stricter.
alter table site add column critical_share numeric not null default 0.75 check (critical_share > 0 and critical_share <= 0.75);

-- Whose hand an answer of a signed inspection is, where it is not whoever made it: by person, each part and criterion.
alter table inspection add column answer_hands jsonb not null default '{}';
create or replace view standing_inspection as
  select i.* from inspection i where not exists (select from supersession s where s.inspection_id = i.id);

-- What would be taken for a mark is found by an index.
create index piece_by_look on piece (translate(replace(mark, '-', ''), 'OIL', '011'));

-- A token of one's own ends, and acts with no more than the roles it was made with.
alter table api_token add column ends_on date, add column roles text[];
