using Keralith.Core.Custody;
using Npgsql;

namespace Keralith.Data;

/// <summary>Holds as they are put on and counted.</summary>
internal static class Holding
{
    /// <summary>Open holds of a piece.</summary>
    public const string Open =
        "from hold h left join release r on r.hold_id = h.id where h.piece_id = $1 and r.hold_id is null";

    /// <summary>Puts a hold on, and tells those who planned to lift with the piece.</summary>
    /// <param name="id">The hold's id; null: a new one.</param>
    /// <param name="inspection">The inspection that put it on; null: none did.</param>
    public static Task HoldAsync(
        this Session session,
        Guid piece,
        NewHold hold,
        Guid? id = null,
        Guid? inspection = null
    ) => session.HoldAllAsync([(id ?? Guid.CreateVersion7(), piece, hold, inspection)]);

    /// <summary>
    /// Puts holds on several pieces, and tells those who planned to lift with them, who have them and who handed them
    /// out.
    /// </summary>
    public static async Task HoldAllAsync(
        this Session session,
        IReadOnlyCollection<(Guid Id, Guid Piece, NewHold Hold, Guid? Inspection)> holds,
        Guid? recall = null
    )
    {
        var pieces = holds.Select(h => h.Piece).ToArray();
        var reasons = holds.Select(h => h.Hold.Reason).ToArray();
        await session
            .WriteAsync(
                """
                insert into hold (id, piece_id, cause, reason, inspection_id, placed_at, placed_by, recall_id)
                select id, piece, cause, reason, inspection, $6, $7, $8
                from unnest($1::uuid[], $2::uuid[], $3::text[], $4::text[], $5::uuid[]) as h (id, piece, cause, reason, inspection)
                """,
                holds.Select(h => h.Id).ToArray(),
                pieces,
                holds.Select(h => Code.Of(h.Hold.Cause)).ToArray(),
                reasons,
                holds.Select(h => h.Inspection).ToArray(),
                session.Stamp.At,
                session.Stamp.Actor.Id,
                recall
            )
            .ConfigureAwait(false);
        await session
            .WriteAsync(
                $"""
                with held as (
                  select p.mark, p.issue_id, h.reason
                  from unnest($1::uuid[], $2::text[]) as h (piece, reason) join piece p on p.id = h.piece)
                insert into notice (person_id, words, link, at)
                select l.made_by, h.mark || ' on your lift "' || l.name || '" is on hold: ' || h.reason, '/lift/' || l.id, $3
                from held h join lift l on l.marks @> array[h.mark]
                where l.state in {Fragments.OpenLift} and not l.is_template
                union
                select w.id, h.mark || ', which is out in your name, is on hold: ' || h.reason, '/piece/' || h.mark, $3
                from held h
                join issue i on i.id = h.issue_id
                join person w on {Fragments.Key("w.name")} = {Fragments.Key(
                    "i.holder"
                )} and w.disabled_at is null and w.id <> $4
                union
                select i.by_person, h.mark || ', which you handed out to ' || i.holder || ', is on hold: ' || h.reason, '/piece/' || h.mark, $3
                from held h join issue i on i.id = h.issue_id and i.by_person <> $4
                """,
                pieces,
                reasons,
                session.Stamp.At,
                session.Stamp.Actor.Id
            )
            .ConfigureAwait(false);
    }

    /// <summary>Closes a hold.</summary>
    public static Task LetGoAsync(this Session session, Guid hold, string reason) =>
        session.WriteAsync(
            "insert into release (hold_id, reason, released_at, released_by) values ($1, $2, $3, $4)",
            hold,
            reason,
            session.Stamp.At,
            session.Stamp.Actor.Id
        );

    /// <summary>Who changed what a piece is judged by, and when: its facts, or its figures when new.</summary>
    public static Asked<List<FactsMoved>> Movers(Trip trip, Guid piece) =>
        trip.All(
            new NpgsqlBatchCommand(
                """
                select by_person, seq from fact_change where piece_id = $1
                union all
                select set_by, seq from baseline where piece_id = $1
                """
            ).Positional(piece),
            r => new FactsMoved(r.GetGuid(0), new(r.GetInt64(1)))
        );

    /// <summary>A piece's open holds, as the rules of release see them.</summary>
    public static Asked<List<OpenHold>> OpenHolds(Trip trip, Guid piece) =>
        trip.All(
            new NpgsqlBatchCommand(
                $"select h.id, h.cause, h.seq, coalesce((select c.by_person from recall c where c.id = h.recall_id), h.placed_by) as placed_by {Open}"
            ).Positional(piece),
            r => new OpenHold(r.Get<Guid>("id"), Code.Parse<HoldCause>(r.Get<string>("cause")), new(r.Get<long>("seq")))
            {
                PlacedBy = r.Get<Guid>("placed_by"),
            }
        );

    /// <summary>Where among the facts the newest open hold was put on, or a new tag fitted since; null: not on hold.</summary>
    public static Asked<FactOrder?> Newest(Trip trip, Guid piece) =>
        trip.Ask(
            new NpgsqlBatchCommand(
                $"""
                select case when max(h.seq) is not null
                  then greatest(max(h.seq), (select max(t.seq) from retag t where t.piece_id = $1 and not exists (select from put_right w where w.record_id = t.id))) end as seq
                {Open}
                """
            ).Positional(piece),
            r => r.ValueOrNull<long>("seq") is { } seq ? new FactOrder(seq) : (FactOrder?)null,
            rows => rows[0]
        );

    /// <summary>Where among the facts its identity was last proved and a new tag fitted; null: never.</summary>
    public static Asked<FactOrder?> Retagged(Trip trip, Guid piece) =>
        trip.Ask(
            new NpgsqlBatchCommand(
                """
                select max(t.seq) as seq from retag t
                where t.piece_id = $1 and not exists (select from put_right w where w.record_id = t.id)
                """
            ).Positional(piece),
            r => r.ValueOrNull<long>("seq") is { } seq ? new FactOrder(seq) : (FactOrder?)null,
            rows => rows[0]
        );
}
