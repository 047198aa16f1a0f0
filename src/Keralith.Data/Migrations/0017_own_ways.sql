-- What a person wants by mail, and the unit they like a bare figure taken in; null: the site's.
alter table person
  add column mail_kinds text[] not null default array['reminders', 'notices'] check (mail_kinds <@ array['reminders', 'notices']),
  add column unit text check (unit in ('in', 'mm'));
