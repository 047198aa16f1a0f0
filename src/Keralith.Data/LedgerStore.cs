using System.Text.Json;
using Keralith.Core.Ledger;
using Npgsql;

namespace Keralith.Data;

/// <summary>The ledger of signed records.</summary>
public sealed class LedgerStore(Database database)
{
    /// <summary>Any number; the same for all who append.</summary>
    private const long AppendLock = 0x6B657261;

    /// <summary>The newest entries, newest first.</summary>
    /// <param name="subject">Only those of this mark; null: of all.</param>
    /// <param name="before">Only those with a lower number; null: from the newest.</param>
    /// <param name="most">How many at the most.</param>
    public Task<List<LedgerEntry>> NewestAsync(string? subject, long? before, int most, CancellationToken cancel) =>
        database
            .Command(
                """
                select number, at, actor, kind, subject, data, previous, hash
                from ledger
                where ($1::text is null or subject = $1) and ($2::bigint is null or number < $2)
                order by number desc
                limit $3
                """
            )
            .Positional(subject, before, most)
            .ListAsync(Entry, cancel);

    /// <summary>The entry a signed inspection stands in; null for one from before entries named theirs.</summary>
    public async Task<(long Number, byte[] Hash)?> OfInspectionAsync(
        string mark,
        Guid inspection,
        CancellationToken cancel
    )
    {
        var found = await database
            .Command(
                "select number, hash from ledger where subject = $1 and kind = 'inspection.signed' and data::json->>'inspection' = $2"
            )
            .Positional(mark, inspection.ToString())
            .ListAsync(r => (r.GetInt64(0), r.GetFieldValue<byte[]>(1)), cancel)
            .ConfigureAwait(false);
        return found.Count == 0 ? null : found[0];
    }

    /// <summary>Asks how far the ledger has come: the number of its last entry, 0 while it is empty.</summary>
    public static Asked<long> Height(Trip trip) =>
        trip.Ask(
            new NpgsqlBatchCommand("select coalesce(max(number), 0) from ledger"),
            r => r.GetInt64(0),
            rows => rows[0]
        );

    /// <summary>Re-computes the whole chain.</summary>
    /// <returns>How many entries stand, and what is wrong with the first broken one, or null.</returns>
    public async Task<(long Entries, string? Broken)> VerifyAsync(CancellationToken cancel)
    {
        await using var command = database.Command(
            "select number, at, actor, kind, subject, data, previous, hash from ledger order by number"
        );
        await using var reader = await command.ExecuteReaderAsync(cancel).ConfigureAwait(false);
        LedgerEntry? before = null;
        while (await reader.ReadAsync(cancel).ConfigureAwait(false))
        {
            var entry = Entry(reader);
            if (LedgerChain.Check(before, entry) is { } broken)
                return (before?.Number ?? 0, broken);
            before = entry;
        }

        return (before?.Number ?? 0, null);
    }

    /// <summary>Appends a record in the transaction that makes it. Called last, so that appending is serial for as short as can be.</summary>
    internal static async Task AppendAsync(
        NpgsqlTransaction transaction,
        Stamp stamp,
        string kind,
        string subject,
        object data,
        CancellationToken cancel
    )
    {
        var (number, hash) = await LastAsync(transaction, cancel).ConfigureAwait(false);
        var entry = LedgerChain.Seal(
            number + 1,
            stamp.At,
            stamp.Actor.Username,
            kind,
            subject,
            JsonSerializer.Serialize(data, JsonSerializerOptions.Web),
            hash
        );
        await transaction
            .Command(
                "insert into ledger (number, at, actor, kind, subject, data, previous, hash) values ($1, $2, $3, $4, $5, $6, $7, $8)"
            )
            .Positional(
                entry.Number,
                entry.At,
                entry.Actor,
                entry.Kind,
                entry.Subject,
                entry.Data,
                entry.Previous,
                entry.Hash
            )
            .RunAsync(cancel)
            .ConfigureAwait(false);
    }

    /// <summary>Appends many records of one kind, in their order, in the transaction that makes them.</summary>
    internal static async Task AppendAllAsync(
        NpgsqlTransaction transaction,
        Stamp stamp,
        string kind,
        IEnumerable<(string Subject, object Data)> records,
        CancellationToken cancel
    )
    {
        var (number, hash) = await LastAsync(transaction, cancel).ConfigureAwait(false);
        await using var rows = await transaction
            .Connection!.BeginBinaryImportAsync(
                "copy ledger (number, at, actor, kind, subject, data, previous, hash) from stdin (format binary)",
                cancel
            )
            .ConfigureAwait(false);
        foreach (var (subject, data) in records)
        {
            var entry = LedgerChain.Seal(
                ++number,
                stamp.At,
                stamp.Actor.Username,
                kind,
                subject,
                JsonSerializer.Serialize(data, JsonSerializerOptions.Web),
                hash
            );
            await rows.WriteRowAsync(
                    cancel,
                    entry.Number,
                    entry.At,
                    entry.Actor,
                    entry.Kind,
                    entry.Subject,
                    entry.Data,
                    entry.Previous,
                    entry.Hash
                )
                .ConfigureAwait(false);
            hash = entry.Hash;
        }

        await rows.CompleteAsync(cancel).ConfigureAwait(false);
    }

    /// <summary>The number and hash of the last entry, behind the lock under which entries are appended one after the other.</summary>
    private static async Task<(long Number, byte[] Hash)> LastAsync(
        NpgsqlTransaction transaction,
        CancellationToken cancel
    )
    {
        var trip = new Trip();
        trip.All(new NpgsqlBatchCommand("select 1 from pg_advisory_xact_lock($1)").Positional(AppendLock), r =>
            r.GetInt32(0)
        );
        var last = trip.All(new NpgsqlBatchCommand("select number, hash from ledger order by number desc limit 1"), r =>
            (Number: r.GetInt64(0), Hash: r.GetFieldValue<byte[]>(1))
        );
        await trip.MakeAsync(transaction.Connection!, cancel).ConfigureAwait(false);
        return last.Value.Count == 0 ? (0, LedgerChain.Beginning) : last.Value[0];
    }

    private static LedgerEntry Entry(NpgsqlDataReader r) =>
        new(
            r.Get<long>("number"),
            r.Get<DateTimeOffset>("at"),
            r.Get<string>("actor"),
            r.Get<string>("kind"),
            r.Get<string>("subject"),
            r.Get<string>("data"),
            r.Get<byte[]>("previous"),
            r.Get<byte[]>("hash")
        );
}
