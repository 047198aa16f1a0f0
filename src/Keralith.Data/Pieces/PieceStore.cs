using System.Text.Json;
using Keralith.Core.Custody;
using Keralith.Core.Judgement;
using Keralith.Core.Ledger;
using Keralith.Core.Quantities;
using Keralith.Core.Register;
using Npgsql;

namespace Keralith.Data;

/// <summary>What to list of the pieces of a store or a state.</summary>
public sealed record PieceQuery
{
    public int? Store { get; init; }

    public PieceState? State { get; init; }

    /// <summary>Only these families; null: all.</summary>
    public IReadOnlyList<string>? Families { get; init; }

    /// <summary>Leave out what will never lift again.</summary>
    public bool WithoutRetired { get; init; }

    public int Most { get; init; } = 200;
}

/// <summary>A baseline on record.</summary>
public sealed record BaselineRow(BaselineKey Key, BaselineFigure Figure, DateTimeOffset SetAt, string SetBy);

/// <summary>A change of facts on record.</summary>
/// <param name="Changes">Old and new, in words.</param>
/// <param name="File">The paper that shows it; null: read from the piece.</param>
public sealed record FactChangeRow(IReadOnlyList<string> Changes, string Why, Guid? File, DateTimeOffset At, string By);

/// <summary>The register of pieces.</summary>
public sealed class PieceStore(Database database)
{
    private const string From = "from piece p join store s on s.id = p.store_id";

    /// <summary>A text as a mark is written, if it is one.</summary>
    public static string AsMark(string text) => text.Trim().ToUpperInvariant();

    /// <summary>The piece of a mark, or of a serial only one piece has; null when there is none.</summary>
    public Task<Piece?> FindAsync(string text, CancellationToken cancel) =>
        database.AskAsync(t => Find(t, text), cancel);

    /// <summary>The same, on a trip made with other questions.</summary>
    public static Asked<Piece?> Find(Trip trip, string text)
    {
        var wanted = AsMark(text);
        return trip.Ask(
            new NpgsqlBatchCommand(
                $"""
                with found as (
                  select id, false as by_code from piece where mark = $1 or mark = $2
                  union all
                  select id, false from piece where upper(serial) = $1
                  union all
                  select piece_id, true from piece_code where code = $1 and removed_at is null
                ),
                each as (select id, bool_or(by_code) as by_code from found group by id)
                select {PieceRows.Columns}, each.by_code {From}
                join each on each.id = p.id
                order by (p.mark = $1) desc, each.by_code desc
                limit 2
                """
            ).Positional(wanted, Mark.Dashed(text)),
            r => (Piece: PieceRows.From(r), ByCode: r.Get<bool>("by_code")),
            found =>
                found.Count == 1 || (found.Count == 2 && (found[0].Piece.Mark == wanted || found[0].ByCode))
                    ? found[0].Piece
                    : null
        );
    }

    public Task<Piece?> GetAsync(Guid id, CancellationToken cancel) =>
        database
            .Command($"select {PieceRows.Columns} {From} where p.id = $1")
            .Positional(id)
            .FirstAsync(PieceRows.From, cancel);

    /// <summary>What the register's form offers: names in use, and the next mark that is free.</summary>
    /// <param name="NextMark">After the highest of the commonest series; null where no mark ends in a number.</param>
    public sealed record Offers(IReadOnlyList<string> Makers, IReadOnlyList<string> Models, string? NextMark);

    /// <summary>What is offered where a piece is registered.</summary>
    public async Task<Offers> OffersAsync(CancellationToken cancel)
    {
        var trip = new Trip();
        var makers = trip.All(
            new NpgsqlBatchCommand("select distinct maker from piece where maker is not null order by 1 limit 200"),
            r => r.GetString(0)
        );
        var models = trip.All(
            new NpgsqlBatchCommand("select distinct model from piece where model is not null order by 1 limit 400"),
            r => r.GetString(0)
        );
        var last = trip.All(
            new NpgsqlBatchCommand(
                """
                select series, max(substr(mark, length(series) + 1)::bigint) as number, max(length(mark) - length(series)) as places
                from (select mark, rtrim(mark, '0123456789') as series from piece) m
                where length(mark) - length(series) between 1 and 9
                group by series order by count(*) desc, series limit 1
                """
            ),
            r =>
                $"{r.GetString(0)}{(r.GetInt64(1) + 1).ToString(System.Globalization.CultureInfo.InvariantCulture).PadLeft(r.GetInt32(2), '0')}"
        );
        await database.MakeAsync(trip, cancel).ConfigureAwait(false);
        return new(makers.Value, models.Value, last.Value.FirstOrDefault());
    }

    /// <summary>The pieces of marks, by mark.</summary>
    public Task<List<Piece>> OfMarksAsync(IReadOnlyCollection<string> marks, CancellationToken cancel) =>
        database
            .Command($"select {PieceRows.Columns} {From} where p.mark = any($1) order by p.mark")
            .Positional([marks.ToArray()])
            .ListAsync(PieceRows.From, cancel);

    /// <summary>
    /// Pieces that may still turn up, of a family or of all, those of a store first: what a piece without a label is
    /// compared with.
    /// </summary>
    public Task<List<Piece>> LikeAsync(string? family, int? store, CancellationToken cancel) =>
        database
            .Command(
                $"""
                select {PieceRows.Columns} {From}
                where ($1::text is null or p.family = $1) and p.state <> 'destroyed'
                order by (p.store_id = $2) desc nulls last, p.mark limit 5000
                """
            )
            .Positional(family, store)
            .ListAsync(PieceRows.From, cancel);

    /// <summary>Pieces by store, peg and mark.</summary>
    public Task<List<Piece>> ListAsync(PieceQuery query, CancellationToken cancel)
    {
        var asked = new Conditions();
        if (query.Store is { } store)
            asked.Add($"p.store_id = {asked.Bind(store)}");

        // State and limit stand in the query itself: both decide which index answers it, and there are few of either.
        if (query.State is { } state)
            asked.Add($"p.state = '{Code.Of(state)}'");
        if (query.Families is { } families)
            asked.Add($"p.family = any({asked.Bind(families.ToArray())})");
        if (query.WithoutRetired)
            asked.Add($"p.state not in {Fragments.Retired}");
        return database
            .Command(
                $"select {PieceRows.Columns} {From} where {asked} order by s.position, p.peg, p.mark limit {query.Most}"
            )
            .Positional(asked.Values)
            .ListAsync(PieceRows.From, cancel);
    }

    /// <summary>The newest baseline of each measure.</summary>
    /// <param name="at">As they stood after a fact, where a record of then is corrected; null: now.</param>
    public Task<IReadOnlyDictionary<BaselineKey, BaselineRow>> BaselinesAsync(
        Guid piece,
        CancellationToken cancel,
        FactOrder? at = null
    ) => database.AskAsync(t => Baselines(t, piece, at), cancel);

    /// <summary>The same, on a trip made with other questions.</summary>
    public static Asked<IReadOnlyDictionary<BaselineKey, BaselineRow>> Baselines(
        Trip trip,
        Guid piece,
        FactOrder? at = null
    )
    {
        var asked = new Conditions();
        asked.Add($"b.piece_id = {asked.Bind(piece)}");
        if (at is { } seen)
            asked.Add($"b.seq <= {asked.Bind(seen.Number)}");
        return trip.Ask(
            new NpgsqlBatchCommand(
                $"""
                select distinct on (b.part, b.criterion) b.part, b.criterion, b.value, b.basis, b.links, b.set_at, w.name
                from baseline b join person w on w.id = b.set_by
                where {asked}
                order by b.part, b.criterion, b.id desc
                """
            ).Positional(asked.Values),
            BaselineFrom,
            rows => (IReadOnlyDictionary<BaselineKey, BaselineRow>)rows.ToDictionary(r => r.Key)
        );
    }

    /// <summary>The newest figure of each measure of some pieces; an empty set for a piece without any.</summary>
    internal static async Task<IReadOnlyDictionary<Guid, Dictionary<BaselineKey, BaselineFigure>>> FiguresAsync(
        Database database,
        IEnumerable<Guid> pieces,
        CancellationToken cancel
    )
    {
        var wanted = pieces.ToArray();
        var rows = await database
            .Command(
                """
                select distinct on (piece_id, part, criterion) piece_id, part, criterion, value, basis, links
                from baseline where piece_id = any($1) order by piece_id, part, criterion, id desc
                """
            )
            .Positional([wanted])
            .ListAsync(
                r =>
                    (
                        Piece: r.GetGuid(0),
                        Key: new BaselineKey(r.GetString(1), r.GetString(2)),
                        Figure: new BaselineFigure(
                            Length.Parse(r.GetString(3)),
                            Code.Parse<BaselineBasis>(r.GetString(4)),
                            r.ValueOrNull<int>("links")
                        )
                    ),
                cancel
            )
            .ConfigureAwait(false);
        var of = wanted.ToDictionary(id => id, _ => new Dictionary<BaselineKey, BaselineFigure>());
        foreach (var (piece, key, figure) in rows)
            of[piece][key] = figure;
        return of;
    }

    /// <summary>The newest figure of each measure of some pieces.</summary>
    public Task<IReadOnlyDictionary<Guid, Dictionary<BaselineKey, BaselineFigure>>> FiguresAsync(
        IEnumerable<Guid> pieces,
        CancellationToken cancel
    ) => FiguresAsync(database, pieces, cancel);

    /// <summary>Marks of other pieces of the same maker with the same serial.</summary>
    public static Asked<List<string>> TwinsOfSerial(Trip trip, Guid piece) =>
        trip.All(
            new NpgsqlBatchCommand(
                $"""
                select o.mark from piece p
                join piece o on upper(o.serial) = upper(p.serial) and o.id <> p.id
                  and {Fragments.Key("o.maker")} = {Fragments.Key("p.maker")}
                where p.id = $1 order by o.mark limit 5
                """
            ).Positional(piece),
            r => r.GetString(0)
        );

    /// <summary>Registers a piece: new, to be inspected before first use.</summary>
    /// <param name="entry">What was entered.</param>
    /// <param name="id">The piece's client-made id.</param>
    public Task<Checked<Recorded>> RegisterAsync(PieceEntry entry, Guid id, Stamp stamp, CancellationToken cancel) =>
        RegisterAsync([(id, entry)], stamp, cancel);

    /// <summary>Registers pieces, all or none: new, to be inspected before first use.</summary>
    public Task<Checked<Recorded>> RegisterAsync(
        IReadOnlyList<(Guid Id, PieceEntry Entry)> pieces,
        Stamp stamp,
        CancellationToken cancel
    ) => Session.RunAsync(database, stamp, session => PieceWriter.RegisterAsync(session, pieces, null), cancel);

    /// <summary>Changes what is entered of a piece. Its mark and family stay.</summary>
    /// <param name="version">The version the change was made on.</param>
    /// <param name="grounds">Why, and by what, where a verdict stands on what is changed.</param>
    public Task<Checked<Recorded>> EditAsync(
        Guid id,
        int version,
        PieceEntry entry,
        Grounds grounds,
        Stamp stamp,
        CancellationToken cancel
    ) =>
        Session.RunAsync(
            database,
            stamp,
            async session =>
            {
                var beside = new Trip();
                var known = Baselines(beside, id);
                var standing = JudgeAgain.Standing(beside, id);
                var paper = FileStore.IsOf(beside, grounds.File ?? Guid.Empty, id);
                if (await session.LockAsync(id, beside).ConfigureAwait(false) is not { } piece)
                    return Refusals.NoSuchPiece;
                if (piece.Version != version)
                    return Refusals.PieceChanged;
                if (grounds.File is not null && !paper.Value)
                    return Refusals.PaperOfAnother;
                var figures = known.Value.ToDictionary(b => b.Key, b => b.Value.Figure);
                var facts = new ChangeFacts(piece, entry, figures, session.Site) { Standing = standing.Value?.Case };
                var changed = ChangeOfFacts.Of(facts, grounds, session.By);
                return changed.Ok
                    ? await WriteAsync(session, piece, entry, changed.Value, grounds).ConfigureAwait(false)
                    : changed.Refusal;
            },
            cancel
        );

    internal static async Task<Refusal?> WriteAsync(
        Session session,
        Piece piece,
        PieceEntry entry,
        ChangeOutcome outcome,
        Grounds grounds
    )
    {
        if (
            entry.Store != piece.StoreId
            && await PieceWriter.RefusalOfStoresAsync(session, [entry.Store], piece.SiteId).ConfigureAwait(false)
                is { } closed
        )
            return closed;
        await PieceWriter.ChangeAsync(session, piece, entry, outcome.Figures).ConfigureAwait(false);
        if (outcome.Hold is { } hold)
            await session.HoldAsync(piece.Id, hold).ConfigureAwait(false);
        await session
            .DeriveAsync(piece with { ServiceClass = entry.ServiceClass }, outcome.State)
            .ConfigureAwait(false);
        if (outcome.Changes.Count == 0)
        {
            await session.LedgerAsync(new PieceChanged(PieceWriter.Describe(entry)), piece.Mark).ConfigureAwait(false);
            await RecalledGear.CatchAsync(session, [piece.Id]).ConfigureAwait(false);
            return null;
        }

        var record = new PieceFactsChanged(
            [.. outcome.Changes.Select(c => new RecordedChange(c.Field, c.Before, c.After))],
            grounds.Why!.Trim(),
            grounds.File,
            outcome.Hold?.Reason,
            PieceWriter.Describe(entry)
        );
        await session
            .WriteAsync(
                """
                insert into fact_change (id, piece_id, changes, why, attachment_id, at, by_person)
                values ($1, $2, $3::jsonb, $4, $5, $6, $7)
                """,
                session.Stamp.Submission,
                piece.Id,
                JsonSerializer.Serialize(outcome.Changes.Select(c => c.ToString())),
                record.Why,
                grounds.File,
                session.Stamp.At,
                session.Stamp.Actor.Id
            )
            .ConfigureAwait(false);
        await session.LedgerAsync(record, piece.Mark).ConfigureAwait(false);
        await RecalledGear.CatchAsync(session, [piece.Id]).ConfigureAwait(false);
        return null;
    }

    /// <summary>The facts of a piece that were changed after it was inspected, newest first.</summary>
    public static Asked<List<FactChangeRow>> FactChanges(Trip trip, Guid piece) =>
        trip.All(
            new NpgsqlBatchCommand(
                """
                select f.changes::text as changes, f.why, f.attachment_id, f.at, w.name
                from fact_change f join person w on w.id = f.by_person
                where f.piece_id = $1
                order by f.at desc
                """
            ).Positional(piece),
            r => new FactChangeRow(
                JsonSerializer.Deserialize<List<string>>(r.Get<string>("changes"))!,
                r.Get<string>("why"),
                r.ValueOrNull<Guid>("attachment_id"),
                r.Get<DateTimeOffset>("at"),
                r.Get<string>("name")
            )
        );

    /// <summary>What its marking said over time, newest first.</summary>
    public static Asked<List<TagRecord>> Tags(Trip trip, Guid piece) =>
        trip.All(
            new NpgsqlBatchCommand(
                """
                select t.rated_load, t.design_factor, t.rated_for, t.entries, t.words::text as words, t.why, t.at, w.name
                from tag_record t join person w on w.id = t.by_person where t.piece_id = $1 order by t.id desc limit 50
                """
            ).Positional(piece),
            TagRecord.From
        );

    private static BaselineRow BaselineFrom(NpgsqlDataReader r) =>
        new(
            new(r.Get<string>("part"), r.Get<string>("criterion")),
            new(
                Length.Parse(r.Get<string>("value")),
                Code.Parse<BaselineBasis>(r.Get<string>("basis")),
                r.ValueOrNull<int>("links")
            ),
            r.Get<DateTimeOffset>("set_at"),
            r.Get<string>("name")
        );
}
