-- What a person wants by mail, the unit they like a bare figure taken in (null: the site's), and whether explanations
-- stand open beside what is asked.
alter table person
  add column mail_kinds text[] not null default array['reminders', 'notices'] check (mail_kinds <@ array['reminders', 'notices']),
  add column unit text check (unit in ('in', 'mm')),
  add column explain text not null default 'first' check (explain in ('always', 'first', 'never'));
