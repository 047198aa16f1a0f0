using Keralith.Core.Custody;
using Keralith.Core.Ledger;
using Npgsql;

namespace Keralith.Data;

/// <summary>Records of a piece, other than inspections, that were made wrongly: what is right stands in their place.</summary>
public sealed class PutRightStore(Database database)
{
    private const string Records = """
        select x.kind, x.id, x.at, x.words, x.by_person, w.name as by_name, r.why as wrong, x.cause, x.passed, x.is_out, x.expected_back, x.job, x.lift_id
        from (
          select 'hand-out' as kind, i.id, i.at, 'handed out to ' || i.holder || coalesce(', for ' || nullif(i.job, ''), '') as words,
            i.by_person, null as cause, false as passed, coalesce(p.issue_id = i.id, false) as is_out, i.expected_back, i.job, i.lift_id
          from issue i join piece p on p.id = i.piece_id where i.piece_id = $1
          union all
          select 'release', f.hold_id, f.released_at, 'hold let go (' || h.reason || '): ' || f.reason, f.released_by, h.cause, false, false, null, '', null
          from release f join hold h on h.id = f.hold_id where h.piece_id = $1
          union all
          select 'tag', t.id, t.at, 'new tag fitted by ' || t.fitted_by || ': ' || t.proof, t.by_person, null, false, false, null, '', null
          from retag t where t.piece_id = $1
          union all
          select 'move', m.id, m.at, 'moved from ' || m.from_place || ' to ' || m.to_place, m.by_person, null, false, false, null, '', null
          from move m where m.piece_id = $1 and m.kind = 'moved'
          union all
          select 'proof-test', t.id, t.at,
            'proof test at ' || t.load || case when t.passed then ', passed' else ', failed' end || ', ' || t.certificate, t.by_person,
            null, t.passed, false, null, '', null
          from proof_test t where t.piece_id = $1
          union all
          select 'destruction', d.id, d.at, 'destroyed: ' || d.method, d.by_person, null, false, false, null, '', null
          from disposal d where d.piece_id = $1 and d.step = 'destroyed'
        ) x
        join person w on w.id = x.by_person
        left join put_right r on r.record_id = x.id
        """;

    /// <summary>The records of a piece that can be put right, the last first, and those that were.</summary>
    public Task<List<StandingRecord>> OfAsync(Guid piece, CancellationToken cancel) =>
        database.Command($"{Records} order by x.at desc limit 200").Positional(piece).ListAsync(From, cancel);

    /// <summary>Puts one of them right.</summary>
    public Task<Checked<Recorded>> PutAsync(
        Guid piece,
        Guid record,
        PutRightWith with,
        Stamp stamp,
        CancellationToken cancel
    ) => Session.RunAsync(database, stamp, session => session.OnPieceAsync(piece, null, async row =>
                {
                    var found = await session
                        .AskAsync(t =>
                            t.All(new NpgsqlBatchCommand($"{Records} where x.id = $2").Positional(row.Id, record), From)
                        )
                        .ConfigureAwait(false);
                    var outcome = PutRight.Of(
                        found.FirstOrDefault(),
                        row.State,
                        row.Locked,
                        with with
                        {
                            Issue = Guid.CreateVersion7(),
                        },
                        session.By
                    );
                    if (!outcome.Ok)
                        return outcome;
                    await WriteAsync(
                            session,
                            row.Id,
                            found[0],
                            (RecordPutRight)outcome.Value.Record,
                            outcome.Value.Beside
                        )
                        .ConfigureAwait(false);
                    return outcome;
                }), cancel);

    private static async Task WriteAsync(
        Session session,
        Guid piece,
        StandingRecord wrong,
        RecordPutRight said,
        IReadOnlyList<LedgerRecord> beside
    )
    {
        await session
            .WriteAsync(
                """
                insert into put_right (id, piece_id, kind, record_id, why, right_is, at, by_person)
                values ($1, $2, $3, $4, $5, $6, $7, $8)
                """,
                session.Stamp.Submission,
                piece,
                said.Record,
                said.Wrong,
                said.Why,
                said.Right,
                session.Stamp.At,
                session.Stamp.Actor.Id
            )
            .ConfigureAwait(false);
        if (!wrong.IsOut)
            return;

        // It is out all the same, with whom and for what is right.
        var issued = beside.OfType<PieceIssued>().Single();
        await session
            .WriteAsync(
                """
                with ended as (
                  insert into give_back (issue_id, at, by_person) select issue_id, $7, $8 from piece where id = $2
                ), begun as (
                  insert into issue (id, piece_id, lift_id, holder, job, expected_back, at, by_person)
                  values ($1, $2, $3, $4, $5, $6, $7, $8)
                )
                update piece set issue_id = $1 where id = $2
                """,
                issued.Issue,
                piece,
                issued.Lift,
                issued.Holder,
                issued.Job,
                issued.Back,
                session.Stamp.At,
                session.Stamp.Actor.Id
            )
            .ConfigureAwait(false);
    }

    private static StandingRecord From(NpgsqlDataReader r) =>
        new(Code.Parse<RecordKind>(r.Get<string>("kind")), r.Get<Guid>("id"), r.Get<Guid>("by_person"))
        {
            At = r.Get<DateTimeOffset>("at"),
            Words = r.Get<string>("words"),
            ByName = r.Get<string>("by_name"),
            Wrong = r.TextOrNull("wrong"),
            Cause = r.TextOrNull("cause") is { } cause ? Code.Parse<HoldCause>(cause) : null,
            Passed = r.Get<bool>("passed"),
            IsOut = r.Get<bool>("is_out"),
            Back = r.ValueOrNull<DateOnly>("expected_back"),
            Job = r.Get<string>("job"),
            Lift = r.ValueOrNull<Guid>("lift_id"),
        };
}
