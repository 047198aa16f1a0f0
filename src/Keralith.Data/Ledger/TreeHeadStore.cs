using System.Security.Cryptography;
using Keralith.Core.Ledger;
using Npgsql;

namespace Keralith.Data;

/// <summary>A key heads are signed with; the newest signs.</summary>
/// <param name="Fingerprint">Of its public half.</param>
/// <param name="PublicPem">Its public half.</param>
/// <param name="Sealed">Its private half, sealed by the application.</param>
public sealed record HeadKeyRow(string Fingerprint, string PublicPem, string Sealed, DateTimeOffset MadeAt);

/// <summary>The ledger as a Merkle log: signed heads, and proofs for single entries.</summary>
public sealed class TreeHeadStore(Database database)
{
    private const long HeadLock = 0x68656164;

    /// <summary>The heads that were signed, newest first.</summary>
    public Task<List<TreeHead>> HeadsAsync(int most, CancellationToken cancel) =>
        database
            .Command("select works, size, root, at, key, signature from tree_head order by id desc limit $1")
            .Positional(most)
            .ListAsync(From, cancel);

    /// <summary>The keys, newest first.</summary>
    public Task<List<HeadKeyRow>> KeysAsync(CancellationToken cancel) =>
        database
            .Command("select fingerprint, public_pem, sealed, made_at from head_key order by made_at desc, fingerprint")
            .ListAsync(
                r => new HeadKeyRow(
                    r.Get<string>("fingerprint"),
                    r.Get<string>("public_pem"),
                    r.Get<string>("sealed"),
                    r.Get<DateTimeOffset>("made_at")
                ),
                cancel
            );

    /// <summary>Keeps a new key: from now on heads are signed with it.</summary>
    public Task AddKeyAsync(HeadKeyRow key, CancellationToken cancel) =>
        Session.RunAsync(
            database,
            new(JudgeAgain.Itself, key.MadeAt, Guid.CreateVersion7()),
            async session =>
            {
                await session
                    .WriteAsync(
                        "insert into head_key (fingerprint, public_pem, sealed, made_at) values ($1, $2, $3, $4)",
                        key.Fingerprint,
                        key.PublicPem,
                        key.Sealed,
                        key.MadeAt
                    )
                    .ConfigureAwait(false);
                await session.LedgerAsync(new HeadKeyKept(key.Fingerprint), "record").ConfigureAwait(false);
                return null;
            },
            cancel
        );

    /// <summary>Entries that tell of heads alone: a ledger that has no other since has not grown.</summary>
    internal const string OfHeads = "('head.kept', 'head.signed', 'head.key-kept')";

    /// <summary>Signs the ledger's head; null while it is empty or has not grown since the last.</summary>
    /// <param name="again">Whether it is signed also where it has not grown: after a new key.</param>
    public async Task<TreeHead?> SignAsync(
        string works,
        ECDsa key,
        DateTimeOffset now,
        bool again,
        CancellationToken cancel
    )
    {
        TreeHead? head = null;
        await Session
            .RunAsync(
                database,
                new(JudgeAgain.Itself, now, Guid.CreateVersion7()),
                async session =>
                {
                    head = await SignAsync(session, works, key, now, again).ConfigureAwait(false);
                    return null;
                },
                cancel
            )
            .ConfigureAwait(false);
        return head;
    }

    private static async Task<TreeHead?> SignAsync(
        Session session,
        string works,
        ECDsa key,
        DateTimeOffset now,
        bool again
    )
    {
        await session.WriteAsync("select 1 from pg_advisory_xact_lock($1)", HeadLock).ConfigureAwait(false);
        var grown = await session
            .ReadAsync(
                $"""
                select exists (
                  select from ledger
                  where number > (select coalesce(max(size), 0) from tree_head) and kind not in {OfHeads})
                """,
                r => r.GetBoolean(0)
            )
            .ConfigureAwait(false);
        var leaves =
            grown[0] || again
                ? await LeavesAsync(session.Command(LeavesSql).Positional(long.MaxValue), session.Cancel)
                    .ConfigureAwait(false)
                : [];
        if (leaves.Length == 0)
            return null;
        var head = new TreeHead(
            works,
            leaves.Length,
            MerkleLog.Root(leaves),
            new(now.UtcTicks - (now.UtcTicks % TimeSpan.TicksPerSecond), TimeSpan.Zero),
            TreeHead.FingerprintOf(key),
            []
        ).SignedBy(key);
        await session
            .WriteAsync(
                "insert into tree_head (works, size, root, at, key, signature) values ($1, $2, $3, $4, $5, $6)",
                head.Works,
                head.Size,
                head.Root,
                head.At,
                head.Key,
                head.Signature
            )
            .ConfigureAwait(false);
        await session.LedgerAsync(new HeadSigned(head.Size, head.Key), "record").ConfigureAwait(false);
        return head;
    }

    /// <summary>The leaves of the ledger as it stands, as far as a number.</summary>
    public Task<byte[][]> LeavesAsync(long upTo, CancellationToken cancel) =>
        LeavesAsync(database.Command(LeavesSql).Positional(upTo), cancel);

    /// <summary>A signed inspection as a certificate anybody can check; null where no head holds it yet.</summary>
    public async Task<string?> CertificateAsync(string mark, Guid inspection, CancellationToken cancel)
    {
        var found = await database
            .Command(
                $"""
                select {LedgerStore.Columns} from ledger
                where subject = $1 and kind = 'inspection.signed' and data::json->>'inspection' = $2
                """
            )
            .Positional(mark, inspection.ToString())
            .ListAsync(LedgerStore.Entry, cancel);
        if (found is not [var entry])
            return null;
        var later = await database
            .Command(
                $"""
                select {LedgerStore.Columns} from ledger
                where subject = $1 and (kind = 'inspection.withdrawn' and data::json->>'inspection' = $2
                  or kind = 'inspection.signed' and data::json->>'corrects' = $2)
                order by number desc limit 1
                """
            )
            .Positional(mark, inspection.ToString())
            .ListAsync(LedgerStore.Entry, cancel);
        var heads = await database
            .Command(
                """
                select h.works, h.size, h.root, h.at, h.key, h.signature, k.public_pem
                from tree_head h join head_key k on k.fingerprint = h.key
                where h.size >= $1
                order by h.id desc limit 1
                """
            )
            .Positional(entry.Number)
            .ListAsync(r => (Head: From(r), Key: r.Get<string>("public_pem")), cancel);
        if (heads is not [var (head, key)])
            return null;
        var leaves = await LeavesAsync(head.Size, cancel);
        IReadOnlyList<byte[]> Path(LedgerEntry of) =>
            of.Number <= head.Size ? MerkleLog.Inclusion((int)of.Number - 1, leaves) : [];
        return CertificateDocument.Write(entry, Path(entry), head, key, later is [var by] ? (by, Path(by)) : null);
    }

    /// <summary>What of the heads kept here the ledger does not meet, in words.</summary>
    internal async Task<List<string>> AgainstAsync(CancellationToken cancel)
    {
        var keys = (await KeysAsync(cancel)).ToDictionary(k => k.Fingerprint);
        var heads = await HeadsAsync(int.MaxValue, cancel);
        if (heads.Count == 0)
            return [];
        var leaves = await LeavesAsync(long.MaxValue, cancel);
        var found = new List<string>();
        foreach (var head in heads)
        {
            using var key = ECDsa.Create();
            try
            {
                key.ImportFromPem(keys[head.Key].PublicPem);
            }
            catch (Exception e) when (e is KeyNotFoundException or ArgumentException or CryptographicException)
            {
                found.Add($"the key {head.Key} is gone or can't be read");
                continue;
            }

            if (head.Against(leaves, key) is { } why)
                found.Add(why);
        }

        return found;
    }

    private const string LeavesSql = "select hash from ledger where number <= $1 order by number";

    private static async Task<byte[][]> LeavesAsync(NpgsqlCommand command, CancellationToken cancel) =>
        [.. await command.ListAsync(r => MerkleLog.Leaf(r.GetFieldValue<byte[]>(0)), cancel)];

    private static TreeHead From(NpgsqlDataReader r) =>
        new(
            r.Get<string>("works"),
            r.Get<long>("size"),
            r.Get<byte[]>("root"),
            r.Get<DateTimeOffset>("at"),
            r.Get<string>("key"),
            r.Get<byte[]>("signature")
        );
}
