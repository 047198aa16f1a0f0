using Keralith.Core.Ledger;
using Npgsql;

namespace Keralith.Data;

/// <summary>Something that does not verify.</summary>
/// <param name="Mark">The piece; null: the ledger itself.</param>
/// <param name="Why">What, in words.</param>
public sealed record Unverified(string? Mark, string Why);

/// <summary>
/// The record guards itself: the chain, the heads kept beside it, every fact against its entry, and everything kept on
/// a piece against what Core makes of its facts.
/// </summary>
/// <param name="key">The key heads are sealed with; null: they are not.</param>
public sealed class VerifyStore(Database database, byte[]? key = null)
{
    private const long VerifyLock = 0x76657269;

    /// <summary>The tables of the record, with what a row of each is.</summary>
    public static IReadOnlyDictionary<string, string> OfTheRecord { get; } =
        RecordTables.All.ToDictionary(t => t.Name, t => t.What);

    /// <summary>The tables that are not of the record, each with why: what is changed in them verifies all the same.</summary>
    public static IReadOnlyDictionary<string, string> NotOfTheRecord => RecordTables.Beside;

    /// <summary>Verifies all of it, and stops what does not verify.</summary>
    /// <param name="now">When.</param>
    /// <param name="say">Told how far it has come, in words; null: nobody asks.</param>
    /// <param name="progress">Where steps that are done are kept, to go on behind them; null: nowhere.</param>
    /// <returns>What does not verify; empty when all does.</returns>
    public async Task<IReadOnlyList<Unverified>> RunAsync(
        DateTimeOffset now,
        CancellationToken cancel,
        Func<string, Task>? say = null,
        VerifyProgress? progress = null
    )
    {
        // At a large works a question about every row takes longer than a page may.
        await using var all = database.Patient();
        var found = new List<Unverified>();
        var rows = await VerifiedRows.OpenAsync(all, cancel).ConfigureAwait(false);
        var entries = new VerifiedEntries(all, rows.Whole);
        (string What, Func<CancellationToken, Task<List<Unverified>>> Find)[] steps =
        [
            ("the chain of the ledger", c => ChainAsync(all, c)),
            ("the heads kept beside it", c => HeadsAsync(all, c)),
            ("the guards of the tables", rows.GuardsAsync),
            ("the rows that entries tell", rows.DigestsAsync),
            .. RecordTables.All.Select(t =>
                (
                    $"the table of the record {t.Name}",
                    (Func<CancellationToken, Task<List<Unverified>>>)(c => rows.TableAsync(t, c))
                )
            ),
            ("files and their digests", rows.FilesAsync),
            ("inspections and their entries", entries.InspectionsAsync),
            ("facts and their entries", entries.EntriesAsync),
            ("entries and their facts", entries.GoneAsync),
            ("lifts and their entries", entries.LiftsAsync),
            ("pieces and their entries", entries.StatedAsync),
            ("figures when new", entries.FiguresAsync),
            ("holds and their ends", entries.HoldsAsync),
            ("gear that is called back", c => RecalledGear.UnheldAsync(all, c)),
            ("what is kept on every piece", c => VerifiedPieces.DifferencesAsync(all, c)),
            ("rights", entries.RightsAsync),
        ];
        for (var i = 0; i < steps.Length; i++)
        {
            if (progress?.Found(steps[i].What) is { } before)
            {
                found.AddRange(before);
                continue;
            }

            if (say is not null)
                await say($"{i + 1} of {steps.Length}, {steps[i].What}").ConfigureAwait(false);
            var here = await FindAsync(steps[i], cancel).ConfigureAwait(false);
            progress?.Done(steps[i].What, here);
            found.AddRange(here);
        }

        await StopAsync(found, now, cancel).ConfigureAwait(false);
        return found;
    }

    /// <summary>What a step finds. One that can't be carried out, because what it reads can't be read, says so, and the others go on.</summary>
    private static async Task<List<Unverified>> FindAsync(
        (string What, Func<CancellationToken, Task<List<Unverified>>> Find) step,
        CancellationToken cancel
    )
    {
        try
        {
            return await step.Find(cancel).ConfigureAwait(false);
        }
        catch (Exception e) when (PieceRows.IsUnreadable(e) || e is PostgresException { SqlState: ['2', '2', ..] })
        {
            return [new(null, $"{step.What} can't be verified: {e.Message}")];
        }
    }

    private static async Task<List<Unverified>> ChainAsync(Database all, CancellationToken cancel)
    {
        var (_, broken) = await new LedgerStore(all).VerifyAsync(cancel).ConfigureAwait(false);
        return broken is null ? [] : [new(null, $"The chain is broken: {broken}.")];
    }

    /// <summary>Keeps the ledger's head beside it; nothing while it is empty or has not grown since.</summary>
    public Task SealAsync(DateTimeOffset now, CancellationToken cancel) =>
        Session.RunAsync(
            database,
            new(JudgeAgain.Itself, now, Guid.CreateVersion7()) { ByDatabase = false },
            async session =>
            {
                var last = await session
                    .ReadAsync(
                        $"""
                        select number, hash from ledger
                        where exists (
                          select from ledger
                          where number > coalesce((select max(number) from ledger_head), 0) and kind not in {TreeHeadStore.OfHeads})
                        order by number desc limit 1
                        """,
                        r => new LedgerHead(r.GetInt64(0), r.GetFieldValue<byte[]>(1), Micro(now))
                    )
                    .ConfigureAwait(false);
                if (last is not [var head])
                    return null;
                await session
                    .WriteAsync(
                        "insert into ledger_head (number, hash, at, signature) values ($1, $2, $3, $4)",
                        head.Number,
                        head.Hash,
                        head.At,
                        head.Sign(key)
                    )
                    .ConfigureAwait(false);
                await session.LedgerAsync(new HeadKept(head.Number), "record").ConfigureAwait(false);
                return null;
            },
            cancel
        );

    private static DateTimeOffset Micro(DateTimeOffset at) =>
        new(at.UtcTicks - (at.UtcTicks % TimeSpan.TicksPerMicrosecond), TimeSpan.Zero);

    private async Task<List<Unverified>> HeadsAsync(Database all, CancellationToken cancel) => (
            await all.Command(
                    """
                    select h.number, h.hash, h.at, h.signature, l.hash as there
                    from ledger_head h left join ledger l on l.number = h.number
                    order by h.number
                    """
                )
                .ListAsync(
                    r =>
                        new LedgerHead(
                            r.Get<long>("number"),
                            r.Get<byte[]>("hash"),
                            r.Get<DateTimeOffset>("at")
                        ).Against(
                            r.IsDBNull(r.GetOrdinal("there")) ? null : r.Get<byte[]>("there"),
                            r.Get<byte[]>("signature"),
                            key
                        ),
                    cancel
                )
                .ConfigureAwait(false)
        ).OfType<string>().Concat(await new TreeHeadStore(all).AgainstAsync(cancel).ConfigureAwait(false)).Take(1).Select(why => new Unverified(null, $"A head kept beside the ledger is not met: {why}.")).ToList();

    /// <summary>Keeps which pieces do not verify: those may not be used, and those that verify again may.</summary>
    private async Task StopAsync(IReadOnlyList<Unverified> found, DateTimeOffset now, CancellationToken cancel)
    {
        var pieces = found.Where(f => f.Mark is not null).DistinctBy(f => f.Mark).ToList();
        await using var connection = await database.OpenAsync(cancel).ConfigureAwait(false);
        await using var transaction = await connection.BeginTransactionAsync(cancel).ConfigureAwait(false);
        await transaction
            .Command("select 1 from pg_advisory_xact_lock($1)")
            .Positional(VerifyLock)
            .RunAsync(cancel)
            .ConfigureAwait(false);
        await transaction
            .Command("delete from distrust where piece_id <> all (select id from piece where mark = any($1))")
            .Positional([pieces.Select(p => p.Mark!).ToArray()])
            .RunAsync(cancel)
            .ConfigureAwait(false);
        await transaction
            .Command(
                """
                insert into distrust (piece_id, why, at)
                select p.id, f.why, $3 from unnest($1::text[], $2::text[]) as f (mark, why) join piece p using (mark)
                on conflict (piece_id) do update set why = excluded.why
                """
            )
            .Positional(pieces.Select(p => p.Mark!).ToArray(), pieces.Select(p => p.Why).ToArray(), now)
            .RunAsync(cancel)
            .ConfigureAwait(false);
        await transaction.CommitAsync(cancel).ConfigureAwait(false);
    }
}
