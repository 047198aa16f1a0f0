-- Several sites under one roof: each works to its own books, policies, limits, season and time zone. Who a mail comes
-- from, the second factor and the demo's mark are the works' own and stand alike on each.
alter table site drop constraint site_id_check;
alter table site alter column id type integer;
create unique index site_name on site (lower(name));

-- A store belongs to one.
alter table store add column site_id integer not null default 1 references site;
create index store_site on store (site_id);

-- Where a limit was set. A maker's counts at every site; a site's own at that one.
alter table own_limit add column site_id integer not null default 1;
drop index own_limit_newest;
create index own_limit_newest on own_limit (owner, (case when owner = 'site' then site_id end), lower(maker), lower(model), criterion, id desc);
