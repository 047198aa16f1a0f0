using System.Text.Json;
using Keralith.Core.Custody;
using Keralith.Core.Judgement;
using Keralith.Core.Quantities;
using Keralith.Core.Register;
using Keralith.Core.Tags;
using Npgsql;
using NpgsqlTypes;

namespace Keralith.Data;

/// <summary>What a marking said when it was entered.</summary>
public sealed record TagRecord(
    Mass? RatedLoad,
    decimal? DesignFactor,
    string? RatedFor,
    IReadOnlyList<string> Entries,
    TagWords Words,
    string Why,
    DateTimeOffset At,
    string By
)
{
    internal static TagRecord From(NpgsqlDataReader r) =>
        new(
            r.TextOrNull("rated_load") is { } rated ? Mass.Parse(rated) : null,
            r.ValueOrNull<decimal>("design_factor"),
            r.TextOrNull("rated_for"),
            r.Get<string[]>("entries"),
            PieceEntryReader
                .Details(JsonSerializer.Deserialize<Dictionary<string, string>>(r.Get<string>("words"))!)
                .Tag,
            r.Get<string>("why"),
            r.Get<DateTimeOffset>("at"),
            r.Get<string>("name")
        );
}

/// <summary>Writes pieces, one or many alike: the columns of what is entered stand here once.</summary>
internal static class PieceWriter
{
    /// <summary>The columns filled from what is entered; the first two never change.</summary>
    private static readonly (string Name, NpgsqlDbType Type, Func<PieceEntry, object?> Value)[] Columns =
    [
        ("mark", NpgsqlDbType.Text, e => e.Mark.Text),
        ("family", NpgsqlDbType.Text, e => e.Gear.Family.Code),
        ("serial", NpgsqlDbType.Text, e => e.Serial),
        ("maker", NpgsqlDbType.Text, e => e.Maker),
        ("model", NpgsqlDbType.Text, e => e.Model),
        ("batch", NpgsqlDbType.Text, e => e.Batch),
        ("attributes", NpgsqlDbType.Jsonb, e => PieceRow.AttributesJson(e.Gear)),
        ("rated_load", NpgsqlDbType.Text, e => e.RatedLoad?.ToString()),
        ("rated_kg", NpgsqlDbType.Numeric, e => e.RatedLoad?.Kilograms),
        ("design_factor", NpgsqlDbType.Numeric, e => e.DesignFactor),
        ("rated_for", NpgsqlDbType.Text, e => e.RatedFor),
        ("tag_entries", NpgsqlDbType.Array | NpgsqlDbType.Text, e => e.TagEntries.ToArray()),
        ("tag_read", NpgsqlDbType.Boolean, e => e.TagRead),
        ("details", NpgsqlDbType.Jsonb, PieceRow.DetailsJson),
        ("service_class", NpgsqlDbType.Text, e => Code.Of(e.ServiceClass)),
        ("in_service_since", NpgsqlDbType.Date, e => e.InServiceSince),
        ("calibration_due", NpgsqlDbType.Date, e => e.CalibrationDue),
        ("lot_count", NpgsqlDbType.Integer, e => e.LotCount),
        ("store_id", NpgsqlDbType.Integer, e => e.Store),
        ("peg", NpgsqlDbType.Text, e => e.Peg),
        ("surroundings", NpgsqlDbType.Jsonb, e => PieceRow.SurroundingsJson(e.Surroundings)),
    ];

    /// <summary>Registers pieces in a transaction, all or none.</summary>
    /// <param name="progress">Told how many are written; may be null.</param>
    /// <returns>Why none was registered; null when all were.</returns>
    public static async Task<string?> RegisterAsync(
        NpgsqlTransaction transaction,
        IReadOnlyList<(Guid Id, PieceEntry Entry)> pieces,
        Stamp stamp,
        IProgress<int>? progress,
        CancellationToken cancel
    )
    {
        var today = DateOnly.FromDateTime(stamp.At.UtcDateTime);
        foreach (var (_, entry) in pieces)
        {
            if (RefusalOf(entry, stamp, today) is { } refusal)
                return pieces.Count == 1 ? refusal : $"{entry.Mark}: {refusal}";
        }

        if (pieces.GroupBy(p => p.Entry.Mark).FirstOrDefault(g => g.Count() > 1) is { } twice)
            return $"{twice.Key} stands twice.";
        var taken = await transaction
            .Command("select mark, state from piece where mark = any($1) order by mark limit 1")
            .Positional([pieces.Select(p => p.Entry.Mark.Text).ToArray()])
            .ListAsync(r => Taken(r.GetString(0), r.GetString(1)), cancel)
            .ConfigureAwait(false);
        if (taken.Count > 0)
            return taken[0];
        try
        {
            await InsertAsync(transaction, pieces, stamp, progress, cancel).ConfigureAwait(false);
        }
        catch (PostgresException e)
            when (e.SqlState == PostgresErrorCodes.UniqueViolation && e.ConstraintName == "piece_mark_key")
        {
            return "Somebody else registered one of these marks in the same moment. Nothing was saved: send it again.";
        }
        catch (PostgresException e)
            when (e.SqlState == PostgresErrorCodes.ForeignKeyViolation && e.ConstraintName == "piece_store_id_fkey")
        {
            return "Choose the store it hangs in.";
        }

        await LedgerStore
            .AppendAllAsync(
                transaction,
                stamp,
                "piece.registered",
                pieces.Select(p => (p.Entry.Mark.Text, Describe(p.Entry))),
                cancel
            )
            .ConfigureAwait(false);
        return null;
    }

    /// <summary>Writes a change of what is entered; the caller has locked the piece and checked the change.</summary>
    public static async Task<string?> ChangeAsync(
        NpgsqlTransaction transaction,
        PieceRow before,
        PieceEntry entry,
        IReadOnlyList<KeyValuePair<BaselineKey, BaselineFigure>> baselines,
        Stamp stamp,
        CancellationToken cancel
    )
    {
        if (entry.RefusalOn(DateOnly.FromDateTime(stamp.At.UtcDateTime)) is { } refusal)
            return refusal;
        await using var command = transaction.Command(
            $"update piece set {string.Join(", ", Columns.Skip(2).Select((c, i) => $"{c.Name} = ${i + 2}"))} where id = $1"
        );
        command.Parameters.Add(new() { Value = before.Id });
        foreach (var (_, type, value) in Columns.Skip(2))
            command.Parameters.Add(
                new()
                {
                    NpgsqlDbType = type,
                    Value = value(entry) is { } v
                        ? v is string text
                            ? Clean(text)
                            : v
                        : DBNull.Value,
                }
            );
        await command.ExecuteNonQueryAsync(cancel).ConfigureAwait(false);
        var was = before.Entry(entry.Baselines);
        if (
            was.RatedLoad?.ToString() != entry.RatedLoad?.ToString()
            || was.DesignFactor != entry.DesignFactor
            || was.RatedFor != entry.RatedFor
            || !was.TagWords.Equals(entry.TagWords)
            || was.TagRead != entry.TagRead
            || !was.TagEntries.Order().SequenceEqual(entry.TagEntries.Order())
        )
        {
            await InsertTagsAsync(
                    transaction,
                    [(before.Id, entry)],
                    before.TagRead ? "read again" : "read for the first time",
                    stamp,
                    cancel
                )
                .ConfigureAwait(false);
        }

        if (before.CarriedOver is null)
            await InsertCarriedAsync(transaction, [(before.Id, entry)], stamp, cancel).ConfigureAwait(false);
        await InsertBaselinesAsync(transaction, baselines.Select(b => (before.Id, b.Key, b.Value)), stamp, cancel)
            .ConfigureAwait(false);
        return null;
    }

    /// <summary>What the ledger keeps of a piece: everything entered of it.</summary>
    public static object Describe(PieceEntry entry) =>
        PieceEntryFields.Of(entry).Where(f => f.Value.Length > 0 && f.Key != "mark").ToDictionary();

    internal static async Task InsertBaselinesAsync(
        NpgsqlTransaction transaction,
        IEnumerable<(Guid Piece, BaselineKey Key, BaselineFigure Figure)> baselines,
        Stamp stamp,
        CancellationToken cancel
    )
    {
        var rows = baselines.ToList();
        if (rows.Count == 0)
            return;
        await using var copy = await transaction
            .Connection!.BeginBinaryImportAsync(
                "copy baseline (piece_id, part, criterion, value, basis, links, set_at, set_by) from stdin (format binary)",
                cancel
            )
            .ConfigureAwait(false);
        foreach (var (piece, key, figure) in rows)
        {
            await copy.StartRowAsync(cancel).ConfigureAwait(false);
            await copy.WriteAsync(piece, cancel).ConfigureAwait(false);
            await copy.WriteAsync(key.Part, cancel).ConfigureAwait(false);
            await copy.WriteAsync(key.Criterion, cancel).ConfigureAwait(false);
            await copy.WriteAsync(figure.Length.ToString(), cancel).ConfigureAwait(false);
            await copy.WriteAsync(Code.Of(figure.Basis), cancel).ConfigureAwait(false);
            if (figure.Links is { } links)
                await copy.WriteAsync(links, cancel).ConfigureAwait(false);
            else
                await copy.WriteNullAsync(cancel).ConfigureAwait(false);
            await copy.WriteAsync(stamp.At, NpgsqlDbType.TimestampTz, cancel).ConfigureAwait(false);
            await copy.WriteAsync(stamp.Actor.Id, cancel).ConfigureAwait(false);
        }

        await copy.CompleteAsync(cancel).ConfigureAwait(false);
    }

    private static string? RefusalOf(PieceEntry entry, Stamp stamp, DateOnly today) =>
        PieceEntry.RefusalOf(entry.Baselines.Values, stamp.Actor.Role)
        ?? entry.Surroundings.RefusalOf(Surroundings.Ordinary, stamp.Actor.Role)
        ?? entry.RefusalOn(today);

    private static async Task InsertAsync(
        NpgsqlTransaction transaction,
        IReadOnlyList<(Guid Id, PieceEntry Entry)> pieces,
        Stamp stamp,
        IProgress<int>? progress,
        CancellationToken cancel
    )
    {
        var today = DateOnly.FromDateTime(stamp.At.UtcDateTime);
        await using (
            var copy = await transaction
                .Connection!.BeginBinaryImportAsync(
                    $"copy piece (id, state, registered_at, touched, {string.Join(", ", Columns.Select(c => c.Name))}) from stdin (format binary)",
                    cancel
                )
                .ConfigureAwait(false)
        )
        {
            for (var i = 0; i < pieces.Count; i++)
            {
                var (id, entry) = pieces[i];
                await copy.StartRowAsync(cancel).ConfigureAwait(false);
                await copy.WriteAsync(id, cancel).ConfigureAwait(false);
                await copy.WriteAsync(Code.Of(PieceState.New), cancel).ConfigureAwait(false);
                await copy.WriteAsync(stamp.At, NpgsqlDbType.TimestampTz, cancel).ConfigureAwait(false);
                await copy.WriteAsync(today, cancel).ConfigureAwait(false);
                foreach (var (_, type, value) in Columns)
                {
                    if (value(entry) is not { } v)
                        await copy.WriteNullAsync(cancel).ConfigureAwait(false);
                    else
                        await copy.WriteAsync(v is string text ? Clean(text) : v, type, cancel).ConfigureAwait(false);
                }

                if (i % 250 == 249)
                    progress?.Report(i + 1);
            }

            await copy.CompleteAsync(cancel).ConfigureAwait(false);
        }

        await InsertBaselinesAsync(
                transaction,
                pieces.SelectMany(p => p.Entry.Baselines.Select(b => (p.Id, b.Key, b.Value))),
                stamp,
                cancel
            )
            .ConfigureAwait(false);
        await InsertTagsAsync(transaction, pieces.Where(p => p.Entry.TagRead), "registered", stamp, cancel)
            .ConfigureAwait(false);
        await InsertCarriedAsync(transaction, pieces, stamp, cancel).ConfigureAwait(false);
    }

    private static async Task InsertTagsAsync(
        NpgsqlTransaction transaction,
        IEnumerable<(Guid Id, PieceEntry Entry)> pieces,
        string why,
        Stamp stamp,
        CancellationToken cancel
    )
    {
        await using var copy = await transaction
            .Connection!.BeginBinaryImportAsync(
                "copy tag_record (piece_id, rated_load, design_factor, rated_for, entries, words, why, at, by_person) from stdin (format binary)",
                cancel
            )
            .ConfigureAwait(false);
        foreach (var (id, entry) in pieces)
        {
            await copy.StartRowAsync(cancel).ConfigureAwait(false);
            await copy.WriteAsync(id, cancel).ConfigureAwait(false);
            await TextAsync(entry.RatedLoad?.ToString()).ConfigureAwait(false);
            if (entry.DesignFactor is { } factor)
                await copy.WriteAsync(factor, cancel).ConfigureAwait(false);
            else
                await copy.WriteNullAsync(cancel).ConfigureAwait(false);
            await TextAsync(entry.RatedFor).ConfigureAwait(false);
            await copy.WriteAsync(entry.TagEntries.ToArray(), cancel).ConfigureAwait(false);
            await copy.WriteAsync(
                    PieceRow.DetailsJson(entry with { Notes = null, Members = [], Fit = Core.Gear.FitSizes.None }),
                    NpgsqlDbType.Jsonb,
                    cancel
                )
                .ConfigureAwait(false);
            await copy.WriteAsync(why, cancel).ConfigureAwait(false);
            await copy.WriteAsync(stamp.At, NpgsqlDbType.TimestampTz, cancel).ConfigureAwait(false);
            await copy.WriteAsync(stamp.Actor.Id, cancel).ConfigureAwait(false);
        }

        await copy.CompleteAsync(cancel).ConfigureAwait(false);

        Task TextAsync(string? text) =>
            text is null ? copy.WriteNullAsync(cancel) : copy.WriteAsync(Clean(text), cancel);
    }

    private static async Task InsertCarriedAsync(
        NpgsqlTransaction transaction,
        IEnumerable<(Guid Id, PieceEntry Entry)> pieces,
        Stamp stamp,
        CancellationToken cancel
    )
    {
        foreach (var chunk in pieces.Where(p => p.Entry.CarriedOver is not null).Chunk(1000))
        {
            await transaction
                .Command(
                    """
                    insert into carried_over (piece_id, last_periodic, inspector, evidence, at, by_person)
                    select id, day, inspector, evidence, $5, $6 from unnest($1::uuid[], $2::date[], $3::text[], $4::text[]) as c (id, day, inspector, evidence)
                    """
                )
                .Positional(
                    chunk.Select(p => p.Id).ToArray(),
                    chunk.Select(p => p.Entry.CarriedOver!.LastPeriodic).ToArray(),
                    chunk.Select(p => Clean(p.Entry.CarriedOver!.Inspector)).ToArray(),
                    chunk.Select(p => Clean(p.Entry.CarriedOver!.Evidence)).ToArray(),
                    stamp.At,
                    stamp.Actor.Id
                )
                .RunAsync(cancel)
                .ConfigureAwait(false);
        }
    }

    internal static string Taken(string mark, string state) =>
        Code.Find<PieceState>(state) is { } s && s.IsRetired()
            ? $"{mark} was {state}. The mark of a retired piece is never used again: choose another."
            : $"{mark} is registered already. Every piece has a mark of its own: choose another.";

    /// <summary>Texts lose NUL, which PostgreSQL can't hold.</summary>
    private static string Clean(string text) => text.Replace("\0", string.Empty, StringComparison.Ordinal);
}
