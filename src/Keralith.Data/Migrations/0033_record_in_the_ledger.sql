-- The ledger alone gives the present: what an act writes into a table of the record is told by its entry, row by row. The
-- rows stand beside the entry, their digest in it. Which tables are of the record says RecordTables.

-- What the acts of the ledger wrote: a row as it stood after the act; without an image where the act took it out.
create table ledger_row (
  number bigint not null,
  kind   text not null,
  key    text not null,
  image  jsonb
);
create unique index ledger_row_newest on ledger_row (kind, key, number);
create index ledger_row_of_entry on ledger_row (number);
create trigger ledger_row_is_append_only before update or delete on ledger_row for each row execute function refuse_change();
create trigger ledger_row_is_never_emptied before truncate on ledger_row for each statement execute function refuse_change();

-- What the transaction under way wrote and no entry has told yet. Empty between transactions, so it needs no log; its order is
-- counted by a sequence that has one, for one without would not be whole on a follower that takes over.
create sequence record_change_order cache 32;
create unlogged table record_change (
  tx       xid8 not null default pg_current_xact_id(),
  part     integer not null default coalesce(nullif(current_setting('keralith.part', true), ''), '0')::integer,
  n        bigint not null default nextval('record_change_order'),
  kind     text not null,
  key      text not null,
  piece_id uuid,
  image    jsonb
);
create index record_change_of_transaction on record_change (tx, part);

-- That a transaction writes into the record, once for each: what is asked when it ends is asked once, however much it wrote.
create unlogged table record_writing (tx xid8 not null default pg_current_xact_id());

-- A row as it is told: what is kept elsewhere left out, secrets as their SHA-256, nulls not at all.
create function record_image(r jsonb, left_out text[], hashed text[]) returns jsonb
  language sql immutable as $$
  select coalesce(jsonb_object_agg(key,
    case when key = any(hashed) then to_jsonb(encode(sha256(convert_to(value #>> '{}', 'UTF8')), 'hex')) else value end), '{}')
  from jsonb_each(r)
  where value <> 'null' and key <> all(left_out)
$$;

-- Keeps what is written into a table of the record for the entry that tells it.
-- Arguments: keys; the column that names the piece; the table by which that column names it; columns left out; columns hashed.
create function keep_row() returns trigger language plpgsql
  set timezone = 'UTC' set bytea_output = 'hex' as $$
declare
  keys text[] := string_to_array(tg_argv[0], ',');
  left_out text[] := string_to_array(tg_argv[3], ',');
  hashed text[] := string_to_array(tg_argv[4], ',');
  was jsonb;
  is_now jsonb;
  was_key text;
  now_key text;
  piece uuid;
begin
  -- Files are told by the digest they carry.
  if tg_table_name = 'attachment' then
    if tg_op <> 'INSERT' then old.bytes := ''; end if;
    if tg_op <> 'DELETE' then new.bytes := ''; end if;
  end if;
  if tg_op <> 'INSERT' then was := to_jsonb(old) - left_out; end if;
  if tg_op <> 'DELETE' then is_now := to_jsonb(new) - left_out; end if;
  -- What is planned is not of the record until it is checked.
  if tg_table_name = 'lift' then
    if was->>'state' = 'planned' or (was->>'is_template')::boolean then was := null; end if;
    if is_now->>'state' = 'planned' or (is_now->>'is_template')::boolean then is_now := null; end if;
  end if;
  if was is not distinct from is_now then return null; end if;
  if current_setting('keralith.writing', true) is distinct from pg_current_xact_id()::text then
    perform set_config('keralith.writing', pg_current_xact_id()::text, true);
    insert into record_writing default values;
  end if;
  was_key := (select string_agg(was->>k, ',' order by o) from unnest(keys) with ordinality as u (k, o));
  now_key := (select string_agg(is_now->>k, ',' order by o) from unnest(keys) with ordinality as u (k, o));
  if tg_argv[2] <> '' then
    execute format('select piece_id from %I where id = $1', tg_argv[2])
      into piece using (coalesce(is_now, was)->>tg_argv[1])::uuid;
  elsif tg_argv[1] <> '' then
    piece := (coalesce(is_now, was)->>tg_argv[1])::uuid;
  end if;
  if was is not null and was_key is distinct from now_key then
    insert into record_change (kind, key, piece_id, image) values (tg_table_name, was_key, piece, null);
  end if;
  if is_now is not null then
    insert into record_change (kind, key, piece_id, image)
    values (tg_table_name, now_key, piece, record_image(is_now, '{}', hashed));
  end if;
  return null;
end $$;

-- What was written outside any act is told by none: its piece may not be used from that moment on.
create function distrust_untold() returns trigger language plpgsql as $$
begin
  delete from record_writing where tx = new.tx;
  with untold as (delete from record_change where tx = pg_current_xact_id() returning piece_id, kind)
  insert into distrust (piece_id, why, at)
  select distinct on (u.piece_id) u.piece_id, 'A record of it (' || replace(u.kind, '_', ' ') || ') was written outside any act.', clock_timestamp()
  from untold u
  join piece p on p.id = u.piece_id
  where exists (select from ledger l where l.actor = 'keralith' and l.kind = 'record.sealed-whole')
  on conflict (piece_id) do nothing;
  return null;
end $$;
create constraint trigger record_writing_ends after insert on record_writing
  deferrable initially deferred for each row execute function distrust_untold();
alter table record_writing enable always trigger record_writing_ends;

do $$
declare
  r record;
begin
  for r in select * from (values
    ('site', 'id', '', '', 'version', ''),
    ('store', 'id', '', '', '', ''),
    ('person', 'id', '', '', 'role,last_step,mails,mail_kinds,unit,explain,shows_steps', 'password_hash,factor,mail'),
    ('authorisation', 'id', '', '', '', ''),
    ('api_token', 'id', '', '', '', ''),
    ('instrument', 'id', '', '', '', ''),
    ('own_limit', 'id', '', '', '', ''),
    ('own_question', 'id', '', '', '', ''),
    ('question_withdrawal', 'question_id', '', '', '', ''),
    ('proof_ask', 'id', '', '', '', ''),
    ('attachment', 'id', '', '', 'bytes', 'small'),
    ('recall', 'id', '', '', '', ''),
    ('recall_end', 'recall_id', '', '', '', ''),
    ('lift', 'id', '', '', '', ''),
    ('lift_record', 'id', '', '', '', ''),
    ('piece', 'id', 'id', '', 'state,verdict,open_holds,periodic_due,frequent_due,last_by,carried,touched,locked,proof_due,proof_lacks,version,sought,due_on,make,colour,rated_band', ''),
    ('baseline', 'id', 'piece_id', '', '', ''),
    ('tag_record', 'id', 'piece_id', '', '', ''),
    ('piece_attachment', 'piece_id,attachment_id', 'piece_id', '', '', ''),
    ('carried_over', 'piece_id', 'piece_id', '', '', ''),
    ('carried_accepted', 'piece_id', 'piece_id', '', '', ''),
    ('piece_code', 'id', 'piece_id', '', '', ''),
    ('inspection', 'id', 'piece_id', '', 'case_document,verdict_document,own_document,counts_from,counts_seq', ''),
    ('inspection_photo', 'inspection_id,attachment_id', 'inspection_id', 'inspection', '', ''),
    ('supersession', 'inspection_id', 'inspection_id', 'inspection', '', ''),
    ('hold', 'id', 'piece_id', '', '', ''),
    ('hold_photo', 'hold_id,attachment_id', 'hold_id', 'hold', '', ''),
    ('release', 'hold_id', 'hold_id', 'hold', '', ''),
    ('retag', 'id', 'piece_id', '', '', ''),
    ('disposal', 'id', 'piece_id', '', '', ''),
    ('season_mark', 'id', 'piece_id', '', '', ''),
    ('lot_change', 'id', 'piece_id', '', '', ''),
    ('part_change', 'id', 'piece_id', '', '', ''),
    ('move', 'id', 'piece_id', '', '', ''),
    ('gear_event', 'id', '', '', '', ''),
    ('gear_event_piece', 'event_id,piece_id', 'piece_id', '', '', ''),
    ('fact_change', 'id', 'piece_id', '', '', ''),
    ('issue', 'id', 'piece_id', '', '', ''),
    ('give_back', 'issue_id', 'issue_id', 'issue', '', ''),
    ('away', 'id', 'piece_id', '', '', ''),
    ('away_return', 'away_id', 'away_id', 'away', '', ''),
    ('proof_test', 'id', 'piece_id', '', '', ''),
    ('evidence', 'id', 'piece_id', '', '', ''),
    ('witness', 'id', 'piece_id', '', '', ''),
    ('put_right', 'id', 'piece_id', '', '', ''),
    ('replacement', 'id', 'piece_id', '', '', ''),
    ('round', 'id', '', '', '', ''),
    ('round_piece', 'round_id,piece_id', 'piece_id', '', '', ''),
    ('head_key', 'fingerprint', '', '', '', 'sealed'),
    ('ledger_head', 'number,at', '', '', '', ''),
    ('tree_head', 'id', '', '', '', '')
  ) as t (name, keys, piece, via, left_out, hashed) loop
    execute format('create trigger %I after insert or update or delete on %I for each row execute function keep_row(%L, %L, %L, %L, %L)',
      r.name || '_is_told', r.name, r.keys, r.piece, r.via, r.left_out, r.hashed);
    execute format('alter table %I enable always trigger %I', r.name, r.name || '_is_told');
  end loop;
end $$;
