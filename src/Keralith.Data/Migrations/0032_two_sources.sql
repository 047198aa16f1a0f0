-- Of two sources of a lift's figures the harsher counts; a qualified person sets one aside for one version of its plan.
alter table lift_record drop constraint lift_record_kind_check;
alter table lift_record add constraint lift_record_kind_check
  check (kind in ('checked', 'signed', 'weighed', 'set-aside', 'trial', 'issued', 'ended', 'called-off'));

-- The share of a crane above which a lift is critical is the site's to say; a plan may only be stricter.
alter table site add column critical_share numeric not null default 0.75 check (critical_share > 0 and critical_share <= 0.75);
