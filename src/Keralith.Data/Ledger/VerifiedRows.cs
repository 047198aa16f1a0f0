using Npgsql;

namespace Keralith.Data;

/// <summary>
/// The ledger folded into the present and held against the tables of the record, both ways, row by row: what was changed,
/// put in or taken out behind the acts is found, whatever the table.
/// </summary>
internal sealed class VerifiedRows
{
    private const int EntriesAtOnce = 50_000;

    private readonly Database _database;
    private readonly RecordRows _rows;

    private VerifiedRows(Database database, RecordRows rows, SealedWhole? whole) =>
        (_database, _rows, Whole) = (database, rows, whole);

    /// <summary>From where on the ledger tells the whole record: what it does not tell was put in. Null: it does not yet.</summary>
    public SealedWhole? Whole { get; }

    /// <summary>Reads what tables there are, and whether the ledger tells the whole record.</summary>
    public static async Task<VerifiedRows> OpenAsync(Database database, CancellationToken cancel)
    {
        var trip = new Trip();
        var (rows, whole) = (RecordRows.Of(trip), RecordSeal.Whole(trip));
        await database.MakeAsync(trip, cancel).ConfigureAwait(false);
        return new(database, rows.Value, whole.Value);
    }

    /// <summary>Whether every table of the record has the trigger that tells its rows, in force whoever writes.</summary>
    public Task<List<Unverified>> GuardsAsync(CancellationToken cancel) =>
        _database
            .Command(
                """
                select t.name from unnest($1::text[]) t (name)
                where not exists (
                  select from pg_trigger g
                  where g.tgrelid = t.name::regclass and g.tgname = t.name || '_is_told' and g.tgenabled = 'A')
                order by 1
                """
            )
            .Positional([RecordTables.All.Select(t => t.Name).ToArray()])
            .ListAsync(
                r => new Unverified(
                    null,
                    $"What is written into the table {r.GetString(0)} is told by no entry: its trigger is off."
                ),
                cancel
            );

    /// <summary>Whether the rows beside each entry are those whose digest it carries.</summary>
    public async Task<List<Unverified>> DigestsAsync(CancellationToken cancel)
    {
        var found = new List<Unverified>();
        var last = await LastNumberAsync(cancel).ConfigureAwait(false);
        for (var from = 0L; from < last; from += EntriesAtOnce)
            found.AddRange(
                await AskAsync(
                        $"""
                        select coalesce(l.number, r.number)
                        from (select number, data::json->>'rows' as digest from ledger where number > $1 and number <= $2) l
                        full join (
                          select number, {LedgerStore.Digest} as digest
                          from ledger_row where number > $1 and number <= $2 group by number) r on r.number = l.number
                        where l.digest is distinct from r.digest
                        order by 1
                        """,
                        r => new Unverified(
                            null,
                            $"The rows that entry {r.GetInt64(0)} tells are others than it was sealed with."
                        ),
                        cancel,
                        from,
                        from + EntriesAtOnce
                    )
                    .ConfigureAwait(false)
            );
        return found;
    }

    /// <summary>A table as it stands against what the ledger tells of it.</summary>
    public Task<List<Unverified>> TableAsync(RecordTable table, CancellationToken cancel) =>
        AskAsync(
            $"""
            select d.key, d.number, d.is_gone, d.named, d.others, coalesce(p.mark, s.mark) as mark
            from (
              select coalesce(n.key, t.key) as key, t.number, n.key is null as is_gone,
                i.image,
                coalesce(i.image->>'mark', i.image->>'name', i.image->>'criterion', n.key, t.key) as named,
                (select string_agg(k, ', ' order by k) from jsonb_object_keys(n.image) k
                 where n.image->k is distinct from ({_rows.WithNulls(table, "t.image")})->k) as others
              from ({_rows.Now(table)}) n
              full join ({table.Told}) t using (key)
              cross join lateral (select coalesce(n.image, t.image) as image) i
              where case
                when n.key is null then t.image is not null
                when t.image is null then t.key is not null or $1
                else n.image <> {_rows.WithNulls(table, "t.image")} end) d
            left join piece p on p.id = {table.PieceOf("d.image")}
            left join ledger l on l.number = d.number
            left join piece s on s.mark = l.subject and {(table.Piece is null ? "false" : "true")}
            order by mark, d.key
            """,
            r =>
            {
                var mark = r.TextOrNull("mark");
                var what = mark is null ? $"{Named(table)} {r.Get<string>("named")}" : $"A record of it ({table.What})";
                var entry = r.ValueOrNull<long>("number");
                return new Unverified(
                    mark,
                    r.Get<bool>("is_gone") ? $"{what} is gone: entry {entry} of the ledger tells of it."
                        : entry is null ? $"{what} is told by no entry of the ledger."
                        : $"{what} says something else than entry {entry} of the ledger: {r.TextOrNull("others") ?? "it was taken out there"}."
                );
            },
            cancel,
            Whole is not null
        );

    /// <summary>Every file against the digest it is told by, and the documents of inspections that no entry states.</summary>
    public Task<List<Unverified>> FilesAsync(CancellationToken cancel) =>
        AskAsync(
            """
            select p.mark, 'The file ' || a.title || ' is another than was attached.' as why
            from attachment a
            left join piece_attachment l on l.attachment_id = a.id
            left join piece p on p.id = l.piece_id
            where sha256(a.bytes) <> a.sha256
            union
            select p.mark, 'An inspection says something else than the ledger.'
            from ledger_row r
            join inspection i on i.id = r.key::uuid
            join piece p on p.id = i.piece_id
            where r.kind = 'inspection' and r.image ? 'case_document'
              and (r.image->>'case_document', r.image->>'verdict_document', r.image->>'own_document')
                is distinct from (i.case_document, i.verdict_document, i.own_document)
            order by 1, 2
            """,
            r => new Unverified(r.TextOrNull("mark"), r.Get<string>("why")),
            cancel
        );

    private async Task<long> LastNumberAsync(CancellationToken cancel) =>
        (
            await _database
                .Command("select greatest((select max(number) from ledger), (select max(number) from ledger_row), 0)")
                .ListAsync(r => r.GetInt64(0), cancel)
                .ConfigureAwait(false)
        )[0];

    /// <summary>Asks in the manner in which images tell.</summary>
    private async Task<List<Unverified>> AskAsync(
        string sql,
        Func<NpgsqlDataReader, Unverified> row,
        CancellationToken cancel,
        params object[] values
    )
    {
        await using var connection = await _database.OpenAsync(cancel).ConfigureAwait(false);
        await using var transaction = await connection.BeginTransactionAsync(cancel).ConfigureAwait(false);
        await transaction.Command(RecordRows.Manner).RunAsync(cancel).ConfigureAwait(false);
        return await transaction.Command(sql).Positional(values).ListAsync(row, cancel).ConfigureAwait(false);
    }

    private static string Named(RecordTable table) => $"{char.ToUpperInvariant(table.What[0])}{table.What[1..]}";
}
