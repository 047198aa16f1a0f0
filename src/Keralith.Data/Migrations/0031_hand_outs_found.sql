-- Looking back from a piece asks who had what beside it, for which job; the desk who took gear lately. Neither goes through
-- all hand-outs there ever were. The names are compared as Fragments.Key writes them.
create index issue_by_lift on issue (lift_id) where lift_id is not null;
create index issue_by_names on issue
  (upper(regexp_replace(holder, '[^[:alnum:]]', '', 'g')), upper(regexp_replace(job, '[^[:alnum:]]', '', 'g')), at);
create index issue_by_time on issue (at) include (holder, job);

-- Nothing asks by these any more: which maker, model and batch are meant is Core's to say.
drop index if exists piece_by_maker;
drop index if exists piece_by_batch;
