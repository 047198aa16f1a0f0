using Keralith.Core.Custody;
using Keralith.Core.Ledger;
using Npgsql;

namespace Keralith.Data;

/// <summary>The gear that recalls mean: found, held, and what a standing recall missed of it.</summary>
internal static class RecalledGear
{
    /// <summary>Holds by the standing recalls what was just registered, or entered otherwise; one question, however many stand.</summary>
    public static async Task CatchAsync(Session session, IReadOnlyCollection<Guid> pieces)
    {
        var trip = new Trip();
        var standing = Standing(trip);
        var candidates = Candidates(trip, "id = any($1)", [pieces.ToArray()]);
        var held = EverHeld(trip, "piece_id = any($1)", pieces.ToArray());
        await session.AskAsync(trip).ConfigureAwait(false);
        await HoldAsync(session, Missed(standing.Value, candidates.Value, held.Value)).ConfigureAwait(false);
    }

    /// <summary>Holds what recalls missed, and writes it into the ledger.</summary>
    /// <returns>How many holds that came to.</returns>
    public static async Task<int> HoldAsync(
        Session session,
        IReadOnlyCollection<(StandingRecall Recall, List<Guid> Pieces)> missed
    )
    {
        if (missed.Count == 0)
            return 0;
        var records = await StopAsync(session, missed).ConfigureAwait(false);
        await LedgerStore.AppendAllAsync(session, records).ConfigureAwait(false);
        return records.Count;
    }

    /// <summary>What standing recalls mean and never held, by recall; those that missed nothing are left out.</summary>
    /// <param name="make">Makes a trip.</param>
    /// <param name="only">That recall alone; null: all that stand.</param>
    public static async Task<List<(StandingRecall Recall, List<Guid> Pieces)>> MissedAsync(
        Func<Trip, Task> make,
        Guid? only = null
    )
    {
        var trip = new Trip();
        var standing = Standing(trip, only);
        var makes = Makes(trip);
        await make(trip).ConfigureAwait(false);
        var meant = makes.Value.FindAll(m => standing.Value.Exists(s => Means(s.Match, m)));
        if (meant.Count == 0)
            return [];

        // Holds are asked after the gear: what is registered meanwhile is seen with its hold, or not at all.
        var made = OfMakes(trip, meant);
        var held = EverHeld(trip, "recall_id = any($1)", standing.Value.ConvertAll(s => s.Id).ToArray());
        await make(trip).ConfigureAwait(false);
        return Missed(standing.Value, made.Value, held.Value);
    }

    private static List<(StandingRecall Recall, List<Guid> Pieces)> Missed(
        IEnumerable<StandingRecall> standing,
        IReadOnlyCollection<(Guid Id, RecallCandidate Candidate)> among,
        IReadOnlySet<(Guid Recall, Guid Piece)> held
    ) => [.. standing.Select(s => (s, Recalls.Missed(s, among, held).ToList())).Where(m => m.Item2.Count > 0)];

    /// <summary>Holds what recalls mean; what is said of it is left to who writes the ledger.</summary>
    public static async Task<List<(string Subject, LedgerRecord Record)>> StopAsync(
        Session session,
        IEnumerable<(StandingRecall Recall, List<Guid> Pieces)> missed
    )
    {
        var records = new List<(string, LedgerRecord)>();
        foreach (var (recall, pieces) in missed)
            records.AddRange(await StopAsync(session, recall, pieces).ConfigureAwait(false));
        return records;
    }

    private static async Task<List<(string Subject, LedgerRecord Record)>> StopAsync(
        Session session,
        StandingRecall recall,
        IEnumerable<Guid> ids
    )
    {
        var stopped = (await session.LockAllAsync(ids).ConfigureAwait(false))
            .Select(p => (Piece: p, Outcome: Recalls.Stop(p.State, recall.Id, recall.Reason)))
            .Where(p => p.Outcome is not null)
            .ToList();
        if (stopped.Count == 0)
            return [];
        await session
            .HoldAllAsync(
                [.. stopped.Select(s => (Guid.CreateVersion7(), s.Piece.Id, s.Outcome!.Hold!, (Guid?)null))],
                recall.Id
            )
            .ConfigureAwait(false);
        await session.DeriveManyAsync(stopped.Select(s => (s.Piece, s.Outcome!.State))).ConfigureAwait(false);
        return stopped.ConvertAll(s => (s.Piece.Mark, s.Outcome!.Record));
    }

    private static Asked<List<StandingRecall>> Standing(Trip trip, Guid? only = null) =>
        trip.All(
            new NpgsqlBatchCommand(
                """
                select id, maker, model, batch, serial_from, serial_to, since_from, since_until, reason
                from recall r
                where ($1::uuid is null or id = $1)
                  and not exists (select from recall_end e where e.recall_id = r.id)
                order by at
                """
            ).Positional(only),
            r => new StandingRecall(r.Get<Guid>("id"), MatchFrom(r), r.Get<string>("reason"))
        );

    private static Asked<HashSet<(Guid Recall, Guid Piece)>> EverHeld(Trip trip, string where, Guid[] ids) =>
        trip.Ask(
            new NpgsqlBatchCommand(
                $"select recall_id, piece_id from hold where recall_id is not null and {where}"
            ).Positional(ids),
            r => (r.GetGuid(0), r.GetGuid(1)),
            rows => rows.ToHashSet()
        );

    /// <summary>The gear that a recall means.</summary>
    /// <param name="make">Makes a trip.</param>
    public static async Task<List<Guid>> MeantAsync(Func<Trip, Task> make, RecallMatch match)
    {
        var trip = new Trip();
        var makes = Makes(trip);
        await make(trip).ConfigureAwait(false);
        var made = OfMakes(trip, makes.Value.FindAll(m => Means(match, m)));
        await make(trip).ConfigureAwait(false);
        return [.. made.Value.Where(c => match.Matches(c.Candidate)).Select(c => c.Id)];
    }

    /// <summary>Makes near what a recall means and not meant by it, with how many pieces there are of each.</summary>
    public static async Task<List<(string Maker, string? Model, int Pieces)>> NearAsync(
        Database database,
        RecallMatch match,
        CancellationToken cancel
    ) =>
        (
            await database
                .Command(
                    $"select maker, model, count(*)::int as n from piece where maker is not null and state not in {Fragments.Retired} group by 1, 2"
                )
                .ListAsync(r => (r.Get<string>("maker"), r.TextOrNull("model"), r.Get<int>("n")), cancel)
                .ConfigureAwait(false)
        )
            .Where(m => match.IsNear(m.Item1, m.Item2))
            .OrderByDescending(m => m.Item3)
            .Take(12)
            .ToList();

    private static bool Means(RecallMatch match, (string Maker, string? Model, string? Batch) make) =>
        match.MeansMake(make.Maker, make.Model, make.Batch);

    /// <summary>The makes on record, as they are spelled: few beside the pieces, and Core alone says which are meant.</summary>
    private static Asked<List<(string Maker, string? Model, string? Batch)>> Makes(Trip trip) =>
        trip.All(
            new NpgsqlBatchCommand(
                $"select distinct maker, model, batch from piece where maker is not null and state not in {Fragments.Retired}"
            ),
            r => (r.Get<string>("maker"), r.TextOrNull("model"), r.TextOrNull("batch"))
        );

    private static Asked<List<(Guid Id, RecallCandidate Candidate)>> OfMakes(
        Trip trip,
        List<(string Maker, string? Model, string? Batch)> makes
    ) =>
        Candidates(
            trip,
            """
            (maker, coalesce(model, ''), coalesce(batch, '')) in (
              select m.maker, coalesce(m.model, ''), coalesce(m.batch, '')
              from unnest($1::text[], $2::text[], $3::text[]) m (maker, model, batch))
            """,
            makes.ConvertAll(m => m.Maker).ToArray(),
            makes.ConvertAll(m => m.Model).ToArray(),
            makes.ConvertAll(m => m.Batch).ToArray()
        );

    /// <summary>What bears on a recall of some pieces that are not retired.</summary>
    private static Asked<List<(Guid Id, RecallCandidate Candidate)>> Candidates(
        Trip trip,
        string where,
        params object?[] values
    ) =>
        trip.All(
            new NpgsqlBatchCommand(
                $"""
                select id, maker, model, batch, serial, in_service_since
                from piece
                where {where} and state not in {Fragments.Retired}
                """
            ).Positional(values),
            r =>
                (
                    r.Get<Guid>("id"),
                    new RecallCandidate(
                        r.TextOrNull("maker"),
                        r.TextOrNull("model"),
                        r.TextOrNull("batch"),
                        r.TextOrNull("serial"),
                        r.ValueOrNull<DateOnly>("in_service_since")
                    )
                )
        );

    /// <summary>Pieces that a standing recall means and never held: they do not verify, and so may not be used.</summary>
    public static async Task<List<Unverified>> UnheldAsync(Database database, CancellationToken cancel)
    {
        var missed = await MissedAsync(t => database.MakeAsync(t, cancel)).ConfigureAwait(false);
        var reasons = missed
            .SelectMany(m => m.Pieces.Select(p => (Piece: p, m.Recall.Reason)))
            .ToLookup(p => p.Piece, p => p.Reason);
        return await database
            .Command("select id, mark from piece where id = any($1) order by mark")
            .Positional(reasons.Select(r => r.Key).ToArray())
            .ListAsync(
                r => new Unverified(
                    r.Get<string>("mark"),
                    $"A recall means it and does not hold it ({string.Join("; ", reasons[r.Get<Guid>("id")])}): hold it under Cage, Recalls."
                ),
                cancel
            )
            .ConfigureAwait(false);
    }

    /// <summary>A recall's own columns.</summary>
    public static RecallMatch MatchFrom(NpgsqlDataReader r) =>
        new(
            r.Get<string>("maker"),
            r.TextOrNull("model"),
            r.TextOrNull("batch"),
            r.TextOrNull("serial_from"),
            r.TextOrNull("serial_to"),
            r.ValueOrNull<DateOnly>("since_from"),
            r.ValueOrNull<DateOnly>("since_until")
        );
}
