using Keralith.Core;
using Keralith.Core.Custody;
using Keralith.Core.Judgement;
using Keralith.Core.Markings;
using Keralith.Core.Quantities;
using Keralith.Core.Register;
using Npgsql;

namespace Keralith.Data;

/// <summary>What to list of the pieces of a store or a state.</summary>
public sealed record PieceQuery
{
    public int? Store { get; init; }

    public PieceState? State { get; init; }

    /// <summary>Only pieces whose periodic or frequent inspection runs out up to this day.</summary>
    public DateOnly? DueBy { get; init; }

    /// <summary>Leave out what will never lift again.</summary>
    public bool WithoutRetired { get; init; }

    public int Most { get; init; } = 200;
}

/// <summary>A baseline on record.</summary>
public sealed record BaselineRow(BaselineKey Key, BaselineFigure Figure, DateTimeOffset SetAt, string SetBy);

/// <summary>The register of pieces.</summary>
public sealed class PieceStore(Database database, SiteStore sites)
{
    private const string From = "from piece p join store s on s.id = p.store_id";

    private readonly Recorder _recorder = new(database);

    /// <summary>The piece of a mark, or of a serial only one piece has; null when there is none.</summary>
    public async Task<PieceRow?> FindAsync(string text, CancellationToken cancel)
    {
        var wanted = text.Trim().ToUpperInvariant();
        var found = await database.Command($"""
            select {PieceRow.Columns} {From} where p.mark = $1 or upper(p.serial) = $1 order by (p.mark = $1) desc limit 2
            """).Positional(wanted).ListAsync(PieceRow.From, cancel).ConfigureAwait(false);
        return found.Count == 1 || (found.Count == 2 && found[0].Mark == wanted) ? found[0] : null;
    }

    public Task<PieceRow?> GetAsync(Guid id, CancellationToken cancel) =>
        database.Command($"select {PieceRow.Columns} {From} where p.id = $1").Positional(id).FirstAsync(PieceRow.From, cancel);

    /// <summary>Pieces by store, peg and mark.</summary>
    public Task<List<PieceRow>> ListAsync(PieceQuery query, CancellationToken cancel) => database.Command($"""
        select {PieceRow.Columns} {From}
        where ($1::int is null or p.store_id = $1)
          and ($2::text is null or p.state = $2)
          and ($3::date is null or ((p.periodic_due <= $3 or p.frequent_due <= $3) and p.state in ('in-service', 'held')))
          and (not $4 or p.state not in ('condemned', 'destroyed'))
        order by s.position, p.peg, p.mark
        limit $5
        """)
        .Positional(query.Store, query.State is { } state ? Words.Code(state) : null, query.DueBy, query.WithoutRetired, query.Most)
        .ListAsync(PieceRow.From, cancel);

    /// <summary>The newest baseline of each measure.</summary>
    public async Task<IReadOnlyDictionary<BaselineKey, BaselineRow>> BaselinesAsync(Guid piece, CancellationToken cancel)
    {
        await using var connection = await database.OpenAsync(cancel).ConfigureAwait(false);
        return await BaselinesAsync(new NpgsqlCommand { Connection = connection }, piece, cancel).ConfigureAwait(false);
    }

    /// <summary>Other pieces of the same maker with the same serial.</summary>
    public Task<List<string>> TwinsOfSerialAsync(string maker, string serial, string exceptMark, CancellationToken cancel) =>
        database.Command("select mark from piece where upper(serial) = upper($1) and upper(maker) = upper($2) and mark <> $3 order by mark limit 5")
            .Positional(serial, maker, exceptMark).ListAsync(r => r.GetString(0), cancel);

    /// <summary>Registers a piece: new, to be inspected before first use.</summary>
    /// <param name="entry">What was entered.</param>
    /// <param name="id">The piece's client-made id.</param>
    public Task<Checked<Recorded>> RegisterAsync(PieceEntry entry, Guid id, Stamp stamp, CancellationToken cancel) => RegisterAsync([(id, entry)], stamp, cancel);

    /// <summary>Registers pieces, all or none: new, to be inspected before first use.</summary>
    public Task<Checked<Recorded>> RegisterAsync(IReadOnlyList<(Guid Id, PieceEntry Entry)> pieces, Stamp stamp, CancellationToken cancel) => _recorder.RecordAsync(
        stamp,
        async transaction =>
        {
            foreach (var (id, entry) in pieces)
            {
                if (await RegisterAsync(transaction, id, entry, stamp, cancel).ConfigureAwait(false) is { } refusal) return refusal;
            }

            return null;
        },
        cancel);

    private static async Task<string?> RegisterAsync(NpgsqlTransaction transaction, Guid id, PieceEntry entry, Stamp stamp, CancellationToken cancel)
    {
        if (PieceEntry.RefusalOf(entry.Baselines.Values, stamp.Actor.Role) is { } provisional) return provisional;
        if (entry.Surroundings.RefusalOf(Surroundings.Ordinary, stamp.Actor.Role) is { } asked) return asked;
        var taken = await transaction.Command("select state from piece where mark = $1").Positional(entry.Mark.Text).FirstAsync(r => r.GetString(0), cancel).ConfigureAwait(false);
        if (taken is not null) return Taken(entry.Mark, taken);
        var inserted = await transaction.Command("""
            insert into piece (id, mark, family, serial, maker, model, attributes, rated_load, design_factor, rated_for, tag_entries,
                               service_class, in_service_since, store_id, peg, surroundings, state, registered_at)
            select $1, $2, $3, $4, $5, $6, $7::jsonb, $8, $9, $10, $11, $12, $13, $14, $15, $16::jsonb, 'new', $17
            where exists (select from store where id = $14)
            on conflict (mark) do nothing
            """)
            .Positional([id, .. Identity(entry), stamp.At])
            .RunAsync(cancel).ConfigureAwait(false);
        if (inserted == 0) return Taken(entry.Mark, "new");
        await SetBaselinesAsync(transaction, id, entry.Baselines, stamp, cancel).ConfigureAwait(false);
        await LedgerStore.AppendAsync(transaction, stamp, "piece.registered", entry.Mark.Text, Describe(entry), cancel).ConfigureAwait(false);
        return null;
    }

    /// <summary>Changes what is entered of a piece. Its mark and family stay.</summary>
    /// <param name="version">The version the change was made on.</param>
    public Task<Checked<Recorded>> EditAsync(Guid id, int version, PieceEntry entry, Stamp stamp, CancellationToken cancel) => _recorder.RecordAsync(
        stamp,
        async transaction =>
        {
            if (await Recorder.LockAsync(transaction, id, cancel).ConfigureAwait(false) is not { } piece) return "There is no such piece.";
            if (piece.State.IsRetired()) return "This piece is retired; its record stands as it is.";
            if (piece.Version != version) return Recorder.Conflict;
            if (piece.Mark != entry.Mark.Text || piece.Gear.Family != entry.Gear.Family) return "The mark and the family of a piece never change; register another.";
            if (entry.Surroundings.RefusalOf(piece.Surroundings, stamp.Actor.Role) is { } asked) return asked;
            await transaction.Command("""
                update piece set serial = $2, maker = $3, model = $4, attributes = $5::jsonb, rated_load = $6, design_factor = $7, rated_for = $8, tag_entries = $9,
                  service_class = $10, in_service_since = $11, store_id = $12, peg = $13, surroundings = $14::jsonb
                where id = $1
                """)
                .Positional([id, .. Identity(entry)[2..]])
                .RunAsync(cancel).ConfigureAwait(false);
            var known = await BaselinesAsync(transaction.Command(string.Empty), id, cancel).ConfigureAwait(false);
            var changed = entry.Baselines.Where(b => !known.TryGetValue(b.Key, out var row) || row.Figure != b.Value).ToList();
            if (PieceEntry.RefusalOf(changed.Select(b => b.Value), stamp.Actor.Role) is { } provisional) return provisional;
            await SetBaselinesAsync(transaction, id, changed, stamp, cancel).ConfigureAwait(false);
            await Recorder.DeriveAsync(transaction, await sites.GetAsync(cancel).ConfigureAwait(false), piece with { ServiceClass = entry.ServiceClass }, piece.State, cancel).ConfigureAwait(false);
            await LedgerStore.AppendAsync(transaction, stamp, "piece.changed", piece.Mark, Describe(entry), cancel).ConfigureAwait(false);
            return null;
        },
        cancel);

    internal static async Task<IReadOnlyDictionary<BaselineKey, BaselineRow>> BaselinesAsync(NpgsqlCommand command, Guid piece, CancellationToken cancel)
    {
        command.CommandText = """
            select distinct on (b.part, b.criterion) b.part, b.criterion, b.value, b.basis, b.links, b.set_at, w.name
            from baseline b join person w on w.id = b.set_by
            where b.piece_id = $1
            order by b.part, b.criterion, b.id desc
            """;
        var rows = await command.Positional(piece).ListAsync(
            r => new BaselineRow(
                new(r.Get<string>("part"), r.Get<string>("criterion")),
                new(Length.Parse(r.Get<string>("value")), Words.Parse<BaselineBasis>(r.Get<string>("basis"), Words.Code), r.ValueOrNull<int>("links")),
                r.Get<DateTimeOffset>("set_at"),
                r.Get<string>("name")),
            cancel).ConfigureAwait(false);
        return rows.ToDictionary(r => r.Key);
    }

    private static object?[] Identity(PieceEntry e) =>
    [
        e.Mark.Text, e.Gear.Family.Code, e.Serial, e.Maker, e.Model, PieceRow.AttributesJson(e.Gear), e.RatedLoad?.ToString(), e.DesignFactor, e.RatedFor, e.TagEntries.ToArray(),
        Words.Code(e.ServiceClass), e.InServiceSince, e.Store, e.Peg, PieceRow.SurroundingsJson(e.Surroundings),
    ];

    private static async Task SetBaselinesAsync(NpgsqlTransaction transaction, Guid piece, IEnumerable<KeyValuePair<BaselineKey, BaselineFigure>> baselines, Stamp stamp, CancellationToken cancel)
    {
        foreach (var (key, figure) in baselines)
        {
            await transaction.Command("insert into baseline (piece_id, part, criterion, value, basis, links, set_at, set_by) values ($1, $2, $3, $4, $5, $6, $7, $8)")
                .Positional(piece, key.Part, key.Criterion, figure.Length.ToString(), Words.Code(figure.Basis), figure.Links, stamp.At, stamp.Actor.Id)
                .RunAsync(cancel).ConfigureAwait(false);
        }
    }

    private static string Taken(Mark mark, string state) => Words.Find<PieceState>(state, Words.Code) is { } s && s.IsRetired()
        ? $"{mark} was {state}. The mark of a retired piece is never used again: choose another."
        : $"{mark} is registered already. Every piece has a mark of its own: choose another.";

    private static object Describe(PieceEntry e) => new
    {
        family = e.Gear.Family.Code,
        attributes = e.Gear.Values.ToDictionary(v => v.Key, v => v.Value.Text),
        e.Serial,
        e.Maker,
        e.Model,
        ratedLoad = e.RatedLoad?.ToString(),
        e.DesignFactor,
        e.RatedFor,
        e.TagEntries,
        meets = new { coldest = e.Surroundings.Coldest?.ToString(), hottest = e.Surroundings.Hottest?.ToString(), hasMet = e.Surroundings.HasMet?.ToString(), chemicals = e.Surroundings.Chemicals.Select(Words.Code), e.Surroundings.MakersWord },
        serviceClass = Words.Code(e.ServiceClass),
        e.InServiceSince,
        e.Store,
        e.Peg,
        baselines = e.Baselines.Select(b => new { b.Key.Part, b.Key.Criterion, value = b.Value.Length.ToString(), basis = Words.Code(b.Value.Basis), b.Value.Links }),
    };
}
