using System.Text.Json;
using Keralith.Core.Custody;
using Keralith.Core.Judgement;
using Keralith.Core.Ledger;
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
        ("attributes", NpgsqlDbType.Jsonb, e => PieceRows.AttributesJson(e.Gear)),
        ("rated_load", NpgsqlDbType.Text, e => e.RatedLoad?.ToString()),
        ("rated_kg", NpgsqlDbType.Numeric, e => e.RatedLoad?.Kilograms),
        ("design_factor", NpgsqlDbType.Numeric, e => e.DesignFactor),
        ("rated_for", NpgsqlDbType.Text, e => e.RatedFor),
        ("tag_entries", NpgsqlDbType.Array | NpgsqlDbType.Text, e => e.TagEntries.ToArray()),
        ("tag_read", NpgsqlDbType.Boolean, e => e.TagRead),
        ("details", NpgsqlDbType.Jsonb, PieceRows.DetailsJson),
        ("service_class", NpgsqlDbType.Text, e => Code.Of(e.ServiceClass)),
        ("in_service_since", NpgsqlDbType.Date, e => e.InServiceSince),
        ("calibration_due", NpgsqlDbType.Date, e => e.CalibrationDue),
        ("lot_count", NpgsqlDbType.Integer, e => e.LotCount),
        ("store_id", NpgsqlDbType.Integer, e => e.Store),
        ("peg", NpgsqlDbType.Text, e => e.Peg),
        ("surroundings", NpgsqlDbType.Jsonb, e => PieceRows.SurroundingsJson(e.Surroundings)),
    ];

    /// <summary>Why pieces can't be entered beside those on record that they would be taken for; null when they can.</summary>
    private static async Task<Refusal?> RefusalOfLikenessAsync(
        Session session,
        IReadOnlyList<(Guid Id, PieceEntry Entry)> pieces
    )
    {
        var entries = pieces.Select(p => p.Entry).ToDictionary(e => e.Mark.Text);
        if (pieces.GroupBy(p => p.Entry.Mark.Look).FirstOrDefault(g => g.Count() > 1) is { } two)
            return RegisterActs.RefusalOfLikeness(
                two.Last().Entry,
                new(two.Last().Entry.Mark.Text, LikenessOf.Mark, two.First().Entry.Mark.Text),
                session.By
            );
        var like = await LikenessAsync(session, [.. entries.Values]).ConfigureAwait(false);
        return like.Select(l => RegisterActs.RefusalOfLikeness(entries[l.Entered], l, session.By))
            .FirstOrDefault(r => r is not null);
    }

    private static Task<List<Likeness>> LikenessAsync(Session session, IReadOnlyList<PieceEntry> entries) =>
        session.ReadAsync(
            $"""
            with entered as (
              select * from unnest($1::text[], $2::text[], $3::text[], $4::text[]) e (mark, look, serial, maker))
            select e.mark as entered, 'mark' as of, p.mark from entered e join piece p on {Fragments.Look(
                "p.mark"
            )} = e.look
            union all
            select e.mark, 'code', p.mark from entered e join piece p on upper(p.serial) = e.mark
            union all
            select e.mark, 'code', p.mark from entered e
              join piece_code c on c.code = e.mark and c.removed_at is null join piece p on p.id = c.piece_id
            union all
            select e.mark, 'others-mark', p.mark from entered e join piece p on p.mark = e.serial
            union all
            select e.mark, 'serial', p.mark from entered e
              join piece p on upper(p.serial) = e.serial and {Fragments.Key("p.maker")} = {Fragments.Key("e.maker")}
              where p.state not in {Fragments.Retired} and e.maker <> ''
            """,
            r => new Likeness(
                r.Get<string>("entered"),
                r.Get<string>("of") switch
                {
                    "mark" => LikenessOf.Mark,
                    "code" => LikenessOf.SerialOrCode,
                    "others-mark" => LikenessOf.OthersMark,
                    _ => LikenessOf.MakerAndSerial,
                },
                r.Get<string>("mark")
            ),
            [
                entries.Select(e => e.Mark.Text).ToArray(),
                entries.Select(e => e.Mark.Look).ToArray(),
                entries.Select(e => e.Serial?.Trim().ToUpperInvariant() ?? string.Empty).ToArray(),
                entries.Select(e => e.Maker ?? string.Empty).ToArray(),
            ]
        );

    /// <summary>Registers pieces in a transaction, all or none.</summary>
    /// <param name="progress">Told how many are written; may be null.</param>
    /// <returns>Why none was registered; null when all were.</returns>
    public static async Task<Refusal?> RegisterAsync(
        Session session,
        IReadOnlyList<(Guid Id, PieceEntry Entry)> pieces,
        IProgress<int>? progress
    )
    {
        foreach (var (_, entry) in pieces)
        {
            if (RegisterActs.RefusalToEnter(entry, session.By) is { } refusal)
                return pieces.Count == 1 ? refusal : refusal with { Words = $"{entry.Mark}: {refusal.Words}" };
        }

        if (pieces.GroupBy(p => p.Entry.Mark).FirstOrDefault(g => g.Count() > 1) is { } twice)
            return new Refusal($"{twice.Key} stands twice.");
        var taken = await session
            .ReadAsync(
                "select mark, state from piece where mark = any($1) order by mark limit 1",
                r => RegisterActs.RefusalOfMark(r.GetString(0), Code.Parse<PieceState>(r.GetString(1))),
                [pieces.Select(p => p.Entry.Mark.Text).ToArray()]
            )
            .ConfigureAwait(false);
        if (taken.Count > 0)
            return taken[0];
        if (await RefusalOfLikenessAsync(session, pieces).ConfigureAwait(false) is { } alike)
            return alike;
        if (await RefusalOfStoresAsync(session, pieces.Select(p => p.Entry.Store)).ConfigureAwait(false) is { } closed)
            return closed;
        try
        {
            await InsertAsync(session, pieces, progress).ConfigureAwait(false);
        }
        catch (PostgresException e)
            when (e.SqlState == PostgresErrorCodes.UniqueViolation && e.ConstraintName == "piece_mark_key")
        {
            return Refusals.MarkTaken;
        }
        catch (PostgresException e)
            when (e.SqlState == PostgresErrorCodes.ForeignKeyViolation && e.ConstraintName == "piece_store_id_fkey")
        {
            return Refusals.NoSuchStore;
        }

        await LedgerStore
            .AppendAllAsync(
                session,
                [.. pieces.Select(p => (p.Entry.Mark.Text, (LedgerRecord)new PieceRegistered(Describe(p.Entry))))]
            )
            .ConfigureAwait(false);
        if (
            pieces.Any(p => p.Entry.Details.ProofTestDue is not null)
            || session.Sites.All.Any(s => s.ProofAsks.Count > 0)
        )
            await session.DeriveNewAsync([.. pieces.Select(p => p.Id)]).ConfigureAwait(false);
        await RecalledGear.CatchAsync(session, [.. pieces.Select(p => p.Id)]).ConfigureAwait(false);
        return null;
    }

    /// <summary>Why nothing can hang in stores; null when they are there and open.</summary>
    /// <param name="site">The site they must belong to: to another a piece is moved; null: any.</param>
    public static async Task<Refusal?> RefusalOfStoresAsync(Session session, IEnumerable<int> stores, int? site = null)
    {
        var wanted = stores.Distinct().ToArray();
        var open = await session
            .ReadAsync(
                "select site_id from store where id = any($1) and closed_at is null",
                r => r.GetInt32(0),
                [wanted]
            )
            .ConfigureAwait(false);
        return open.Count != wanted.Length ? Refusals.NoSuchStore
            : site is { } own && open.Any(s => s != own) ? Refusals.OtherSite
            : null;
    }

    /// <summary>Writes a change of what is entered; the caller has locked the piece and asked Core.</summary>
    public static async Task ChangeAsync(
        Session session,
        Piece before,
        PieceEntry entry,
        IReadOnlyList<KeyValuePair<BaselineKey, BaselineFigure>> baselines
    )
    {
        await using var command = session.Command(
            $"update piece set {string.Join(", ", Columns.Skip(2).Select((c, i) => $"{c.Name} = ${i + 2}"))} where id = $1"
        );
        command.Parameters.Add(new() { Value = before.Id });
        foreach (var (_, type, value) in Columns.Skip(2))
            command.Parameters.Add(new() { NpgsqlDbType = type, Value = value(entry) ?? DBNull.Value });
        await command.ExecuteNonQueryAsync(session.Cancel).ConfigureAwait(false);
        if (before.Entry(entry.Baselines).SaysOtherwise(entry))
            await InsertTagsAsync(
                    session,
                    [(before.Id, entry)],
                    before.TagRead ? "read again" : "read for the first time"
                )
                .ConfigureAwait(false);
        if (before.CarriedOver is null)
            await InsertCarriedAsync(session, [(before.Id, entry)]).ConfigureAwait(false);
        await InsertBaselinesAsync(session, baselines.Select(b => (before.Id, b.Key, b.Value))).ConfigureAwait(false);
    }

    /// <summary>What the ledger keeps of a piece: everything entered of it.</summary>
    public static Dictionary<string, string> Describe(PieceEntry entry) =>
        PieceEntryFields.Of(entry).Where(f => f.Value.Length > 0 && f.Key != "mark").ToDictionary();

    internal static async Task InsertBaselinesAsync(
        Session session,
        IEnumerable<(Guid Piece, BaselineKey Key, BaselineFigure Figure)> baselines
    )
    {
        var (stamp, cancel) = (session.Stamp, session.Cancel);
        var rows = baselines.ToList();
        if (rows.Count == 0)
            return;
        await using var copy = await session
            .CopyAsync(
                "copy baseline (piece_id, part, criterion, value, basis, links, set_at, set_by) from stdin (format binary)"
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

    private static async Task InsertAsync(
        Session session,
        IReadOnlyList<(Guid Id, PieceEntry Entry)> pieces,
        IProgress<int>? progress
    )
    {
        var (stamp, cancel) = (session.Stamp, session.Cancel);
        var columns = string.Join(", ", Columns.Select(c => c.Name));
        await using (
            var copy = await session
                .CopyAsync($"copy piece (id, state, registered_at, touched, {columns}) from stdin (format binary)")
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
                await copy.WriteAsync(session.By.Day, cancel).ConfigureAwait(false);
                foreach (var (_, type, value) in Columns)
                {
                    if (value(entry) is { } kept)
                        await copy.WriteAsync(kept, type, cancel).ConfigureAwait(false);
                    else
                        await copy.WriteNullAsync(cancel).ConfigureAwait(false);
                }

                if (i % 250 == 249)
                    progress?.Report(i + 1);
            }

            await copy.CompleteAsync(cancel).ConfigureAwait(false);
        }

        await InsertBaselinesAsync(
                session,
                pieces.SelectMany(p => p.Entry.Baselines.Select(b => (p.Id, b.Key, b.Value)))
            )
            .ConfigureAwait(false);
        await InsertTagsAsync(session, pieces.Where(p => p.Entry.TagRead), "registered").ConfigureAwait(false);
        await InsertCarriedAsync(session, pieces).ConfigureAwait(false);
    }

    private static async Task InsertTagsAsync(
        Session session,
        IEnumerable<(Guid Id, PieceEntry Entry)> pieces,
        string why
    )
    {
        var (stamp, cancel) = (session.Stamp, session.Cancel);
        await using var copy = await session
            .CopyAsync(
                "copy tag_record (piece_id, rated_load, design_factor, rated_for, entries, words, why, at, by_person) from stdin (format binary)"
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
                    PieceRows.DetailsJson(entry with { Details = new() { Tag = entry.Details.Tag } }),
                    NpgsqlDbType.Jsonb,
                    cancel
                )
                .ConfigureAwait(false);
            await copy.WriteAsync(why, cancel).ConfigureAwait(false);
            await copy.WriteAsync(stamp.At, NpgsqlDbType.TimestampTz, cancel).ConfigureAwait(false);
            await copy.WriteAsync(stamp.Actor.Id, cancel).ConfigureAwait(false);
        }

        await copy.CompleteAsync(cancel).ConfigureAwait(false);

        Task TextAsync(string? text) => text is null ? copy.WriteNullAsync(cancel) : copy.WriteAsync(text, cancel);
    }

    private static async Task InsertCarriedAsync(Session session, IEnumerable<(Guid Id, PieceEntry Entry)> pieces)
    {
        foreach (var chunk in pieces.Where(p => p.Entry.CarriedOver is not null).Chunk(1000))
        {
            await session
                .WriteAsync(
                    """
                    insert into carried_over (piece_id, last_periodic, inspector, evidence, at, by_person)
                    select id, day, inspector, evidence, $5, $6
                    from unnest($1::uuid[], $2::date[], $3::text[], $4::text[]) as c (id, day, inspector, evidence)
                    """,
                    chunk.Select(p => p.Id).ToArray(),
                    chunk.Select(p => p.Entry.CarriedOver!.LastPeriodic).ToArray(),
                    chunk.Select(p => p.Entry.CarriedOver!.Inspector).ToArray(),
                    chunk.Select(p => p.Entry.CarriedOver!.Evidence).ToArray(),
                    session.Stamp.At,
                    session.Stamp.Actor.Id
                )
                .ConfigureAwait(false);
        }
    }
}
