using Keralith.Core.Custody;
using Keralith.Core.People;
using Npgsql;

namespace Keralith.Data;

/// <summary>What a command makes of a piece: its state, and what the ledger keeps.</summary>
internal sealed record Change(PieceState State, object Record);

/// <summary>Carries out commands on one piece: locks it, checks right and version, derives its state and appends to the ledger.</summary>
internal sealed class PieceChanges(Database database, SiteStore sites)
{
    private readonly Recorder _recorder = new(database);

    /// <param name="version">The version the command was made on; null for what anybody may do whatever has changed meanwhile.</param>
    /// <param name="kind">The ledger's kind.</param>
    /// <param name="work">The command itself.</param>
    public Task<Checked<Recorded>> RunAsync(
        Guid piece,
        int? version,
        Right right,
        Stamp stamp,
        string kind,
        Func<NpgsqlTransaction, PieceRow, Task<Checked<Change>>> work,
        CancellationToken cancel
    ) =>
        _recorder.RecordAsync(
            stamp,
            transaction => ApplyAsync(transaction, piece, version, right, stamp, kind, work, cancel),
            cancel
        );

    /// <summary>The same command on several pieces, all or none.</summary>
    public Task<Checked<Recorded>> RunAllAsync(
        IReadOnlyCollection<Guid> pieces,
        Right right,
        Stamp stamp,
        string kind,
        Func<NpgsqlTransaction, PieceRow, Task<Checked<Change>>> work,
        CancellationToken cancel
    ) =>
        _recorder.RecordAsync(
            stamp,
            async transaction =>
            {
                // Locked in one order by all, so that two selections never wait for each other.
                foreach (var piece in pieces.Distinct().Order())
                {
                    if (
                        await ApplyAsync(transaction, piece, null, right, stamp, kind, work, cancel)
                            .ConfigureAwait(false) is
                        { } refusal
                    )
                        return refusal;
                }

                return null;
            },
            cancel
        );

    private async Task<string?> ApplyAsync(
        NpgsqlTransaction transaction,
        Guid piece,
        int? version,
        Right right,
        Stamp stamp,
        string kind,
        Func<NpgsqlTransaction, PieceRow, Task<Checked<Change>>> work,
        CancellationToken cancel
    )
    {
        if (!stamp.Actor.Role.May(right))
            return "Your role does not allow this.";
        if (await Recorder.LockAsync(transaction, piece, cancel).ConfigureAwait(false) is not { } row)
            return "There is no such piece.";
        if (version is { } seen && row.Version != seen)
            return Recorder.Conflict;
        var change = await work(transaction, row).ConfigureAwait(false);
        if (!change.Ok)
            return change.Fault;
        await Recorder
            .DeriveAsync(
                transaction,
                await sites.GetAsync(cancel).ConfigureAwait(false),
                row,
                change.Value.State,
                cancel
            )
            .ConfigureAwait(false);
        await LedgerStore
            .AppendAsync(transaction, stamp, kind, row.Mark, change.Value.Record, cancel)
            .ConfigureAwait(false);
        return null;
    }
}
