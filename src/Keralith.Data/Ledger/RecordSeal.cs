using Keralith.Core.Ledger;
using Npgsql;

namespace Keralith.Data;

/// <summary>The entry from which on the ledger tells the whole record.</summary>
internal sealed record SealedWhole(long Number, DateTimeOffset At);

/// <summary>
/// What stood in the tables of the record before entries told their rows is told once, table by table; from then on a row
/// that no entry tells is one that nobody may have written.
/// </summary>
public sealed class RecordSeal(Database database)
{
    private const int RowsAnEntry = 5000;

    /// <summary>Tells what stands untold, with no act under way; nothing where that was done, or nothing is set up.</summary>
    /// <param name="say">Told which table is being told; null: nobody asks.</param>
    /// <returns>How many rows were told.</returns>
    public async Task<long> RunAsync(DateTimeOffset now, CancellationToken cancel, Action<string>? say = null)
    {
        var told = 0L;
        await Session
            .RunAloneAsync(
                database,
                new(JudgeAgain.Itself, now, Guid.CreateVersion7()),
                async session =>
                {
                    if (session.HasNoSite || await session.AskAsync(Whole).ConfigureAwait(false) is not null)
                        return null;
                    told = await TellAsync(session, say).ConfigureAwait(false);
                    return null;
                },
                cancel
            )
            .ConfigureAwait(false);
        return told;
    }

    /// <summary>Tells all rows that no entry has told, and that this is all.</summary>
    internal static async Task<long> TellAsync(Session session, Action<string>? say = null)
    {
        await session.WriteAsync(RecordRows.Manner).ConfigureAwait(false);
        var standing = await session.AskAsync(RecordRows.Of).ConfigureAwait(false);
        var told = 0L;
        foreach (var table in RecordTables.All)
        {
            say?.Invoke(table.Name.Replace('_', ' '));
            var rows = await session
                .WriteAsync(
                    $"""
                    insert into record_change (part, kind, key, piece_id, image)
                    select -1 - (row_number() over () - 1) / {RowsAnEntry}, '{table.Name}', c.key, {table.PieceOf(
                        "c.image"
                    )},
                      record_image(c.image, array[]::text[], array[]::text[]){(
                        table.IsStatedElsewhere ? StatedNowhere : string.Empty
                    )}
                    from ({standing.Now(table)}) c
                    where not exists (select from ledger_row r where r.kind = '{table.Name}' and r.key = c.key)
                    """
                )
                .ConfigureAwait(false);
            for (var part = 1; part <= (rows + RowsAnEntry - 1) / RowsAnEntry; part++)
            {
                var sealedHere = new RecordSealed(table.Name, Math.Min(RowsAnEntry, rows - ((part - 1) * RowsAnEntry)));
                await LedgerStore.AppendAllAsync(session, [("record", sealedHere)], -part).ConfigureAwait(false);
            }

            told += rows;
        }

        await session.LedgerAsync(new RecordSealedWhole(told), "record").ConfigureAwait(false);
        return told;
    }

    /// <summary>The documents of an inspection whose entry is from before entries named theirs.</summary>
    private const string StatedNowhere = """
         || coalesce((
          select jsonb_build_object('case_document', i.case_document, 'verdict_document', i.verdict_document, 'own_document', i.own_document)
          from inspection i
          join piece p on p.id = i.piece_id
          where i.id = c.key::uuid and not exists (
            select from ledger l
            where l.subject = p.mark and l.kind = 'inspection.signed' and l.data::jsonb->>'inspection' = c.key)), '{}')
        """;

    /// <summary>Asks for the entry from which on the ledger tells the whole record; null: it does not.</summary>
    internal static Asked<SealedWhole?> Whole(Trip trip) =>
        trip.Ask(
            new NpgsqlBatchCommand(
                "select number, at from ledger where actor = 'keralith' and kind = 'record.sealed-whole' order by number limit 1"
            ),
            r => new SealedWhole(r.Get<long>("number"), r.Get<DateTimeOffset>("at")),
            rows => rows.FirstOrDefault()
        );
}
