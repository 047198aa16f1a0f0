using Keralith.Core.Custody;
using Keralith.Core.Formats;
using Keralith.Core.Gear;
using Keralith.Core.Judgement;
using Keralith.Core.Ledger;
using Keralith.Core.People;
using Keralith.Core.Register;
using Keralith.Core.Sites;
using Npgsql;

namespace Keralith.Data;

/// <summary>A piece whose last full inspection would come out otherwise today.</summary>
/// <param name="Then">The verdict as signed.</param>
/// <param name="Now">What the same answers come to by today's rules; null: this version can't judge them.</param>
/// <param name="Because">The finding that decides now, in words.</param>
/// <param name="Holds">Whether these rules would hold the piece.</param>
public sealed record RejudgedRow(
    string Mark,
    Guid Inspection,
    DateOnly InspectedOn,
    VerdictKind Then,
    VerdictKind? Now,
    string Because,
    bool Holds
);

/// <summary>What today's rules make of the register.</summary>
/// <param name="Judged">How many records were judged again.</param>
/// <param name="Changed">Those that come out otherwise, the gravest first.</param>
/// <param name="Unread">Marks whose case this version can't judge: parts or criteria it no longer has.</param>
public sealed record RegisterRejudged(int Judged, IReadOnlyList<RejudgedRow> Changed, IReadOnlyList<string> Unread)
{
    /// <summary>What these rules would hold.</summary>
    public IReadOnlyList<RejudgedRow> Held => [.. Changed.Where(c => c.Holds)];
}

/// <summary>
/// Judges the last full inspection of every piece by other rules than it was signed by, and holds what comes out
/// against its piece. Records are not altered.
/// </summary>
public sealed class JudgeAgain(Database database)
{
    private const int MostAtOnce = 2000;

    /// <summary>The program itself, as the ledger names it.</summary>
    public static Actor Itself { get; } =
        new(new("00000000-0000-7000-8000-00000000c0de"), "keralith", "Keralith itself", Role.Auditor);

    /// <summary>A piece's standing inspection with what it is asked by.</summary>
    private sealed record Row(Guid Piece, string Mark, DateOnly InspectedOn, StandingInspection Standing);

    private static readonly string Sql = $"""
        select p.id as piece_id, p.mark, p.maker, p.model, p.state, s.site_id, i.id, i.inspected_on, i.verdict, i.case_document
        from piece p
        join store s on s.id = p.store_id
        cross join lateral (
          select * from standing_inspection i
          where i.piece_id = p.id and i.kind in {Fragments.Full}
          order by i.counts_seq desc limit 1) i
        """;

    private static Row From(NpgsqlDataReader r) =>
        new(
            r.Get<Guid>("piece_id"),
            r.Get<string>("mark"),
            r.Get<DateOnly>("inspected_on"),
            new(
                Code.Parse<PieceState>(r.Get<string>("state")),
                r.Get<Guid>("id"),
                Code.Parse<VerdictKind>(r.Get<string>("verdict")),
                CaseReader.Read(r.Get<string>("case_document")).Value,
                r.TextOrNull("maker"),
                r.TextOrNull("model")
            )
            {
                Site = r.Get<int>("site_id"),
            }
        );

    /// <summary>The last full inspection of a piece, as it was signed; null: none, or none this version can judge.</summary>
    internal static Asked<StandingInspection?> Standing(Trip trip, Guid piece) =>
        trip.Ask(new NpgsqlBatchCommand($"{Sql} where p.id = $1").Positional(piece), From, rows =>
            rows.Count == 0 ? null : rows[0].Standing
        );

    /// <summary>What rules would make of the register. Nothing is changed.</summary>
    /// <param name="sites">The sites by whose rules each piece of theirs is judged.</param>
    /// <param name="only">The site whose pieces are judged; null: those of all.</param>
    /// <param name="progress">Told how many are judged; null: nobody asks.</param>
    public async Task<RegisterRejudged> RunAsync(
        SiteSet sites,
        int? only,
        CancellationToken cancel,
        IProgress<int>? progress = null
    )
    {
        await using var command = database
            .Command(
                $"{Sql} where p.state not in {Fragments.Retired} and ($1::int is null or s.site_id = $1) order by p.mark"
            )
            .Positional(only);
        await using var reader = await command.ExecuteReaderAsync(cancel).ConfigureAwait(false);
        var judged = 0;
        var changed = new List<RejudgedRow>();
        var unread = new List<string>();
        while (await reader.ReadAsync(cancel).ConfigureAwait(false))
        {
            var (_, mark, day, standing) = From(reader);
            var site = sites.Of(standing.Site);
            var holds = StricterRules.Of(standing, site, string.Empty) is not null;
            if (standing.Case is not { } then)
            {
                unread.Add(mark);
                if (holds)
                    changed.Add(new(mark, standing.Inspection, day, standing.SignedAs, null, "Not judged.", true));
                continue;
            }

            judged++;
            progress?.Report(judged);
            var today = Rejudgement.Of(then, site, standing.Maker, standing.Model);
            if (today.Verdict.Kind != standing.SignedAs)
                changed.Add(
                    new(mark, standing.Inspection, day, standing.SignedAs, today.Verdict.Kind, today.Because, holds)
                );
        }

        return new(
            judged,
            [
                .. changed
                    .OrderByDescending(c => c.Holds)
                    .ThenByDescending(c => c.Now)
                    .ThenBy(c => c.Mark, StringComparer.Ordinal),
            ],
            unread
        );
    }

    /// <summary>
    /// Holds every piece whose standing inspection comes out against it by the rules as they are from now on. Called in
    /// the transaction that changes them, with no other command under way.
    /// </summary>
    /// <param name="sites">The sites as they are from now on.</param>
    /// <param name="rule">What was changed, in words.</param>
    /// <param name="only">The site whose pieces it concerns; null: those of all.</param>
    /// <returns>What the ledger keeps, piece by piece.</returns>
    internal static async Task<List<(string Subject, LedgerRecord Record)>> HoldAsync(
        Session session,
        SiteSet sites,
        string rule,
        int? only = null
    )
    {
        var records = new List<(string, LedgerRecord)>();
        var rows = await session
            .ReadAsync(
                $"""
                {Sql}
                where p.state not in {Fragments.Retired} and ($1::int is null or s.site_id = $1)
                  and not exists (
                    select 1 from hold h left join release r on r.hold_id = h.id
                    where h.piece_id = p.id and h.cause = 'rules-changed' and r.hold_id is null)
                order by p.id
                """,
                From,
                only
            )
            .ConfigureAwait(false);
        var held = rows.Select(r => (Row: r, Outcome: StricterRules.Of(r.Standing, sites.Of(r.Standing.Site), rule)))
            .Where(r => r.Outcome is not null)
            .ToList();
        foreach (var chunk in held.Chunk(MostAtOnce))
        {
            await session
                .HoldAllAsync([
                    .. chunk.Select(h =>
                        (Guid.CreateVersion7(), h.Row.Piece, h.Outcome!.Hold, (Guid?)h.Row.Standing.Inspection)
                    ),
                ])
                .ConfigureAwait(false);
            await session
                .WriteAsync(
                    """
                    update piece p set state = h.state, open_holds = p.open_holds + 1, version = p.version + 1
                    from unnest($1::uuid[], $2::text[]) as h (id, state)
                    where p.id = h.id
                    """,
                    chunk.Select(h => h.Row.Piece).ToArray(),
                    chunk.Select(h => Code.Of(h.Outcome!.State)).ToArray()
                )
                .ConfigureAwait(false);
            records.AddRange(chunk.Select(h => (h.Row.Mark, (LedgerRecord)h.Outcome!.Record)));
        }

        return records;
    }

    /// <summary>
    /// Judges the register again, and derives its days, where that was last done by another catalogue than this program's: the
    /// first start on a newer one. Nothing is done on a site that is not set up, or was judged by this one.
    /// </summary>
    /// <returns>How many pieces are held by it.</returns>
    public async Task<int> ByNewCatalogueAsync(DateTimeOffset now, CancellationToken cancel)
    {
        var held = 0;
        await Session
            .RunAloneAsync(
                database,
                new(Itself, now, Guid.CreateVersion7()),
                async session =>
                {
                    var kept = await session
                        .ReadAsync("select min(catalogue_version) as version from site", r => r.TextOrNull("version"))
                        .ConfigureAwait(false);
                    if (session.HasNoSite || kept[0] == Catalogue.Version)
                        return null;
                    await session
                        .WriteAsync("update site set catalogue_version = $1", Catalogue.Version)
                        .ConfigureAwait(false);
                    await session.DeriveAllAsync(session.Sites).ConfigureAwait(false);
                    var records = await HoldAsync(session, session.Sites, $"Catalogue {Catalogue.Version}")
                        .ConfigureAwait(false);
                    held = records.Count;
                    await LedgerStore
                        .AppendAllAsync(
                            session,
                            [
                                ("site", new CatalogueChanged(kept[0] ?? string.Empty, Catalogue.Version, held)),
                                .. records,
                            ]
                        )
                        .ConfigureAwait(false);
                    return null;
                },
                cancel
            )
            .ConfigureAwait(false);
        return held;
    }

    /// <summary>How many holds stand that a stricter rule put on.</summary>
    public async Task<int> HeldAsync(CancellationToken cancel) =>
        (
            await database
                .Command(
                    "select count(*)::int from hold h where cause = 'rules-changed' and not exists (select from release r where r.hold_id = h.id)"
                )
                .ListAsync(r => r.GetInt32(0), cancel)
                .ConfigureAwait(false)
        )[0];

    /// <summary>Lets go what a rule held that is no more, by one press: all that it alone held.</summary>
    public Task<Checked<Recorded>> LetGoAsync(string reason, Stamp stamp, CancellationToken cancel) =>
        Session.RunAloneAsync(
            database,
            stamp,
            async session =>
            {
                if (StricterRules.RefusalToLetGo(reason, session.By) is { } refusal)
                    return refusal;
                var held = await session
                    .ReadAsync(
                        $"""
                        select h.id as hold_id, h.inspection_id, h.piece_id as held_piece
                        from hold h left join release r on r.hold_id = h.id
                        where h.cause = 'rules-changed' and r.hold_id is null
                        order by h.piece_id
                        """,
                        r =>
                            (
                                Hold: r.Get<Guid>("hold_id"),
                                Judged: r.ValueOrNull<Guid>("inspection_id"),
                                Piece: r.Get<Guid>("held_piece")
                            )
                    )
                    .ConfigureAwait(false);
                var pieces = await session.LockAllAsync(held.Select(h => h.Piece)).ConfigureAwait(false);
                var standing = (
                    await session
                        .ReadAsync($"{Sql} where p.id = any($1)", From, [held.Select(h => h.Piece).ToArray()])
                        .ConfigureAwait(false)
                ).ToDictionary(r => r.Piece);
                var gone = 0;
                foreach (var piece in pieces)
                {
                    var (hold, judged, _) = held.First(h => h.Piece == piece.Id);
                    if (!standing.TryGetValue(piece.Id, out var row))
                        continue;
                    var outcome = StricterRules.LetGo(
                        row.Standing,
                        judged,
                        hold,
                        piece.OpenHolds.Count - 1,
                        session.Sites.Of(piece.SiteId),
                        reason,
                        session.By,
                        piece.Locked
                    );
                    if (!outcome.Ok)
                        continue;
                    gone++;
                    session.At(piece.SiteId);
                    await session.LetGoAsync(hold, reason.Trim()).ConfigureAwait(false);
                    await session.DeriveAsync(piece, outcome.Value.State).ConfigureAwait(false);
                    await session.LedgerAsync(outcome.Value.Record, piece.Mark).ConfigureAwait(false);
                }

                return StricterRules.RefusalOfNone(gone);
            },
            cancel
        );
}
