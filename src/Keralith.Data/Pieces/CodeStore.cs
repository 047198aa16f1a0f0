using Keralith.Core.Register;
using Npgsql;

namespace Keralith.Data;

/// <summary>Further codes of pieces: bound by scanning once, taken off when they are gone.</summary>
public sealed class CodeStore(Database database)
{
    /// <summary>The codes a piece carries, on a trip made with other questions.</summary>
    public static Asked<List<string>> Of(Trip trip, Guid piece) =>
        trip.All(
            new NpgsqlBatchCommand(
                "select code from piece_code where piece_id = $1 and removed_at is null order by at, code"
            ).Positional(piece),
            r => r.GetString(0)
        );

    /// <summary>Binds a code to a piece.</summary>
    /// <param name="scanned">As it was scanned.</param>
    public Task<Checked<Recorded>> BindAsync(Guid piece, string? scanned, Stamp stamp, CancellationToken cancel)
    {
        var read = PieceCode.Read(scanned);
        var code = read.Ok ? read.Value : string.Empty;

        // Alone: two who bind one code to two pieces at once are told apart by what the first has written.
        return Session.RunAloneAsync(database, stamp, session => session.OnPieceAsync(piece, null, async row =>
                {
                    var trip = new Trip();
                    var carried = Of(trip, piece);
                    var taken = trip.All(
                        new NpgsqlBatchCommand(
                            $$"""
                            select p.mark from piece p
                            where p.id = (select piece_id from piece_code where code = $1 and removed_at is null)
                              or p.mark = $1 or (upper(p.serial) = $1 and p.id <> $2)
                              or ({{Fragments.Look("p.mark")}} = $3 and p.id <> $2)
                            order by p.id = $2 desc limit 1
                            """
                        ).Positional(code, piece, Looks.Of(code)),
                        r => r.GetString(0)
                    );
                    await session.AskAsync(trip).ConfigureAwait(false);
                    var outcome = PieceCode.Bind(
                        row.Mark,
                        row.State,
                        read,
                        carried.Value.Count,
                        taken.Value.FirstOrDefault(),
                        session.By
                    );
                    if (outcome.Ok)
                        await session
                            .WriteAsync(
                                "insert into piece_code (id, piece_id, code, at, by_person) values ($1, $2, $3, $4, $5)",
                                Guid.CreateVersion7(),
                                row.Id,
                                code,
                                session.Stamp.At,
                                stamp.Actor.Id
                            )
                            .ConfigureAwait(false);
                    return outcome;
                }), cancel);
    }

    /// <summary>Takes a code off a piece.</summary>
    public Task<Checked<Recorded>> TakeOffAsync(
        Guid piece,
        string code,
        string? reason,
        Stamp stamp,
        CancellationToken cancel
    ) => Session.RunAsync(database, stamp, session => session.OnPieceAsync(piece, null, async row =>
                {
                    var carried = await session.AskAsync(t => Of(t, row.Id)).ConfigureAwait(false);
                    var outcome = PieceCode.TakeOff(row.State, code, carried.Contains(code), reason, session.By);
                    if (outcome.Ok)
                        await session
                            .WriteAsync(
                                "update piece_code set removed_at = $3 where piece_id = $1 and code = $2 and removed_at is null",
                                row.Id,
                                code,
                                session.Stamp.At
                            )
                            .ConfigureAwait(false);
                    return outcome;
                }), cancel);
}
