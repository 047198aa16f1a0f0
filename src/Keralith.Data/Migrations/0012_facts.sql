-- Facts that a verdict stands on change by a record of their own; rules that became stricter stop gear at once.
alter table hold drop constraint hold_cause_check;
alter table hold add constraint hold_cause_check
  check (cause in ('doubt', 'marking', 'verdict-hold', 'verdict-remove', 'event', 'facts-changed', 'rules-changed'));

create table fact_change (
  id            uuid primary key,
  piece_id      uuid not null references piece,
  changes       jsonb not null,
  why           text not null,
  attachment_id uuid references attachment,
  at            timestamptz not null,
  by_person     uuid not null references person
);
create index fact_change_by_piece on fact_change (piece_id, at);
create trigger fact_change_is_append_only before update or delete on fact_change for each row execute function refuse_change();
create trigger fact_change_is_never_emptied before truncate on fact_change for each statement execute function refuse_change();

-- The catalogue the register was last judged by: a newer one judges it again before anything else is done.
alter table site add column catalogue_version text;

-- What the program itself does, such as judging again under a newer catalogue, is recorded under a name of its own; it
-- has no password and never signs in.
insert into person (id, username, name, role, password_hash)
values ('00000000-0000-7000-8000-00000000c0de', 'keralith', 'Keralith itself', 'auditor', '');
