using System.IO.Compression;
using System.Text;
using Keralith.Core.Ledger;
using Npgsql;

namespace Keralith.Data.Exchange;

/// <summary>What a pack is about.</summary>
/// <param name="From">The first day.</param>
/// <param name="Until">The last day.</param>
/// <param name="Store">Pieces that hang in this store alone; null: in any.</param>
/// <param name="Family">Pieces of this family alone; null: of any.</param>
/// <param name="Mark">This piece alone; null: any.</param>
public sealed record PackScope(DateOnly From, DateOnly Until, int? Store, string? Family, string? Mark);

/// <summary>What a pack holds, for its summary.</summary>
/// <param name="Title">The works, the period and what it is narrowed to.</param>
/// <param name="Lines">Of each file of lines by its name, one JSON object each.</param>
/// <param name="Entries">Of the ledger, up to the head.</param>
/// <param name="Head">The head that holds it all.</param>
public sealed record PackContents(
    string Title,
    IReadOnlyDictionary<string, IReadOnlyList<string>> Lines,
    int Entries,
    TreeHead Head
);

/// <summary>
/// The auditor's pack: one archive with what was on record of a period, the ledger with its head, and how to check it. Read in
/// one transaction that sees one moment; the same scope gives the same bytes, as long as nothing on record of it changed.
/// </summary>
public sealed class AuditPack(Database database)
{
    private const string Scope = """
        (select p.id, p.mark from piece p
         where ($3::int is null or p.store_id = $3) and ($4::text is null or p.family = $4) and ($5::text is null or p.mark = $5))
        """;

    /// <summary>Each file of lines: its name and what it holds, one JSON object a line.</summary>
    private static readonly (string Name, string Sql)[] Files =
    [
        (
            "register.jsonl",
            $"""
            select json_build_object('mark', p.mark, 'family', p.family, 'maker', p.maker, 'model', p.model, 'serial', p.serial,
              'batch', p.batch, 'ratedLoad', p.rated_load, 'ratedFor', p.rated_for, 'store', s.name, 'peg', p.peg, 'state', p.state,
              'verdict', p.verdict, 'periodicDue', p.periodic_due, 'frequentDue', p.frequent_due, 'inServiceSince', p.in_service_since,
              'attributes', p.attributes)::text
            from piece p join store s on s.id = p.store_id join {Scope} x on x.id = p.id
            where p.registered_at < $2 and $1::timestamptz is not null
            order by p.mark
            """
        ),
        (
            "inspections.jsonl",
            $"""
            select json_build_object('inspection', i.id, 'mark', x.mark, 'kind', i.kind, 'inspectedOn', i.inspected_on, 'signedAt', i.signed_at,
              'signedBy', w.username, 'verdict', i.verdict, 'superseded', s.why, 'case', i.case_document::json,
              'findings', i.verdict_document::json)::text
            from inspection i join {Scope} x on x.id = i.piece_id join person w on w.id = i.signed_by
            left join supersession s on s.inspection_id = i.id
            where i.signed_at >= $1 and i.signed_at < $2
            order by i.signed_at, i.id
            """
        ),
        (
            "holds.jsonl",
            $"""
            select json_build_object('mark', x.mark, 'cause', h.cause, 'reason', h.reason, 'placedAt', h.placed_at, 'placedBy', w.username,
              'closedAt', f.released_at, 'closedBy', v.username, 'why', f.reason)::text
            from hold h join {Scope} x on x.id = h.piece_id join person w on w.id = h.placed_by
            left join release f on f.hold_id = h.id and f.released_at < $2 left join person v on v.id = f.released_by
            where h.placed_at < $2 and coalesce(f.released_at, 'infinity') >= $1
            order by h.placed_at, h.id
            """
        ),
        (
            "proof-tests.jsonl",
            $"""
            select json_build_object('mark', x.mark, 'subject', t.subject, 'load', t.load, 'factor', t.factor, 'on', t.tested_on,
              'madeBy', t.made_by, 'instrument', t.instrument, 'calibratedUntil', t.calibrated_until, 'certificate', t.certificate,
              'passed', t.passed, 'recordedBy', w.username, 'wrong', r.why)::text
            from proof_test t join {Scope} x on x.id = t.piece_id join person w on w.id = t.by_person
            left join put_right r on r.record_id = t.id
            where t.at >= $1 and t.at < $2
            order by t.at, t.id
            """
        ),
        (
            "authorisations.jsonl",
            """
            select json_build_object('person', w.username, 'name', w.name, 'group', a.family_group, 'until', a.until, 'setAt', a.set_at,
              'setBy', v.username)::text
            from authorisation a join person w on w.id = a.person_id join person v on v.id = a.set_by
            where a.set_at < $2 and a.until >= $1::date and ($3::int is null or true) and ($4::text is null or true) and ($5::text is null or true)
            order by a.set_at, a.id
            """
        ),
        (
            "instruments.jsonl",
            """
            select json_build_object('instrument', n.name, 'uncertainty', n.uncertainty, 'calibrationDue', n.calibration_due, 'setAt', n.set_at)::text
            from instrument n
            where n.set_at < $2 and $1::timestamptz is not null and ($3::int is null or true) and ($4::text is null or true) and ($5::text is null or true)
            order by n.set_at, n.id
            """
        ),
        (
            "rules.jsonl",
            """
            select json_build_object('number', l.number, 'at', l.at, 'kind', l.kind, 'actor', l.actor, 'data', l.data::json)::text
            from ledger l
            where l.at < $2 and (l.kind like 'rules.%' or l.kind in ('works.set-up', 'site.added'))
              and $1::timestamptz is not null and ($3::int is null or true) and ($4::text is null or true) and ($5::text is null or true)
            order by l.number
            """
        ),
        (
            "ledger.jsonl",
            $"""
            select json_build_object('number', l.number, 'at', to_char(l.at at time zone 'utc', 'YYYY-MM-DD"T"HH24:MI:SS.US"Z"'),
              'actor', l.actor, 'kind', l.kind, 'subject', l.subject, 'form', l.form, 'previous', encode(l.previous, 'hex'),
              'hash', encode(l.hash, 'hex'), 'data', l.data)::text
            from ledger l
            where l.at >= $1 and l.at < $2 and l.subject in (select mark from {Scope} x)
            order by l.number
            """
        ),
    ];

    private const string HowToCheck = """
        How to check this pack

        1. Each line of ledger.jsonl is a sealed entry. Its hash is SHA-256 of: the 32 bytes of "previous"; its head as JSON with
           sorted keys and nothing between them (RFC 8785) of actor, at, form ("rfc8785"), kind, number, subject (entries of form 1: without
           form); a line feed; "data" as it stands, in UTF-8.
        2. Line n of hashes.txt is the hash of entry n of the whole ledger: the entries here must stand there.
        3. The Merkle root (RFC 6962) over the lines of hashes.txt, each as 32 bytes, must be "root" in head.json.
        4. head.sig signs head.signed by the key key.pem (ECDSA on P-256, SHA-256):
             openssl dgst -sha256 -verify key.pem -signature head.sig head.signed
           head.signed is head.json without its signature.
        5. Compare the key's fingerprint with the one the works shows on its page /heads, and the head with one you keep.

        A record that was put right stays: "superseded" says why. The maker's instructions, local code and a qualified person
        come first.
        """;

    /// <summary>Writes a pack.</summary>
    /// <param name="zone">Whose days the period is of.</param>
    /// <param name="print">Sets its summary on paper, as PDF.</param>
    /// <param name="progress">Told how many lines are read; null: nobody asks.</param>
    /// <returns>False where no signed head holds the period yet: nothing was written.</returns>
    public async Task<bool> WriteAsync(
        Stream output,
        PackScope scope,
        TimeZoneInfo zone,
        Func<PackContents, byte[]> print,
        CancellationToken cancel,
        IProgress<int>? progress = null
    )
    {
        await using var connection = await database.OpenAsync(cancel);
        await using var moment = await connection.BeginTransactionAsync(
            System.Data.IsolationLevel.RepeatableRead,
            cancel
        );
        var (from, until) = (StartOf(scope.From, zone), StartOf(scope.Until.AddDays(1), zone));
        if (await HeadAsync(moment, until, cancel) is not var (head, key))
            return false;

        var read = 0;
        string Line(NpgsqlDataReader row)
        {
            progress?.Report(++read);
            return row.GetString(0);
        }

        var buffer = new MemoryStream();
        using (var archive = new ZipArchive(buffer, ZipArchiveMode.Create, leaveOpen: true))
        {
            var pack = new Writer(archive, scope.Until);
            var counts = new List<string>();
            var all = new Dictionary<string, IReadOnlyList<string>>();
            foreach (var (name, sql) in Files)
            {
                var lines = await moment
                    .Command(sql)
                    .Positional(from, until, scope.Store, scope.Family, scope.Mark)
                    .ListAsync(Line, cancel);
                counts.Add($"{lines.Count, 8}  {name}");
                all[name] = lines;
                pack.Text(name, string.Concat(lines.Select(l => $"{l}\n")));
            }

            var hashes = await moment
                .Command("select encode(hash, 'hex') from ledger where number <= $1 order by number")
                .Positional(head.Size)
                .ListAsync(Line, cancel);
            pack.Proofs(hashes, head, key);
            var title = $"{head.Works}: {scope.From:yyyy-MM-dd} to {scope.Until:yyyy-MM-dd}{Said(scope)}";
            pack.Bytes("summary.pdf", print(new(title, all, hashes.Count, head)));
            pack.Text(
                "summary.txt",
                $"{title}\n\n{string.Join('\n', counts)}\n{hashes.Count, 8}  entries of the ledger, by the head of {head.At:yyyy-MM-dd HH:mm} UTC\n"
            );
        }

        buffer.Position = 0;
        await buffer.CopyToAsync(output, cancel);
        return true;
    }

    /// <summary>The first signed head that holds all of a period, with its key; null: none does yet.</summary>
    private static async Task<(TreeHead Head, string Key)?> HeadAsync(
        NpgsqlTransaction moment,
        DateTimeOffset until,
        CancellationToken cancel
    )
    {
        var last = await moment
            .Command(
                $"select coalesce(max(number), 0) as number from ledger where at < $1 and kind not in {TreeHeadStore.OfHeads}"
            )
            .Positional(until)
            .ListAsync(r => r.Get<long>("number"), cancel);
        var heads = await moment
            .Command(
                """
                select h.works, h.size, h.root, h.at, h.key, h.signature, k.public_pem
                from tree_head h join head_key k on k.fingerprint = h.key
                where h.size >= $1
                order by h.id limit 1
                """
            )
            .Positional(Math.Max(1, last[0]))
            .ListAsync(
                r =>
                    (
                        Head: new TreeHead(
                            r.Get<string>("works"),
                            r.Get<long>("size"),
                            r.Get<byte[]>("root"),
                            r.Get<DateTimeOffset>("at"),
                            r.Get<string>("key"),
                            r.Get<byte[]>("signature")
                        ),
                        Key: r.Get<string>("public_pem")
                    ),
                cancel
            );
        return heads is [var found] ? found : null;
    }

    private static string Said(PackScope scope) =>
        string.Concat(
            scope.Mark is null ? "" : $", {scope.Mark}",
            scope.Family is null ? "" : $", {scope.Family}",
            scope.Store is null ? "" : $", store {scope.Store}"
        );

    private static DateTimeOffset StartOf(DateOnly day, TimeZoneInfo zone)
    {
        var midnight = day.ToDateTime(TimeOnly.MinValue);
        return new DateTimeOffset(midnight, zone.GetUtcOffset(midnight)).ToUniversalTime();
    }

    /// <summary>Writes files whose bytes depend on what is in them alone.</summary>
    private sealed class Writer(ZipArchive archive, DateOnly day)
    {
        private static readonly int Earliest = 1980;

        /// <summary>What the pack is checked by.</summary>
        public void Proofs(IEnumerable<string> hashes, TreeHead head, string key)
        {
            Text("hashes.txt", string.Concat(hashes.Select(h => $"{h}\n")));
            Text("head.json", head.Json());
            Bytes("head.signed", head.Sealed);
            Bytes("head.sig", head.Signature);
            Text("key.pem", key);
            Text("how-to-check.txt", HowToCheck);
        }

        public void Text(string name, string text) => Bytes(name, Encoding.UTF8.GetBytes(text));

        public void Bytes(string name, byte[] bytes)
        {
            var entry = archive.CreateEntry(name, CompressionLevel.Optimal);
            entry.LastWriteTime = new DateTimeOffset(
                Math.Max(day.Year, Earliest),
                day.Month,
                day.Day,
                0,
                0,
                0,
                TimeSpan.Zero
            );
            using var to = entry.Open();
            to.Write(bytes);
        }
    }
}
