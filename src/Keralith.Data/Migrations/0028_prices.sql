-- What a piece of a family and size costs to buy, where somebody entered it. A note of the works: it proves nothing.
create table price (
  family   text not null,
  size     text not null default '',
  amount   numeric(12, 2) not null check (amount > 0),
  currency text not null check (currency ~ '^[A-Z]{3}$'),
  set_at   timestamptz not null,
  set_by   uuid not null references person,
  primary key (family, size)
);
