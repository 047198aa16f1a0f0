using Keralith.Core.Custody;
using Keralith.Core.Judgement;
using Keralith.Core.People;
using Keralith.Core.Register;
using Npgsql;

namespace Keralith.Data;

/// <summary>One thing that happened to a piece, other than inspections, holds and disposal.</summary>
public sealed record YardEvent(DateTimeOffset At, string What, string By);

/// <summary>What happens to a piece in the yard: moved, lost, found, painted for the season, counted, split, mended.</summary>
public sealed class YardStore(Database database, SiteStore sites)
{
    private readonly PieceChanges _changes = new(database, sites);

    /// <summary>All of it, newest first, in words.</summary>
    public static Asked<List<YardEvent>> Events(Trip trip, Guid piece) =>
        trip.All(
            new NpgsqlBatchCommand(
                """
                select at, what, name from (
                  select m.at, case m.kind when 'moved' then 'Moved from ' || m.from_place || ' to ' || m.to_place
                                           when 'lost' then 'Missing: ' || m.reason else 'Found at ' || m.to_place || ': ' || m.reason end as what, m.by_person
                  from move m where m.piece_id = $1
                  union all select s.at, 'Season mark ' || s.letter || ' put on', s.by_person from season_mark s where s.piece_id = $1
                  union all select l.at, case l.kind when 'counted' then l.seen || ' seen, ' || l.rejected || ' rejected' when 'split' then l.seen || ' split out' when 'added' then l.seen || ' added' else l.seen || ' scrapped' end
                                         || ', ' || l.left_over || ' left' || case when b.mark is null then '' else ' (now ' || b.mark || ')' end || ': ' || l.reason, l.by_person
                  from lot_change l left join piece b on b.id = l.became where l.piece_id = $1
                  union all select c.at, 'Part replaced, ' || c.part || ' (' || c.what || ') by ' || c.fitted_by || ': ' || c.reason, c.by_person from part_change c where c.piece_id = $1
                  union all select t.at, 'New tag fitted by ' || t.fitted_by || ': ' || t.proof, t.by_person from retag t where t.piece_id = $1
                  union all select c.at, 'Taken over with report ' || c.evidence || ' of ' || to_char(c.last_periodic, 'YYYY-MM-DD') || ' by ' || c.inspector, c.by_person from carried_over c where c.piece_id = $1
                  union all select a.at, 'Report accepted: in service until its next inspection', a.by_person from carried_accepted a where a.piece_id = $1
                  union all select a.at, 'File attached: ' || a.title, a.by_person from attachment a join piece_attachment pa on pa.attachment_id = a.id where pa.piece_id = $1
                ) e join person w on w.id = e.by_person order by at desc
                """
            ).Positional(piece),
            r => new YardEvent(r.GetFieldValue<DateTimeOffset>(0), r.GetString(1), r.GetString(2))
        );

    /// <summary>Hangs pieces on another peg or in another store.</summary>
    public Task<Checked<Recorded>> MoveAsync(
        IReadOnlyCollection<Guid> pieces,
        int store,
        string peg,
        Stamp stamp,
        CancellationToken cancel
    ) =>
        _changes.RunAllAsync(
            pieces,
            Right.Move,
            stamp,
            "piece.moved",
            async (transaction, row) =>
            {
                peg = peg.Trim();
                if (row.State.IsRetired())
                    return new Refusal($"{row.Mark} is retired; it hangs nowhere.");
                if (row.State == PieceState.Missing)
                    return new Refusal($"{row.Mark} is missing; say that it is found first.");
                if (peg.Length > 40)
                    return new Refusal("A peg's name has at most 40 letters.");
                var name = (
                    await transaction
                        .Command("select name from store where id = $1")
                        .Positional(store)
                        .ListAsync(r => r.GetString(0), cancel)
                        .ConfigureAwait(false)
                ).FirstOrDefault();
                if (name is null)
                    return new Refusal("Choose the store.");
                var to = Place(name, peg);
                if (Place(row.Store, row.Peg) == to)
                    return new Refusal($"{row.Mark} hangs there already.");
                await transaction
                    .Command("update piece set store_id = $2, peg = $3 where id = $1")
                    .Positional(row.Id, store, peg)
                    .RunAsync(cancel)
                    .ConfigureAwait(false);
                await InsertMoveAsync(transaction, row, "moved", to, string.Empty, stamp, cancel).ConfigureAwait(false);
                return new Change(row.State, new { from = Place(row.Store, row.Peg), to });
            },
            cancel
        );

    /// <summary>Says that a piece can't be found. Anybody may.</summary>
    public Task<Checked<Recorded>> LoseAsync(Guid piece, string reason, Stamp stamp, CancellationToken cancel) =>
        _changes.RunAsync(
            piece,
            null,
            Right.Hold,
            stamp,
            "piece.missing",
            async (transaction, row) =>
            {
                if (string.IsNullOrWhiteSpace(reason))
                    return new Refusal("Write where it was last seen, and by whom.");
                var state = PieceLife.AfterLoss(row.State);
                if (!state.Ok)
                    return new Refusal(state.Fault!);
                await InsertMoveAsync(transaction, row, "lost", string.Empty, reason.Trim(), stamp, cancel)
                    .ConfigureAwait(false);
                return new Change(state.Value, new { reason = reason.Trim() });
            },
            cancel
        );

    /// <summary>Says that a missing piece was found: it goes to the cage until it is inspected.</summary>
    public Task<Checked<Recorded>> FindAsync(Guid piece, string where, Stamp stamp, CancellationToken cancel) =>
        _changes.RunAsync(
            piece,
            null,
            Right.Hold,
            stamp,
            "piece.found",
            async (transaction, row) =>
            {
                if (string.IsNullOrWhiteSpace(where))
                    return new Refusal("Write where it was found.");
                var state = PieceLife.AfterFinding(row.State);
                if (!state.Ok)
                    return new Refusal(state.Fault!);
                await InsertMoveAsync(transaction, row, "found", Place(row.Store, row.Peg), where.Trim(), stamp, cancel)
                    .ConfigureAwait(false);
                await CustodyStore
                    .InsertHoldAsync(
                        transaction,
                        stamp.Submission,
                        row.Id,
                        HoldCause.Doubt,
                        $"Found after it was missing: {where.Trim()}",
                        null,
                        stamp,
                        cancel
                    )
                    .ConfigureAwait(false);
                return new Change(state.Value, new { where = where.Trim() });
            },
            cancel
        );

    /// <summary>Records that the season's mark was put on pieces.</summary>
    public Task<Checked<Recorded>> PaintAsync(
        IReadOnlyCollection<Guid> pieces,
        DateOnly today,
        Stamp stamp,
        CancellationToken cancel
    ) =>
        _changes.RunAllAsync(
            pieces,
            Right.PaintSeason,
            stamp,
            "season.marked",
            async (transaction, row) =>
            {
                var site = await sites.GetAsync(cancel).ConfigureAwait(false);
                if (site.Seasons is not { } scheme)
                    return new Refusal("This site has no season colours.");
                if (scheme.RefusalToApply(row.State, row.Verdict, row.PeriodicDue, today) is { } refusal)
                    return new Refusal($"{row.Mark}: {refusal}");
                var season = scheme.On(today)!;
                if (row.SeasonFor == season.From)
                    return new Refusal($"{row.Mark} carries this season's mark already.");
                await transaction
                    .Command("update piece set season_for = $2 where id = $1")
                    .Positional(row.Id, season.From)
                    .RunAsync(cancel)
                    .ConfigureAwait(false);
                await transaction
                    .Command(
                        "insert into season_mark (id, piece_id, season_for, letter, at, by_person) values ($1, $2, $3, $4, $5, $6)"
                    )
                    .Positional(
                        Guid.CreateVersion7(),
                        row.Id,
                        season.From,
                        season.Mark.Letter,
                        stamp.At,
                        stamp.Actor.Id
                    )
                    .RunAsync(cancel)
                    .ConfigureAwait(false);
                return new Change(
                    row.State,
                    new
                    {
                        season = season.Mark.Letter,
                        colour = season.Mark.Colour,
                        from = season.From,
                    }
                );
            },
            cancel
        );

    /// <summary>Records that a part was replaced: its old figures stay readable, new ones begin, and the piece is held until it is inspected.</summary>
    /// <param name="figures">The new part's figures when new.</param>
    public Task<Checked<Recorded>> ReplacePartAsync(
        Guid piece,
        int version,
        string part,
        string what,
        string fittedBy,
        string reason,
        IReadOnlyDictionary<BaselineKey, BaselineFigure> figures,
        Stamp stamp,
        CancellationToken cancel
    ) =>
        _changes.RunAsync(
            piece,
            version,
            Right.Retag,
            stamp,
            "part.replaced",
            async (transaction, row) =>
            {
                if (string.IsNullOrWhiteSpace(what))
                    return new Refusal("Write what was replaced: hook, latch, pin.");
                if (string.IsNullOrWhiteSpace(fittedBy))
                    return new Refusal("Write who fitted it: the maker or a qualified shop. There is no field repair.");
                if (string.IsNullOrWhiteSpace(reason))
                    return new Refusal("Write why it was replaced.");
                if (Core.Gear.Catalogue.Parts(row.Gear, Core.Gear.RuleBookShelf.All).All(p => p.Path != part))
                    return new Refusal("Choose the part.");
                if (PieceEntry.RefusalOf(figures.Values, stamp.Actor.Role) is { } provisional)
                    return new Refusal(provisional);
                if (PieceEntry.RefusalOfNewPart(row.Gear, part, figures.Keys) is { } missing)
                    return new Refusal(missing);
                var state = PieceLife.AfterHold(row.State);
                if (!state.Ok)
                    return new Refusal(state.Fault!);
                await transaction
                    .Command(
                        "insert into part_change (id, piece_id, part, what, fitted_by, reason, at, by_person) values ($1, $2, $3, $4, $5, $6, $7, $8)"
                    )
                    .Positional(
                        stamp.Submission,
                        row.Id,
                        part,
                        what.Trim(),
                        fittedBy.Trim(),
                        reason.Trim(),
                        stamp.At,
                        stamp.Actor.Id
                    )
                    .RunAsync(cancel)
                    .ConfigureAwait(false);
                await PieceWriter
                    .InsertBaselinesAsync(transaction, figures.Select(f => (row.Id, f.Key, f.Value)), stamp, cancel)
                    .ConfigureAwait(false);
                await CustodyStore
                    .InsertHoldAsync(
                        transaction,
                        Guid.CreateVersion7(),
                        row.Id,
                        HoldCause.Event,
                        $"Part replaced: {what.Trim()} ({part}). Proof test where it bears load, and inspect, before it is used",
                        null,
                        stamp,
                        cancel
                    )
                    .ConfigureAwait(false);
                return new Change(
                    state.Value,
                    new
                    {
                        part,
                        what = what.Trim(),
                        fittedBy = fittedBy.Trim(),
                        reason = reason.Trim(),
                        figures = figures.Select(f => new
                        {
                            f.Key.Part,
                            f.Key.Criterion,
                            value = f.Value.Length.ToString(),
                        }),
                    }
                );
            },
            cancel
        );

    /// <summary>Counts a lot: how many were seen, how many of them rejected. Rejected ones are scrapped by count.</summary>
    public Task<Checked<Recorded>> CountLotAsync(
        Guid piece,
        int version,
        int seen,
        int rejected,
        string reason,
        Stamp stamp,
        CancellationToken cancel
    ) =>
        _changes.RunAsync(
            piece,
            version,
            Right.Register,
            stamp,
            "lot.counted",
            async (transaction, row) =>
            {
                var count = Lot.AfterCount(row.State, row.LotCount, seen, rejected, reason);
                if (!count.Ok)
                    return new Refusal(count.Fault!);
                await InsertLotAsync(
                        transaction,
                        row.Id,
                        "counted",
                        seen,
                        rejected,
                        count.Value,
                        null,
                        reason,
                        stamp,
                        cancel
                    )
                    .ConfigureAwait(false);
                return new Change(
                    row.State,
                    new
                    {
                        seen,
                        rejected,
                        left = count.Value,
                        reason,
                    }
                );
            },
            cancel
        );

    /// <summary>Takes one piece out of a lot under a mark of its own, held for what was found on it.</summary>
    public Task<Checked<Recorded>> SplitLotAsync(
        Guid piece,
        int version,
        string mark,
        string reason,
        Stamp stamp,
        CancellationToken cancel
    ) =>
        _changes.RunAsync(
            piece,
            version,
            Right.Register,
            stamp,
            "lot.split",
            async (transaction, row) =>
            {
                var count = Lot.AfterSplit(row.State, row.LotCount, reason);
                if (!count.Ok)
                    return new Refusal(count.Fault!);
                var own = Mark.Read(mark);
                if (!own.Ok)
                    return new Refusal(own.Fault!);
                var baselines = (
                    await PieceStore
                        .BaselinesAsync(transaction.Command(string.Empty), row.Id, cancel)
                        .ConfigureAwait(false)
                ).ToDictionary(
                    b => b.Key,
                    b =>
                        b.Value.Figure.Basis == BaselineBasis.New
                            ? b.Value.Figure with
                            {
                                Basis = BaselineBasis.Twin,
                            }
                            : b.Value.Figure
                );

                // Figures measured new on one of the lot are a twin's for this one; the provisional ones were accepted for all of them.
                var provisional = baselines.Where(b => b.Value.Basis == BaselineBasis.Provisional).ToDictionary();
                var entry = row.Entry(
                    baselines.Where(b => b.Value.Basis != BaselineBasis.Provisional).ToDictionary()
                ) with
                {
                    Mark = own.Value,
                    Serial = null,
                    LotCount = null,
                    CarriedOver = null,
                    Surroundings = row.Surroundings with { MakersWord = null },
                };
                var id = Guid.CreateVersion7();
                if (
                    await PieceWriter
                        .RegisterAsync(transaction, [(id, entry)], stamp, null, cancel)
                        .ConfigureAwait(false) is
                    { } refusal
                )
                    return new Refusal(refusal);
                await PieceWriter
                    .InsertBaselinesAsync(transaction, provisional.Select(b => (id, b.Key, b.Value)), stamp, cancel)
                    .ConfigureAwait(false);
                await CustodyStore
                    .InsertHoldAsync(
                        transaction,
                        stamp.Submission,
                        id,
                        Lot.CauseOfSplit(row.State),
                        $"Split out of {row.Mark}: {reason.Trim()}",
                        null,
                        stamp,
                        cancel
                    )
                    .ConfigureAwait(false);
                await transaction
                    .Command("update piece set state = 'held', open_holds = 1 where id = $1")
                    .Positional(id)
                    .RunAsync(cancel)
                    .ConfigureAwait(false);
                await InsertLotAsync(transaction, row.Id, "split", 1, 0, count.Value, id, reason, stamp, cancel)
                    .ConfigureAwait(false);
                return new Change(
                    row.State,
                    new
                    {
                        became = own.Value.Text,
                        left = count.Value,
                        reason = reason.Trim(),
                    }
                );
            },
            cancel
        );

    internal static string Place(string store, string peg) => peg.Length == 0 ? store : $"{store}, {peg}";

    private static Task InsertMoveAsync(
        NpgsqlTransaction transaction,
        PieceRow row,
        string kind,
        string to,
        string reason,
        Stamp stamp,
        CancellationToken cancel
    ) =>
        transaction
            .Command(
                "insert into move (id, piece_id, kind, from_place, to_place, reason, at, by_person) values ($1, $2, $3, $4, $5, $6, $7, $8)"
            )
            .Positional(
                Guid.CreateVersion7(),
                row.Id,
                kind,
                Place(row.Store, row.Peg),
                to,
                reason,
                stamp.At,
                stamp.Actor.Id
            )
            .RunAsync(cancel);

    private static async Task InsertLotAsync(
        NpgsqlTransaction transaction,
        Guid piece,
        string kind,
        int seen,
        int rejected,
        int left,
        Guid? became,
        string reason,
        Stamp stamp,
        CancellationToken cancel
    )
    {
        await transaction
            .Command("update piece set lot_count = $2 where id = $1")
            .Positional(piece, left)
            .RunAsync(cancel)
            .ConfigureAwait(false);
        await transaction
            .Command(
                "insert into lot_change (id, piece_id, kind, seen, rejected, left_over, became, reason, at, by_person) values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10)"
            )
            .Positional(
                Guid.CreateVersion7(),
                piece,
                kind,
                seen,
                rejected,
                left,
                became,
                reason.Trim(),
                stamp.At,
                stamp.Actor.Id
            )
            .RunAsync(cancel)
            .ConfigureAwait(false);
    }
}
