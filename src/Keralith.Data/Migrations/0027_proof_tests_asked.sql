-- Proof tests asked again and again: by makers of their gear, by sites of families. The newest of its kind counts; one
-- without months withdraws it.
create table proof_ask (
  id      bigint generated always as identity primary key,
  site_id integer not null,
  maker   text not null default '',
  model   text not null default '',
  family  text not null default '',
  months  integer check (months between 1 and 120),
  reason  text not null check (length(reason) > 0),
  set_at  timestamptz not null,
  set_by  uuid not null references person,
  check (maker <> '' or family <> ''),
  check (maker <> '' or model = '')
);
create index proof_ask_newest on proof_ask ((case when maker = '' then site_id end), lower(maker), lower(model), family, id desc);
create trigger proof_ask_is_append_only before update or delete on proof_ask for each row execute function refuse_change();
create trigger proof_ask_is_never_emptied before truncate on proof_ask for each statement execute function refuse_change();

-- The day entered by hand that stood when a test was recorded: the test takes its place.
alter table proof_test add column renews date;

-- How long a piece's proof test holds good, derived like its due dates; until a rule is set that is the day entered.
alter table piece add column proof_due date, add column proof_lacks boolean not null default false;
update piece set proof_due = (details->>'proofTestDue')::date
where details->>'proofTestDue' ~ '^\d{4}-((0[1-9]|1[0-2])-(0[1-9]|1\d|2[0-8])|(0[13-9]|1[0-2])-(29|30)|(0[13578]|1[02])-31)$';
update piece set proof_due = (details->>'proofTestDue')::date
where details->>'proofTestDue' ~ '^(19|20|21)(0[48]|[2468][048]|[13579][26])-02-29$|^2000-02-29$';
create index piece_with_a_day on piece (id)
  where proof_lacks or proof_due is not null or details ? 'discardOn' or calibration_due is not null;
