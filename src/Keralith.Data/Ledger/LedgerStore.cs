using System.Globalization;
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
                select number, at, actor, kind, subject, data, previous, hash, form
                from ledger
                where ($1::text is null or subject = $1) and ($2::bigint is null or number < $2)
                order by number desc
                limit $3
                """
            )
            .Positional(subject, before, most)
            .ListAsync(Entry, cancel);

    /// <summary>What of the ledger is looked at; every filter is optional.</summary>
    /// <param name="Subject">A piece's mark, or what else it is about.</param>
    /// <param name="Actor">The sign-in name of who did it.</param>
    /// <param name="Kind">The kind of entry.</param>
    /// <param name="From">The first moment.</param>
    /// <param name="Until">The moment after the last.</param>
    public sealed record Query(
        string? Subject = null,
        string? Actor = null,
        string? Kind = null,
        DateTimeOffset? From = null,
        DateTimeOffset? Until = null
    );

    /// <summary>An entry with who did it by name, and whether it is about a piece.</summary>
    public sealed record Line(LedgerEntry Entry, string Who, bool IsOfPiece);

    /// <summary>Entries of a query, newest first.</summary>
    /// <param name="before">Only entries before this number; null: from the newest on.</param>
    public Task<List<Line>> LinesAsync(Query query, long? before, int most, CancellationToken cancel) =>
        database
            .Command(
                """
                select l.number, l.at, l.actor, l.kind, l.subject, l.data, l.previous, l.hash, l.form,
                  coalesce(w.name, l.actor) as who, p.id is not null as of_piece
                from ledger l
                left join person w on w.username = l.actor
                left join piece p on p.mark = l.subject
                where ($1::text is null or l.subject = $1)
                  and ($2::text is null or l.actor = $2)
                  and ($3::text is null or l.kind = $3)
                  and ($4::timestamptz is null or l.at >= $4)
                  and ($5::timestamptz is null or l.at < $5)
                  and ($6::bigint is null or l.number < $6)
                order by l.number desc
                limit $7
                """
            )
            .Positional(query.Subject, query.Actor, query.Kind, query.From, query.Until, before, most)
            .ListAsync(r => new Line(Entry(r), r.Get<string>("who"), r.Get<bool>("of_piece")), cancel);

    /// <summary>Everybody who has an entry, by name.</summary>
    public Task<List<(string Actor, string Name)>> ActorsAsync(CancellationToken cancel) =>
        database
            .Command(
                "select username, name from person where exists (select from ledger l where l.actor = username) order by name"
            )
            .ListAsync(r => (r.GetString(0), r.GetString(1)), cancel);

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
            "select number, at, actor, kind, subject, data, previous, hash, form from ledger order by number"
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

    /// <summary>
    /// Appends records, in their order, in the transaction that makes them, with the rows it wrote: those of a piece are
    /// told by the first entry about it, those of nothing an entry is about by the first that is about the same as the
    /// last. Called last, so that appending is serial for as short as can be.
    /// </summary>
    /// <param name="told">Which of several parts of what was written is told; null: what was since the last was appended.</param>
    internal static async Task AppendAllAsync(
        Session session,
        IReadOnlyCollection<(string Subject, LedgerRecord Record)> records,
        int? told = null
    )
    {
        var part = told ?? session.Part;
        var stamp = session.Stamp;
        var subjects = records.Select(r => r.Subject).Distinct().ToArray();
        var others = records.Last().Subject;
        var (number, hash, digests) = await LastAsync(session, subjects, others, part).ConfigureAwait(false);
        var entries = new List<LedgerEntry>(records.Count);
        var telling = new Dictionary<string, long>();
        foreach (var (subject, record) in records)
        {
            if (digests.Remove(subject, out var rows))
                telling.Add(subject, number + 1);
            entries.Add(LedgerChain.Seal(++number, stamp.At, stamp.Actor.Username, record, subject, hash, rows));
            hash = entries[^1].Hash;
        }

        var trip = new Trip();
        if (entries is [var only])
            trip.Do(
                new NpgsqlBatchCommand(
                    $"insert into ledger ({Columns}) values ($1, $2, $3, $4, $5, $6, $7, $8, $9)"
                ).Positional(Values(only))
            );
        else
            await CopyAsync(session, entries).ConfigureAwait(false);
        if (telling.Count > 0)
        {
            trip.Do(
                new NpgsqlBatchCommand(
                    $"""
                    with taken as (delete from record_change where tx = pg_current_xact_id() and part = $3 returning *)
                    insert into ledger_row (number, kind, key, image)
                    select e.number, c.kind, c.key, c.image
                    from ({Last("taken")}) c
                    left join piece p on p.id = c.piece_id
                    join unnest($1::text[], $4::bigint[]) as e (subject, number)
                      on e.subject = case when p.mark = any($1) then p.mark else $2 end
                    """
                ).Positional(telling.Keys.ToArray(), others, part, telling.Values.ToArray())
            );

            // What is written from here on is looked for by itself, and not among all that was told before.
            if (told is null)
                trip.All(
                    new NpgsqlBatchCommand("select set_config('keralith.part', $1::text, true)").Positional(
                        (++session.Part).ToString(CultureInfo.InvariantCulture)
                    ),
                    r => r.GetString(0)
                );
        }

        await session.AskAsync(trip).ConfigureAwait(false);
    }

    private static async Task CopyAsync(Session session, List<LedgerEntry> entries)
    {
        await using var rows = await session
            .CopyAsync($"copy ledger ({Columns}) from stdin (format binary)")
            .ConfigureAwait(false);
        foreach (var entry in entries)
            await rows.WriteRowAsync(session.Cancel, Values(entry)).ConfigureAwait(false);
        await rows.CompleteAsync(session.Cancel).ConfigureAwait(false);
    }

    /// <summary>Of rows written several times the last.</summary>
    private static string Last(string changes) =>
        $"select distinct on (kind, key) kind, key, piece_id, image from {changes} order by kind, key, n desc";

    /// <summary>SHA-256 of rows, in SQL: a line each, by table and key, in the order of their bytes.</summary>
    internal const string Digest = """
        encode(sha256(convert_to(string_agg(kind || E'\t' || key || E'\t' || coalesce(image::text, ''), E'\n'
          order by kind collate "C", key collate "C"), 'UTF8')), 'hex')
        """;

    /// <summary>
    /// The number and hash of the last entry, behind the lock under which entries are appended one after the other, and
    /// the digests of the rows this transaction wrote, by subject.
    /// </summary>
    private static async Task<(long Number, byte[] Hash, Dictionary<string, string> Digests)> LastAsync(
        Session session,
        string[] subjects,
        string others,
        int part
    )
    {
        var trip = new Trip();
        trip.All(new NpgsqlBatchCommand("select 1 from pg_advisory_xact_lock($1)").Positional(AppendLock), r =>
            r.GetInt32(0)
        );
        var last = trip.All(new NpgsqlBatchCommand("select number, hash from ledger order by number desc limit 1"), r =>
            (Number: r.GetInt64(0), Hash: r.GetFieldValue<byte[]>(1))
        );
        var digests = trip.All(
            new NpgsqlBatchCommand(
                $"""
                select subject, {Digest} as digest
                from (
                  select case when p.mark = any($1) then p.mark else $2 end as subject, c.kind, c.key, c.image
                  from ({Last("record_change where tx = pg_current_xact_id() and part = $3")}) c
                  left join piece p on p.id = c.piece_id) told
                group by subject
                """
            ).Positional(subjects, others, part),
            r => (Subject: r.Get<string>("subject"), Digest: r.Get<string>("digest"))
        );
        await session.AskAsync(trip).ConfigureAwait(false);
        var (number, hash) = last.Value.Count == 0 ? (0, LedgerChain.Beginning) : last.Value[0];
        return (number, hash, digests.Value.ToDictionary(d => d.Subject, d => d.Digest));
    }

    internal const string Columns = "number, at, actor, kind, subject, data, previous, hash, form";

    private static object?[] Values(LedgerEntry e) =>
        [e.Number, e.At, e.Actor, e.Kind, e.Subject, e.Data, e.Previous, e.Hash, (short)e.Form];

    internal static LedgerEntry Entry(NpgsqlDataReader r) =>
        new(
            r.Get<long>("number"),
            r.Get<DateTimeOffset>("at"),
            r.Get<string>("actor"),
            r.Get<string>("kind"),
            r.Get<string>("subject"),
            r.Get<string>("data"),
            r.Get<byte[]>("previous"),
            r.Get<byte[]>("hash")
        )
        {
            Form = (CanonicalForm)r.Get<short>("form"),
        };
}
