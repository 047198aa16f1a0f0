-- What runs out is found by its day, however many pieces carry one.
drop index if exists piece_that_runs_out;
drop index if exists piece_with_a_day;
create index piece_by_proof on piece (proof_due) where proof_due is not null;
create index piece_lacking_proof on piece (mark) where proof_lacks;
create index piece_by_discard on piece ((details->>'discardOn')) where details ? 'discardOn';
create index piece_by_calibration on piece (calibration_due) where calibration_due is not null;
analyze piece;
