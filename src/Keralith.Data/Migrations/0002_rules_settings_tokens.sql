-- What a piece meets where it works: temperatures and chemicals, as its form gives them.
alter table piece add column surroundings jsonb not null default '{}';

-- Site policies, the editions of the books the site says it works to, and a version so that two people do not overwrite each other.
alter table site add column latch_policy boolean not null default false;
alter table site add column thimble_policy boolean not null default false;
alter table site add column editions jsonb not null default '{}';
alter table site add column version integer not null default 1;

-- What a signed inspection was judged by beside its case: editions of the books and the watch share.
alter table inspection add column worked_to jsonb not null default '{}';

-- Limits of the site, and of makers by model. The newest of its kind counts; one without a figure withdraws it.
create table own_limit (
  id        bigint generated always as identity primary key,
  owner     text not null check (owner in ('site', 'maker')),
  maker     text not null default '',
  model     text not null default '',
  criterion text not null,
  figure    text,
  reason    text not null check (length(reason) > 0),
  set_at    timestamptz not null,
  set_by    uuid not null references person,
  check ((owner = 'maker') = (maker <> ''))
);
create index own_limit_newest on own_limit (owner, lower(maker), lower(model), criterion, id desc);
create trigger own_limit_is_append_only before update or delete on own_limit for each row execute function refuse_change();
create trigger own_limit_is_never_emptied before truncate on own_limit for each statement execute function refuse_change();

-- Bearer tokens of programs; only their hash is kept.
create table api_token (
  id         uuid primary key,
  name       text not null check (length(name) > 0),
  hash       bytea not null unique check (length(hash) = 32),
  person_id  uuid not null references person,
  made_at    timestamptz not null,
  made_by    uuid not null references person,
  revoked_at timestamptz
);

-- Judging the register again reads the last full inspection of each piece.
create index inspection_last_full on inspection (piece_id, signed_at desc, id) where kind not in ('frequent', 'return');
