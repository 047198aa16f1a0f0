-- Gear handed from one holder to the next without the store: the hand-out before it.
alter table issue add column handed_from uuid references issue (id);
