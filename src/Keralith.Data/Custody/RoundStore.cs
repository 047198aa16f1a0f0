using System.Text.Json;
using Keralith.Core.Custody;
using Npgsql;

namespace Keralith.Data;

/// <summary>A round as the list of rounds shows it.</summary>
/// <param name="Store">The store walked; null: chosen pieces are looked for.</param>
/// <param name="ClosedAt">Null while it is under way.</param>
public sealed record RoundRow(
    Guid Id,
    int? Store,
    string Name,
    DateTimeOffset BegunAt,
    string By,
    DateTimeOffset? ClosedAt
)
{
    /// <summary>What was found on it, what is not in order first; read only with the round itself.</summary>
    public IReadOnlyList<RoundLine> Standing { get; init; } = [];

    /// <summary>What was scanned last.</summary>
    public string? Last { get; init; }
}

/// <summary>Rounds of stores and searches for chosen pieces: begun, gone on with, closed with their list.</summary>
public sealed class RoundStore(Database database)
{
    private const int MostShown = 60;

    private const string Row = """
        select r.id, r.store_id, r.name, r.begun_at, w.name as by_name, r.closed_at, r.standing::text as standing
        from round r
        join person w on w.id = r.begun_by
        """;

    /// <summary>Those under way, then the last ones closed.</summary>
    public Task<List<RoundRow>> AllAsync(CancellationToken cancel) =>
        database
            .Command($"{Row} order by r.closed_at is not null, r.closed_at desc, r.begun_at desc limit $1")
            .Positional(MostShown)
            .ListAsync(From, cancel);

    /// <summary>A round with its list; null where there is none.</summary>
    public async Task<RoundRow?> FindAsync(Guid id, CancellationToken cancel)
    {
        var trip = new Trip();
        var (row, expected, sights) = (One(trip, id, locked: false), Expected(trip, id), Sights(trip, id));
        await database.MakeAsync(trip, cancel);
        if (row.Value is not { } round)
            return null;
        return round with
        {
            Standing = round.ClosedAt is null ? StoreRound.Standing(expected.Value, sights.Value) : round.Standing,
            Last = sights.Value.LastOrDefault()?.Scanned,
        };
    }

    /// <summary>Begins a round of a store. Alone: of two who begin one at once, the second sees the first's.</summary>
    public Task<Checked<Recorded>> WalkAsync(Guid id, int store, Stamp stamp, CancellationToken cancel) =>
        Session.RunAloneAsync(
            database,
            stamp,
            async session =>
            {
                var found = await session
                    .ReadAsync(
                        $"""
                        select s.name,
                          (select count(*)::int from piece p where p.store_id = s.id and p.issue_id is null
                             and p.state in {Fragments.Hanging}) as expected,
                          exists (select from round r where r.store_id = s.id and r.closed_at is null) as under_way
                        from store s
                        where s.id = $1
                        """,
                        r =>
                            (
                                Name: r.Get<string>("name"),
                                Expected: r.Get<int>("expected"),
                                UnderWay: r.Get<bool>("under_way")
                            ),
                        store
                    )
                    .ConfigureAwait(false);
                var begun =
                    found.Count == 0
                        ? StoreRound.Begin(null, 0, false, session.By)
                        : StoreRound.Begin(found[0].Name, found[0].Expected, found[0].UnderWay, session.By);
                return await BeginAsync(session, id, store, [], begun).ConfigureAwait(false);
            },
            cancel
        );

    /// <summary>Begins a search for chosen pieces.</summary>
    public Task<Checked<Recorded>> SearchAsync(
        Guid id,
        IReadOnlyCollection<Guid> pieces,
        Stamp stamp,
        CancellationToken cancel
    ) =>
        Session.RunAsync(
            database,
            stamp,
            session =>
                BeginAsync(
                    session,
                    id,
                    null,
                    pieces,
                    StoreRound.Begin(string.Empty, pieces.Count, isUnderWay: false, session.By)
                ),
            cancel
        );

    /// <summary>Says what was seen, in the order it was scanned.</summary>
    /// <param name="scanned">Marks, and the pieces they lead to where there are any.</param>
    /// <param name="peg">The peg they hung on; empty: nobody said.</param>
    public Task<Checked<Recorded>> SeeAsync(
        Guid id,
        IReadOnlyList<(string Scanned, Guid? Piece)> scanned,
        string? peg,
        Stamp stamp,
        CancellationToken cancel
    ) =>
        Session.RunAsync(
            database,
            stamp,
            async session =>
            {
                var round = await session.AskAsync(t => One(t, id, locked: true)).ConfigureAwait(false);
                if (StoreRound.RefusalToSee(round is { ClosedAt: null }, scanned.Count, session.By) is { } refusal)
                    return refusal;
                await session
                    .WriteAsync(
                        """
                        insert into round_sight (round_id, scanned, piece_id, peg, at, by_person)
                        select $1, s.scanned, s.piece, $4, $5, $6
                        from unnest($2::text[], $3::uuid[]) with ordinality s (scanned, piece, place)
                        order by s.place
                        """,
                        id,
                        scanned.Select(s => FreeText.Start(s.Scanned, StoreRound.LongestScan)).ToArray(),
                        scanned.Select(s => s.Piece).ToArray(),
                        FreeText.Start(peg?.Trim() ?? string.Empty, HangingPlace.LongestPeg),
                        session.Stamp.At,
                        stamp.Actor.Id
                    )
                    .ConfigureAwait(false);
                return null;
            },
            cancel
        );

    /// <summary>Closes a round: its list stays as it is now.</summary>
    public Task<Checked<Recorded>> CloseAsync(Guid id, Stamp stamp, CancellationToken cancel) =>
        Session.RunAsync(
            database,
            stamp,
            async session =>
            {
                var trip = new Trip();
                var (row, expected, sights) = (One(trip, id, locked: true), Expected(trip, id), Sights(trip, id));
                await session.AskAsync(trip).ConfigureAwait(false);
                var standing = StoreRound.Standing(expected.Value, sights.Value);
                var closed = StoreRound.Close(
                    row.Value?.Name ?? string.Empty,
                    row.Value is { ClosedAt: null },
                    standing,
                    session.By
                );
                if (!closed.Ok)
                    return closed.Refusal;
                await session
                    .WriteAsync(
                        "update round set closed_at = $2, closed_by = $3, standing = $4::jsonb where id = $1",
                        id,
                        session.Stamp.At,
                        stamp.Actor.Id,
                        JsonSerializer.Serialize(standing)
                    )
                    .ConfigureAwait(false);
                await session.LedgerAsync(closed.Value, "site").ConfigureAwait(false);
                return null;
            },
            cancel
        );

    private static async Task<Refusal?> BeginAsync(
        Session session,
        Guid id,
        int? store,
        IReadOnlyCollection<Guid> pieces,
        Checked<Core.Ledger.RoundBegun> begun
    )
    {
        if (!begun.Ok)
            return begun.Refusal;
        var name = begun.Value.Name.Length > 0 ? begun.Value.Name : $"{pieces.Count} chosen";
        await session
            .WriteAsync(
                "insert into round (id, store_id, name, begun_at, begun_by) values ($1, $2, $3, $4, $5)",
                id,
                store,
                name,
                session.Stamp.At,
                session.Stamp.Actor.Id
            )
            .ConfigureAwait(false);
        await session
            .WriteAsync("insert into round_piece select $1, unnest($2::uuid[])", id, pieces.Distinct().ToArray())
            .ConfigureAwait(false);
        await session.LedgerAsync(begun.Value with { Name = name }, "site").ConfigureAwait(false);
        return null;
    }

    private static Asked<RoundRow?> One(Trip trip, Guid id, bool locked) =>
        trip.Ask(
            new NpgsqlBatchCommand($"{Row} where r.id = $1{(locked ? " for update of r" : "")}").Positional(id),
            From,
            rows => rows.FirstOrDefault()
        );

    private const string PieceColumns =
        "p.mark, p.peg, s.name as store, p.state, (select i.holder from issue i where i.id = p.issue_id) as holder";

    /// <summary>The pieces a round is about, as they are on record now.</summary>
    private static Asked<List<RoundPiece>> Expected(Trip trip, Guid id) =>
        trip.All(
            new NpgsqlBatchCommand(
                $"""
                select {PieceColumns}
                from round r
                join piece p on p.store_id = r.store_id or p.id in (select piece_id from round_piece where round_id = r.id)
                join store s on s.id = p.store_id
                where r.id = $1
                  and (r.store_id is null or (p.issue_id is null and p.state in {Fragments.Hanging}))
                order by s.position, p.peg, p.mark
                """
            ).Positional(id),
            r => PieceFrom(r, isExpected: true)
        );

    private static Asked<List<RoundSight>> Sights(Trip trip, Guid id) =>
        trip.All(
            new NpgsqlBatchCommand(
                $"""
                select v.scanned, v.peg as seen_on, {PieceColumns},
                  p.store_id = r.store_id or exists (select from round_piece rp where rp.round_id = r.id and rp.piece_id = p.id) as expected
                from round_sight v
                join round r on r.id = v.round_id
                left join piece p on p.id = v.piece_id
                left join store s on s.id = p.store_id
                where v.round_id = $1
                order by v.id
                """
            ).Positional(id),
            r => new RoundSight(
                r.Get<string>("scanned"),
                r.TextOrNull("mark") is null ? null : PieceFrom(r, r.ValueOrNull<bool>("expected") == true),
                r.Get<string>("seen_on")
            )
        );

    private static RoundPiece PieceFrom(NpgsqlDataReader r, bool isExpected) =>
        new(
            r.Get<string>("mark"),
            new(r.Get<string>("store"), r.Get<string>("peg")),
            Code.Parse<PieceState>(r.Get<string>("state")),
            r.TextOrNull("holder"),
            isExpected
        );

    private static RoundRow From(NpgsqlDataReader r) =>
        new(
            r.Get<Guid>("id"),
            r.ValueOrNull<int>("store_id"),
            r.Get<string>("name"),
            r.Get<DateTimeOffset>("begun_at"),
            r.Get<string>("by_name"),
            r.ValueOrNull<DateTimeOffset>("closed_at")
        )
        {
            Standing = r.TextOrNull("standing") is { } kept
                ? JsonSerializer.Deserialize<List<RoundLine>>(kept) ?? []
                : [],
        };
}
