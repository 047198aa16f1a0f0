using Keralith.Core.Custody;
using Keralith.Core.Ledger;
using Keralith.Core.Register;
using Keralith.Core.Sites;
using Npgsql;

namespace Keralith.Data;

/// <summary>One thing that happened to a piece, other than inspections, holds and disposal.</summary>
public sealed record YardEvent(DateTimeOffset At, string What, string By);

/// <summary>What happens to a piece in the yard: moved, lost, found, painted for the season, counted, split, mended.</summary>
public sealed class YardStore(Database database)
{
    private const string HappenedSql = """
        select at, what, name from (
          select m.at, case m.kind when 'moved' then 'Moved from ' || m.from_place || ' to ' || m.to_place
                                   when 'lost' then 'Missing: ' || m.reason else 'Found at ' || m.to_place || ': ' || m.reason end as what, m.by_person
          from move m where m.piece_id = $1
          union all select s.at, 'Season mark ' || s.letter || ' put on', s.by_person
          from season_mark s
          where s.piece_id = $1
          union all select l.at,
            case l.kind
              when 'counted' then l.seen || ' seen, ' || l.rejected || ' rejected'
              when 'split' then l.seen || ' split out'
              when 'added' then l.seen || ' added'
              else l.seen || ' scrapped'
            end || ', ' || l.left_over || ' left' || case when b.mark is null then '' else ' (now ' || b.mark || ')' end || ': ' || l.reason,
            l.by_person
          from lot_change l left join piece b on b.id = l.became where l.piece_id = $1
          union all select c.at, 'Part replaced, ' || c.part || ' (' || c.what || ') by ' || c.fitted_by || ': ' || c.reason, c.by_person
          from part_change c
          where c.piece_id = $1
          union all select t.at, 'New tag fitted by ' || t.fitted_by || ': ' || t.proof, t.by_person
          from retag t
          where t.piece_id = $1
          union all select c.at, 'Taken over with report ' || c.evidence || ' of ' || to_char(c.last_periodic, 'YYYY-MM-DD') || ' by ' || c.inspector, c.by_person
          from carried_over c
          where c.piece_id = $1
          union all select a.at, 'Report accepted: in service until its next inspection', a.by_person
          from carried_accepted a
          where a.piece_id = $1
          union all select a.at, 'File attached: ' || a.title, a.by_person
          from attachment a
          join piece_attachment pa on pa.attachment_id = a.id
          where pa.piece_id = $1
          union all select c.at, 'Further code bound: ' || c.code, c.by_person
          from piece_code c
          where c.piece_id = $1
          union all select a.at, case a.sent_for when 'repair' then 'Sent to repair: ' else 'Sent to a test bed: ' end || a.sent_to || ', ' || a.what, a.by_person
          from away a
          where a.piece_id = $1
          union all select r.at, 'Back from ' || a.sent_to || ': ' || r.note, r.by_person
          from away_return r
          join away a on a.id = r.away_id
          where a.piece_id = $1
          union all select t.at,
            'Proof test ' || case when t.passed then 'passed' else 'failed' end || ' at ' || t.load || ', '
              || to_char(t.tested_on, 'YYYY-MM-DD') || ', ' || t.certificate,
            t.by_person
          from proof_test t
          where t.piece_id = $1
          union all select e.at, case when e.locked then 'Kept as evidence: ' else 'No longer kept as evidence: ' end || e.reason, e.by_person
          from evidence e
          where e.piece_id = $1
          union all select r.at, 'Put right, ' || replace(r.kind, '-', ' ') || ': ' || r.why || '. Right is: ' || r.right_is, r.by_person
          from put_right r
          where r.piece_id = $1
          union all select i.at, 'Handed out to ' || i.holder || case when i.job = '' then '' else ', for ' || i.job end, i.by_person
          from issue i
          where i.piece_id = $1
          union all select g.at, 'Back from ' || i.holder || case when g.doubt is null then '' else ': ' || g.doubt end, g.by_person
          from give_back g
          join issue i on i.id = g.issue_id
          where i.piece_id = $1
          union all select l.at,
            case l.kind when 'piece.registered' then 'Registered' when 'piece.changed' then 'What is on record changed'
              else 'Facts changed: ' || coalesce((
                select string_agg((c->>'field') || ' from ' || coalesce(nullif(c->>'before', ''), 'nothing') || ' to ' || coalesce(nullif(c->>'after', ''), 'nothing'), '; ')
                from json_array_elements(l.data::json->'changes') c), '') || '. ' || coalesce(l.data::json->>'why', '') end,
            (select id from person where username = l.actor)
          from ledger l
          join piece p on p.mark = l.subject
          where p.id = $1 and l.kind in ('piece.registered', 'piece.changed', 'piece.facts-changed')
        ) e join person w on w.id = e.by_person order by at desc
        """;

    /// <summary>All of it, newest first, in words.</summary>
    public static Asked<List<YardEvent>> Events(Trip trip, Guid piece) =>
        trip.All(new NpgsqlBatchCommand(HappenedSql).Positional(piece), r => new YardEvent(
            r.GetFieldValue<DateTimeOffset>(0),
            r.GetString(1),
            r.GetString(2)
        ));

    /// <summary>Hangs pieces on another peg or in another store.</summary>
    public Task<Checked<Recorded>> MoveAsync(
        IReadOnlyCollection<Guid> pieces,
        int store,
        string peg,
        Stamp stamp,
        CancellationToken cancel
    ) =>
        Session.RunAsync(
            database,
            stamp,
            async session =>
            {
                var found = await session
                    .ReadAsync(
                        "select name, site_id from store where id = $1 and closed_at is null",
                        r => (Name: r.GetString(0), Site: r.GetInt32(1)),
                        store
                    )
                    .ConfigureAwait(false);
                var to = found.Count == 0 ? null : new HangingPlace(found[0].Name, peg.Trim());
                return await session
                    .OnPiecesAsync(pieces, async row =>
                    {
                        var elsewhere = to is not null && found[0].Site != row.SiteId;
                        var standing = elsewhere
                            ? await session.AskAsync(t => JudgeAgain.Standing(t, row.Id)).ConfigureAwait(false)
                            : null;
                        var outcome = InTheYard.Move(
                            row.Mark,
                            row.State,
                            row.Place,
                            to,
                            session.By,
                            elsewhere ? StricterRules.Moved(standing, session.Sites.Of(found[0].Site)) : null
                        );
                        if (!outcome.Ok)
                            return outcome;
                        if (elsewhere)
                            session.At(found[0].Site);
                        await session
                            .WriteAsync(
                                "update piece set store_id = $2, peg = $3, season_for = case when $4 then null else season_for end where id = $1",
                                row.Id,
                                store,
                                to!.Peg,
                                elsewhere
                            )
                            .ConfigureAwait(false);
                        await InsertMoveAsync(session, row, "moved", to.ToString(), string.Empty).ConfigureAwait(false);
                        return outcome;
                    })
                    .ConfigureAwait(false);
            },
            cancel
        );

    /// <summary>Says that a piece can't be found. Anybody may.</summary>
    public Task<Checked<Recorded>> LoseAsync(Guid piece, string reason, Stamp stamp, CancellationToken cancel) =>
        Session.RunAsync(database, stamp, session => session.OnPieceAsync(piece, null, async row =>
                {
                    var outcome = InTheYard.Lose(row.State, reason, session.By);
                    if (outcome.Ok)
                        await InsertMoveAsync(session, row, "lost", string.Empty, reason.Trim()).ConfigureAwait(false);
                    return outcome;
                }), cancel);

    /// <summary>Says that a missing piece was found: it goes to the cage until it is inspected.</summary>
    public Task<Checked<Recorded>> FindAsync(Guid piece, string where, Stamp stamp, CancellationToken cancel) =>
        Session.RunAsync(database, stamp, session => session.OnPieceAsync(piece, null, async row =>
                {
                    var outcome = InTheYard.FindAgain(row.State, where, session.By);
                    if (outcome.Ok)
                        await InsertMoveAsync(session, row, "found", row.Place.ToString(), where.Trim())
                            .ConfigureAwait(false);
                    return outcome;
                }), cancel);

    /// <summary>Records that the season's mark was put on pieces.</summary>
    public Task<Checked<Recorded>> PaintAsync(
        IReadOnlyCollection<Guid> pieces,
        Stamp stamp,
        CancellationToken cancel
    ) => Session.RunAsync(database, stamp, session => session.OnPiecesAsync(pieces, async row =>
                {
                    var seasons = SiteActs.SeasonsOf(session.Site);
                    if (!seasons.Ok)
                        return seasons.Refusal!;
                    var outcome = seasons.Value.Paint(
                        row.Mark,
                        row.State,
                        row.Verdict,
                        row.PeriodicDue,
                        row.SeasonFor,
                        session.By
                    );
                    if (outcome.Ok)
                        await InsertMarkAsync(session, row.Id, (SeasonMarked)outcome.Value.Record)
                            .ConfigureAwait(false);
                    return outcome;
                }), cancel);

    /// <summary>
    /// Records that a part was replaced: its old figures stay readable, new ones begin, and the piece is held until it
    /// is inspected.
    /// </summary>
    public Task<Checked<Recorded>> ReplacePartAsync(
        Guid piece,
        int version,
        NewPart part,
        Stamp stamp,
        CancellationToken cancel
    ) => Session.RunAsync(database, stamp, session => session.OnPieceAsync(piece, version, async row =>
                {
                    var outcome = RegisterActs.ReplacePart(row, part, session.By);
                    if (!outcome.Ok)
                        return outcome;
                    var said = (PartReplaced)outcome.Value.Record;
                    await session
                        .WriteAsync(
                            """
                            insert into part_change (id, piece_id, part, what, fitted_by, reason, at, by_person)
                            values ($1, $2, $3, $4, $5, $6, $7, $8)
                            """,
                            stamp.Submission,
                            row.Id,
                            said.Part,
                            said.What,
                            said.FittedBy,
                            said.Reason,
                            session.Stamp.At,
                            stamp.Actor.Id
                        )
                        .ConfigureAwait(false);
                    await PieceWriter
                        .InsertBaselinesAsync(session, part.Figures.Select(f => (row.Id, f.Key, f.Value)))
                        .ConfigureAwait(false);
                    return outcome;
                }), cancel);

    /// <summary>Counts a lot: how many were seen, how many of them rejected. Rejected ones are scrapped by count.</summary>
    public Task<Checked<Recorded>> CountLotAsync(
        Guid piece,
        int version,
        int seen,
        int rejected,
        string reason,
        Stamp stamp,
        CancellationToken cancel
    ) => Session.RunAsync(database, stamp, session => session.OnPieceAsync(piece, version, async row =>
                {
                    var outcome = Lot.Count(row.State, row.LotCount, seen, rejected, reason, session.By);
                    if (outcome.Ok)
                        await InsertLotAsync(
                                session,
                                row.Id,
                                new("counted", seen, rejected, ((LotCounted)outcome.Value.Record).Left, null, reason)
                            )
                            .ConfigureAwait(false);
                    return outcome;
                }), cancel);

    /// <summary>Takes one piece out of a lot under a mark of its own, held for what was found on it.</summary>
    public Task<Checked<Recorded>> SplitLotAsync(
        Guid piece,
        int version,
        string mark,
        string reason,
        Stamp stamp,
        CancellationToken cancel
    ) => Session.RunAsync(database, stamp, session => session.OnPieceAsync(piece, version, async row =>
                {
                    var outcome = Lot.Split(row.State, row.LotCount, mark, reason, session.By);
                    if (!outcome.Ok)
                        return outcome;
                    var said = (LotSplit)outcome.Value.Record;
                    var id = Guid.CreateVersion7();
                    if (await SplitOutAsync(session, row, id, said).ConfigureAwait(false) is { } refusal)
                        return refusal;
                    await InsertLotAsync(session, row.Id, new("split", 1, 0, said.Left, id, said.Reason))
                        .ConfigureAwait(false);
                    return outcome;
                }), cancel);

    /// <summary>Registers a piece taken out of a lot, held from the first moment.</summary>
    private static async Task<Refusal?> SplitOutAsync(Session session, Piece lot, Guid id, LotSplit said)
    {
        var figures = await session.AskAsync(t => PieceStore.Baselines(t, lot.Id)).ConfigureAwait(false);
        var (entry, provisional) = RegisterActs.OutOfLot(
            lot,
            Mark.Read(said.Became).Value,
            figures.ToDictionary(b => b.Key, b => b.Value.Figure)
        );
        if (await PieceWriter.RegisterAsync(session, [(id, entry)], null).ConfigureAwait(false) is { } refusal)
            return refusal;
        await PieceWriter
            .InsertBaselinesAsync(session, provisional.Select(b => (id, b.Key, b.Value)))
            .ConfigureAwait(false);
        await session
            .HoldAsync(
                id,
                new(Lot.CauseOfSplit(lot.State), $"Split out of {lot.Mark}: {said.Reason}"),
                session.Stamp.Submission
            )
            .ConfigureAwait(false);
        var split = (await session.LockAsync(id).ConfigureAwait(false))!;
        await session.DeriveAsync(split, PieceState.Held).ConfigureAwait(false);
        return null;
    }

    private static Task InsertMoveAsync(Session session, Piece row, string kind, string to, string reason) =>
        session.WriteAsync(
            """
            insert into move (id, piece_id, kind, from_place, to_place, reason, at, by_person)
            values ($1, $2, $3, $4, $5, $6, $7, $8)
            """,
            Guid.CreateVersion7(),
            row.Id,
            kind,
            row.Place.ToString(),
            to,
            reason,
            session.Stamp.At,
            session.Stamp.Actor.Id
        );

    private static async Task InsertMarkAsync(Session session, Guid piece, SeasonMarked mark)
    {
        await session
            .WriteAsync("update piece set season_for = $2 where id = $1", piece, mark.From)
            .ConfigureAwait(false);
        await session
            .WriteAsync(
                "insert into season_mark (id, piece_id, season_for, letter, at, by_person) values ($1, $2, $3, $4, $5, $6)",
                Guid.CreateVersion7(),
                piece,
                mark.From,
                mark.Season,
                session.Stamp.At,
                session.Stamp.Actor.Id
            )
            .ConfigureAwait(false);
    }

    /// <summary>What became of a lot.</summary>
    private sealed record LotChange(string Kind, int Seen, int Rejected, int Left, Guid? Became, string Reason);

    private static async Task InsertLotAsync(Session session, Guid piece, LotChange change)
    {
        await session
            .WriteAsync("update piece set lot_count = $2 where id = $1", piece, change.Left)
            .ConfigureAwait(false);
        await session
            .WriteAsync(
                """
                insert into lot_change (id, piece_id, kind, seen, rejected, left_over, became, reason, at, by_person)
                values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10)
                """,
                Guid.CreateVersion7(),
                piece,
                change.Kind,
                change.Seen,
                change.Rejected,
                change.Left,
                change.Became,
                change.Reason.Trim(),
                session.Stamp.At,
                session.Stamp.Actor.Id
            )
            .ConfigureAwait(false);
    }
}
