using Keralith.Core.Custody;
using Keralith.Core.Ledger;
using Keralith.Core.Register;

namespace Keralith.Data;

/// <summary>Handing gear out and taking it back.</summary>
public sealed class IssueStore(Database database)
{
    /// <summary>Hands a piece out to a job, only when it may be used.</summary>
    public Task<Checked<Recorded>> IssueAsync(
        Guid piece,
        string holder,
        string job,
        DateOnly? back,
        Stamp stamp,
        CancellationToken cancel
    ) =>
        Session.RunAsync(
            database,
            stamp,
            session => session.OnPieceAsync(piece, null, row => HandOutAsync(session, row, holder, job, back, null)),
            cancel
        );

    /// <summary>Takes a piece back after a quick look; on a doubt it goes to the cage.</summary>
    /// <param name="doubt">What is the matter with it; empty when nothing was seen.</param>
    public Task<Checked<Recorded>> ReturnAsync(Guid piece, string doubt, Stamp stamp, CancellationToken cancel) =>
        Session.RunAsync(database, stamp, session => session.OnPieceAsync(piece, null, async row =>
                {
                    var outcome = Issuing.TakeBack(row.State, row.Issued, doubt, session.By);
                    if (!outcome.Ok)
                        return outcome;
                    var seen = ((PieceReturned)outcome.Value.Record).Doubt;
                    await session
                        .WriteAsync(
                            """
                            insert into give_back (issue_id, doubt, at, by_person)
                            select issue_id, $2, $3, $4 from piece where id = $1
                            """,
                            row.Id,
                            seen.Length == 0 ? null : seen,
                            session.Stamp.At,
                            stamp.Actor.Id
                        )
                        .ConfigureAwait(false);
                    await session
                        .WriteAsync("update piece set issue_id = null where id = $1", row.Id)
                        .ConfigureAwait(false);
                    return outcome;
                }), cancel);

    /// <param name="lift">The lift it goes to; null: none.</param>
    internal static async Task<Checked<PieceOutcome>> HandOutAsync(
        Session session,
        Piece row,
        string? holder,
        string? job,
        DateOnly? back,
        Guid? lift
    )
    {
        var use = row.UseOn(session.By.Day, session.Site);
        var id = Guid.CreateVersion7();
        var outcome = Issuing.HandOut(id, row.Mark, row.State, use, row.Issued, holder, job, back, lift, session.By);
        if (!outcome.Ok)
            return outcome;
        var said = (PieceIssued)outcome.Value.Record;
        await session
            .WriteAsync(
                """
                insert into issue (id, piece_id, lift_id, holder, job, expected_back, at, by_person)
                values ($1, $2, $3, $4, $5, $6, $7, $8)
                """,
                id,
                row.Id,
                lift,
                said.Holder,
                said.Job,
                back,
                session.Stamp.At,
                session.Stamp.Actor.Id
            )
            .ConfigureAwait(false);
        await session.WriteAsync("update piece set issue_id = $2 where id = $1", row.Id, id).ConfigureAwait(false);
        return outcome;
    }
}
