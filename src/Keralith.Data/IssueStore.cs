using Keralith.Core.Custody;
using Keralith.Core.People;
using Npgsql;

namespace Keralith.Data;

/// <summary>Gear in somebody's hands.</summary>
/// <param name="Holder">Who has it.</param>
/// <param name="Job">For what.</param>
/// <param name="ExpectedBack">When it is wanted back; null where nobody said.</param>
/// <param name="Since">Since when.</param>
public sealed record IssuedTo(string Holder, string Job, DateOnly? ExpectedBack, DateOnly Since);

/// <summary>Handing gear out and taking it back.</summary>
public sealed class IssueStore(Database database, SiteStore sites)
{
    private readonly PieceChanges _changes = new(database, sites);

    /// <summary>Hands a piece out to a job, only when it may be used.</summary>
    public Task<Checked<Recorded>> IssueAsync(
        Guid piece,
        string holder,
        string job,
        DateOnly? back,
        DateOnly today,
        Stamp stamp,
        CancellationToken cancel
    ) =>
        _changes.RunAsync(
            piece,
            null,
            Right.Issue,
            stamp,
            "piece.issued",
            async (transaction, row) =>
                await HandOutAsync(
                        transaction,
                        await sites.GetAsync(cancel).ConfigureAwait(false),
                        row,
                        holder,
                        job,
                        back,
                        null,
                        today,
                        stamp,
                        cancel
                    )
                    .ConfigureAwait(false),
            cancel
        );

    /// <summary>Takes a piece back after a quick look; on a doubt it goes to the cage.</summary>
    /// <param name="doubt">What is the matter with it; empty when nothing was seen.</param>
    public Task<Checked<Recorded>> ReturnAsync(Guid piece, string doubt, Stamp stamp, CancellationToken cancel) =>
        _changes.RunAsync(
            piece,
            null,
            Right.Issue,
            stamp,
            "piece.returned",
            async (transaction, row) =>
            {
                if (row.Issued is null)
                    return new Refusal("It is not out.");
                await transaction
                    .Command(
                        "insert into give_back (issue_id, doubt, at, by_person) select issue_id, $2, $3, $4 from piece where id = $1"
                    )
                    .Positional(row.Id, doubt.Trim().Length == 0 ? null : doubt.Trim(), stamp.At, stamp.Actor.Id)
                    .RunAsync(cancel)
                    .ConfigureAwait(false);
                await transaction
                    .Command("update piece set issue_id = null where id = $1")
                    .Positional(row.Id)
                    .RunAsync(cancel)
                    .ConfigureAwait(false);
                var said = new { from = row.Issued.Holder, doubt = doubt.Trim() };
                if (doubt.Trim().Length == 0)
                    return new Change(row.State, said);
                var state = PieceLife.AfterHold(row.State);
                if (!state.Ok)
                    return new Refusal(state.Fault!);
                await CustodyStore
                    .InsertHoldAsync(
                        transaction,
                        Guid.CreateVersion7(),
                        row.Id,
                        HoldCause.Doubt,
                        $"At return from {row.Issued.Holder}: {doubt.Trim()}",
                        null,
                        stamp,
                        cancel
                    )
                    .ConfigureAwait(false);
                return new Change(state.Value, said);
            },
            cancel
        );

    internal static async Task<Checked<Change>> HandOutAsync(
        NpgsqlTransaction transaction,
        Site site,
        PieceRow row,
        string holder,
        string job,
        DateOnly? back,
        Guid? lift,
        DateOnly today,
        Stamp stamp,
        CancellationToken cancel
    )
    {
        if (Issuing.RefusalOf(row.UseOn(today, site), row.Issued?.Holder, holder, back, today) is { } refusal)
            return new Refusal($"{row.Mark}: {refusal}");
        var id = Guid.CreateVersion7();
        await transaction
            .Command(
                "insert into issue (id, piece_id, lift_id, holder, job, expected_back, at, by_person) values ($1, $2, $3, $4, $5, $6, $7, $8)"
            )
            .Positional(id, row.Id, lift, holder.Trim(), job.Trim(), back, stamp.At, stamp.Actor.Id)
            .RunAsync(cancel)
            .ConfigureAwait(false);
        await transaction
            .Command("update piece set issue_id = $2 where id = $1")
            .Positional(row.Id, id)
            .RunAsync(cancel)
            .ConfigureAwait(false);
        return new Change(
            row.State,
            new
            {
                issue = id,
                holder = holder.Trim(),
                job = job.Trim(),
                back,
                lift,
            }
        );
    }
}
