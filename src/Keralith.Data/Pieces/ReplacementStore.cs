using Keralith.Core.Custody;
using Keralith.Core.Register;
using Npgsql;

namespace Keralith.Data;

/// <summary>Pieces that take the place of others.</summary>
public sealed class ReplacementStore(Database database)
{
    /// <summary>Registers a piece that takes the place of another: on its peg, and on the rosters that name it.</summary>
    /// <param name="replaced">The other's mark.</param>
    public Task<Checked<Recorded>> RegisterAsync(
        PieceEntry entry,
        Guid id,
        string replaced,
        Stamp stamp,
        CancellationToken cancel
    ) =>
        Session.RunAsync(
            database,
            stamp,
            async session =>
            {
                if (await PieceWriter.RegisterAsync(session, [(id, entry)], null).ConfigureAwait(false) is { } refusal)
                    return refusal;
                var (other, by) = await ReplacedAsync(session, replaced).ConfigureAwait(false);
                var place = Replacement.Of(
                    entry.Mark.Text,
                    other?.Mark,
                    other?.State ?? PieceState.New,
                    by,
                    session.By
                );
                if (!place.Ok)
                    return place.Refusal;
                await session
                    .WriteAsync(
                        "insert into replacement (id, piece_id, replaces, at, by_person) values ($1, $2, $3, $4, $5)",
                        session.Stamp.Submission,
                        id,
                        other!.Id,
                        session.Stamp.At,
                        session.Stamp.Actor.Id
                    )
                    .ConfigureAwait(false);
                await session.LedgerAsync(place.Value, entry.Mark.Text).ConfigureAwait(false);
                await OnRosterAsync(session, other.Mark, entry.Mark).ConfigureAwait(false);
                return null;
            },
            cancel
        );

    /// <summary>
    /// Puts the new mark on the roster of the kit that names the old one, where who registers it may change that; the kit
    /// waits for the new member's inspection as for any.
    /// </summary>
    private static async Task OnRosterAsync(Session session, string replaced, Mark mark)
    {
        var kits = await session
            .ReadAsync(
                $"""
                select id from piece
                where family = 'sling-kit' and state not in {Fragments.Retired} and position($1 in details->>'members') > 0
                order by id
                """,
                r => r.GetGuid(0),
                $"; {replaced}"
            )
            .ConfigureAwait(false);
        foreach (var id in kits)
        {
            var beside = new Trip();
            var (known, standing) = (PieceStore.Baselines(beside, id), JudgeAgain.Standing(beside, id));
            if (
                await session.LockAsync(id, beside).ConfigureAwait(false) is not { } kit
                || Replacement.On(kit.Details.Members, replaced, mark) is not { } roster
            )
                continue;
            var figures = known.Value.ToDictionary(b => b.Key, b => b.Value.Figure);
            var entry = kit.Entry(figures) with { Details = kit.Details with { Members = roster } };
            var grounds = new Grounds($"{mark} takes the place of {replaced}", null);
            var facts = new ChangeFacts(kit, entry, figures, session.Site) { Standing = standing.Value?.Case };
            var changed = ChangeOfFacts.Of(facts, grounds, session.By);
            if (changed.Ok)
                await PieceStore.WriteAsync(session, kit, entry, changed.Value, grounds).ConfigureAwait(false);
            return;
        }
    }

    private static async Task<(Piece? Piece, string? By)> ReplacedAsync(Session session, string mark)
    {
        var found = await session
            .ReadAsync(
                """
                select p.id, n.mark as by_mark
                from piece p left join replacement r on r.replaces = p.id left join piece n on n.id = r.piece_id
                where p.mark = $1
                """,
                r => (Id: r.Get<Guid>("id"), By: r.TextOrNull("by_mark")),
                mark.Trim().ToUpperInvariant()
            )
            .ConfigureAwait(false);
        return found.Count == 0
            ? (null, null)
            : (await session.LockAsync(found[0].Id).ConfigureAwait(false), found[0].By);
    }

    /// <summary>What a piece took the place of, and what took its place; null where neither.</summary>
    public static Asked<(string? Replaces, string? By)> Places(Trip trip, Guid piece) =>
        trip.Ask(
            new NpgsqlBatchCommand(
                """
                select (select o.mark from replacement r join piece o on o.id = r.replaces where r.piece_id = $1) as replaces,
                  (select n.mark from replacement r join piece n on n.id = r.piece_id where r.replaces = $1) as by_mark
                """
            ).Positional(piece),
            r => (r.TextOrNull("replaces"), r.TextOrNull("by_mark")),
            rows => rows[0]
        );
}
