-- What a site asks beside the books. A question never changes: another takes its place, and this one is withdrawn.
create table own_question (
  id        bigint generated always as identity primary key,
  site_id   integer not null references site,
  family    text not null,
  part      text not null,
  maker     text not null default '',
  model     text not null default '',
  kind      text not null check (kind in ('see', 'test')),
  asked_in  text not null,
  on_fault  text not null check (on_fault in ('hold', 'remove')),
  title     text not null,
  question  text not null,
  look      text not null,
  source    text not null,
  reason    text not null,
  set_at    timestamptz not null,
  set_by    uuid not null references person
);
create index own_question_site on own_question (site_id, family);

create table question_withdrawal (
  question_id bigint primary key references own_question,
  reason      text not null,
  at          timestamptz not null,
  by_person   uuid not null references person
);

do $$
declare t text;
begin
  foreach t in array array['own_question', 'question_withdrawal'] loop
    execute format('create trigger %I_is_append_only before update or delete on %I for each row execute function refuse_change()', t, t);
    execute format('create trigger %I_is_never_emptied before truncate on %I for each statement execute function refuse_change()', t, t);
  end loop;
end $$;

-- What was asked of the site's own in a signed inspection, as it was asked; null: nothing was.
alter table inspection add column own_document text;
