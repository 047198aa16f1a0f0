-- Which maker is meant is Core's to say; the newest of a few hundred limits and proof tests asked is found without an index.
drop index if exists own_limit_newest;
drop index if exists proof_ask_newest;
