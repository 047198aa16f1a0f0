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

-- Facts are numbered as they are recorded, behind the lock of their piece: what came before what is asked of the
-- number, never of a clock.
create sequence fact_order;
alter table inspection add column seq bigint, add column seen_seq bigint;
alter table hold add column seq bigint;
alter table retag add column seq bigint;
alter table baseline add column seq bigint;
alter table draft_answer add column seq bigint;
alter table fact_change add column seq bigint not null default nextval('fact_order');

-- Those on record are numbered by the moment they were recorded at.
alter table inspection disable trigger user;
alter table hold disable trigger user;
alter table retag disable trigger user;
alter table baseline disable trigger user;
create temporary table numbered as
  select kind, id, part, criterion, row_number() over (order by at, rank, id, part, criterion) as seq from (
    select 'inspection' as kind, id::text, '' as part, '' as criterion, signed_at as at, 2 as rank from inspection
    union all select 'hold', id::text, '', '', placed_at, 3 from hold
    union all select 'retag', id::text, '', '', at, 3 from retag
    union all select 'baseline', id::text, '', '', set_at, 1 from baseline
    union all select 'answer', draft_id::text, part, criterion, saved_at, 0 from draft_answer) facts;
create index on numbered (kind, id);
update inspection i set seq = n.seq from numbered n where n.kind = 'inspection' and n.id = i.id::text;
update hold h set seq = n.seq from numbered n where n.kind = 'hold' and n.id = h.id::text;
update retag t set seq = n.seq from numbered n where n.kind = 'retag' and n.id = t.id::text;
update baseline b set seq = n.seq from numbered n where n.kind = 'baseline' and n.id = b.id::text;
update draft_answer a set seq = n.seq from numbered n
  where n.kind = 'answer' and n.id = a.draft_id::text and n.part = a.part and n.criterion = a.criterion;
update inspection i set seen_seq = (
  select c.seq from inspection c where c.piece_id = i.piece_id and c.signed_at = i.seen_at and c.seen_at is null order by c.seq limit 1)
  where i.seen_at is not null;
select setval('fact_order', coalesce((select max(seq) from numbered), 0) + 1);
drop table numbered;
alter table inspection enable trigger user;
alter table hold enable trigger user;
alter table retag enable trigger user;
alter table baseline enable trigger user;

alter table inspection alter column seq set default nextval('fact_order'), alter column seq set not null;
alter table inspection add column counts_seq bigint generated always as (coalesce(seen_seq, seq)) stored;
alter table hold alter column seq set default nextval('fact_order'), alter column seq set not null;
alter table retag alter column seq set default nextval('fact_order'), alter column seq set not null;
alter table baseline alter column seq set default nextval('fact_order'), alter column seq set not null;
alter table draft_answer alter column seq set default nextval('fact_order'), alter column seq set not null;

-- The view names its columns: it is made anew with the new ones.
drop view standing_inspection;
create view standing_inspection as
  select i.* from inspection i where not exists (select from supersession s where s.inspection_id = i.id);
drop index inspection_last_full;
create index inspection_last_full on inspection (piece_id, counts_seq desc) where kind not in ('frequent', 'return');

-- A submission's id belongs to one act by one person with one content: the same again is the same record, anything else
-- under it is refused.
alter table submission add column act text, add column person_id uuid references person, add column content bytea;
