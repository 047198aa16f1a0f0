using Keralith.Core.Custody;
using Keralith.Core.Ledger;
using Keralith.Core.Lifts;
using Keralith.Core.Register;
using Npgsql;

namespace Keralith.Data;

/// <summary>A proof test on record.</summary>
public sealed record ProofTestRow(ProofTested Said, DateTimeOffset At, string By)
{
    /// <summary>Why it counts for nothing; null: it counts.</summary>
    public string? Wrong { get; init; }
}

/// <summary>A piece that is away, with when it is wanted back.</summary>
public sealed record AwayRow(Piece Piece, AwayNow Away);

/// <summary>What happens beyond the cage: sent to a shop or a test bed, taken back, proof tested, kept as evidence.</summary>
public sealed class AwayStore(Database database)
{
    private const string Columns = """
        select a.piece_id, a.sent_for, a.sent_to, a.what, a.expected_back,
          (a.at at time zone (select h.time_zone from site h where h.id = s.site_id))::date as since
        from piece p
        join store s on s.id = p.store_id
        join away a on a.id = p.away_id
        """;

    /// <summary>Where a piece is while it is away; null: it is not.</summary>
    public static Asked<AwayNow?> Of(Trip trip, Guid piece) =>
        trip.Ask(new NpgsqlBatchCommand($"{Columns} where p.id = $1").Positional(piece), From, rows =>
            rows.FirstOrDefault()
        );

    /// <summary>Everything away, what is wanted back first on top.</summary>
    public async Task<List<AwayRow>> AllAsync(PieceStore pieces, CancellationToken cancel)
    {
        var rows = await database
            .Command($"{Columns} order by a.expected_back nulls last, a.at limit 400")
            .ListAsync(r => (Piece: r.Get<Guid>("piece_id"), Away: From(r)), cancel);
        var found = new List<AwayRow>();
        foreach (var (piece, away) in rows)
        {
            if (await pieces.GetAsync(piece, cancel) is { } known)
                found.Add(new(known, away));
        }

        return found;
    }

    /// <summary>The proof tests of a piece, newest first.</summary>
    public static Asked<List<ProofTestRow>> Tests(Trip trip, Guid piece) =>
        trip.All(
            new NpgsqlBatchCommand(
                """
                select t.subject, t.load, t.factor, t.tested_on, t.made_by, t.instrument, t.calibrated_until, t.certificate, t.passed,
                  t.at, w.name, c.why as wrong
                from proof_test t
                join person w on w.id = t.by_person
                left join put_right c on c.record_id = t.id
                where t.piece_id = $1
                order by t.at desc
                """
            ).Positional(piece),
            r => new ProofTestRow(
                new(
                    r.Get<string>("subject"),
                    r.Get<string>("load"),
                    r.Get<decimal>("factor"),
                    r.Get<DateOnly>("tested_on"),
                    r.Get<string>("made_by"),
                    r.Get<string>("instrument"),
                    r.Get<DateOnly>("calibrated_until"),
                    r.Get<string>("certificate"),
                    r.Get<bool>("passed")
                ),
                r.Get<DateTimeOffset>("at"),
                r.Get<string>("name")
            )
            {
                Wrong = r.TextOrNull("wrong"),
            }
        );

    /// <summary>Whether load-bearing parts were repaired, and no proof test passed since it came back.</summary>
    internal static Asked<bool> LacksProof(Trip trip, Guid piece) =>
        trip.Ask(
            new NpgsqlBatchCommand(
                """
                select exists (
                  select from away_return r
                  join away a on a.id = r.away_id
                  where a.piece_id = $1 and r.load_bearing
                    and not exists (
                      select from proof_test t
                      where t.piece_id = $1 and t.passed and t.seq > r.seq
                        and not exists (select from put_right w where w.record_id = t.id))) as lacks
                """
            ).Positional(piece),
            r => r.Get<bool>("lacks"),
            rows => rows[0]
        );

    /// <summary>Sends a piece to a shop or a test bed.</summary>
    public Task<Checked<Recorded>> SendAsync(
        Guid piece,
        int version,
        AwayFor sentFor,
        string? to,
        string? what,
        DateOnly? back,
        Stamp stamp,
        CancellationToken cancel
    ) => Session.RunAsync(database, stamp, session => session.OnPieceAsync(piece, version, async row =>
                {
                    var away = new AwayNow(sentFor, to ?? string.Empty, what ?? string.Empty, back, session.By.Day);
                    var outcome = Away.Send(row.Mark, row.State, row.Issued, row.Locked, away, session.By);
                    if (!outcome.Ok)
                        return outcome;
                    var said = (PieceSentAway)outcome.Value.Record;
                    await session
                        .WriteAsync(
                            """
                            insert into away (id, piece_id, sent_for, sent_to, what, expected_back, at, by_person)
                            values ($1, $2, $3, $4, $5, $6, $7, $8)
                            """,
                            stamp.Submission,
                            row.Id,
                            said.For,
                            said.To,
                            said.What,
                            said.Back,
                            session.Stamp.At,
                            stamp.Actor.Id
                        )
                        .ConfigureAwait(false);
                    await session
                        .WriteAsync("update piece set away_id = $2 where id = $1", row.Id, stamp.Submission)
                        .ConfigureAwait(false);
                    return outcome;
                }), cancel);

    /// <summary>Takes a piece back into the cage.</summary>
    public Task<Checked<Recorded>> TakeBackAsync(
        Guid piece,
        int version,
        string? note,
        bool loadBearing,
        Stamp stamp,
        CancellationToken cancel
    ) => Session.RunAsync(database, stamp, session => session.OnPieceAsync(piece, version, async row =>
                {
                    var away = await session.AskAsync(t => Of(t, row.Id)).ConfigureAwait(false);
                    var outcome = Away.TakeBack(row.Mark, row.State, away, note, loadBearing, session.By);
                    if (!outcome.Ok)
                        return outcome;
                    await session
                        .WriteAsync(
                            """
                            insert into away_return (away_id, note, load_bearing, at, by_person)
                            select away_id, $2, $3, $4, $5 from piece where id = $1
                            """,
                            row.Id,
                            ((PieceCameBack)outcome.Value.Record).Note,
                            loadBearing,
                            session.Stamp.At,
                            stamp.Actor.Id
                        )
                        .ConfigureAwait(false);
                    await session
                        .WriteAsync("update piece set away_id = null where id = $1", row.Id)
                        .ConfigureAwait(false);
                    return outcome;
                }), cancel);

    /// <summary>Records a proof test.</summary>
    public Task<Checked<Recorded>> TestAsync(
        Guid piece,
        int version,
        ProofTest test,
        Stamp stamp,
        CancellationToken cancel
    ) => Session.RunAsync(database, stamp, session => session.OnPieceAsync(piece, version, async row =>
                {
                    var straight = row.OnLift(session.Stamp.At, session.Sites).OneLegStraight;
                    var outcome = ProofTests.Record(
                        row.Mark,
                        row.State,
                        row.Gear,
                        row.RatedLoad,
                        straight,
                        test,
                        session.By
                    );
                    if (!outcome.Ok)
                        return outcome;
                    var said = (ProofTested)outcome.Value.Record;
                    await session
                        .WriteAsync(
                            """
                            insert into proof_test (id, piece_id, subject, load, factor, tested_on, made_by, instrument, calibrated_until,
                              certificate, passed, at, by_person, renews)
                            values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12, $13, $14)
                            """,
                            stamp.Submission,
                            row.Id,
                            said.Subject,
                            said.Load,
                            said.Factor,
                            said.On,
                            said.MadeBy,
                            said.Instrument,
                            said.CalibratedUntil,
                            said.Certificate,
                            said.Passed,
                            session.Stamp.At,
                            stamp.Actor.Id,
                            row.Details.ProofTestDue
                        )
                        .ConfigureAwait(false);
                    return outcome;
                }), cancel);

    /// <summary>Keeps a piece as evidence, or lets it go again.</summary>
    public Task<Checked<Recorded>> LockAsync(
        Guid piece,
        bool locks,
        string? reason,
        Stamp stamp,
        CancellationToken cancel
    ) => Session.RunAsync(database, stamp, session => session.OnPieceAsync(piece, null, async row =>
                {
                    var outcome = locks
                        ? EvidenceLock.Put(row.State, row.Locked, reason, session.By)
                        : EvidenceLock.Lift(row.State, row.Locked, reason, session.By);
                    if (!outcome.Ok)
                        return outcome;
                    await session
                        .WriteAsync(
                            "insert into evidence (id, piece_id, locked, reason, at, by_person) values ($1, $2, $3, $4, $5, $6)",
                            stamp.Submission,
                            row.Id,
                            locks,
                            reason!.Trim(),
                            session.Stamp.At,
                            stamp.Actor.Id
                        )
                        .ConfigureAwait(false);
                    await session
                        .WriteAsync("update piece set locked = $2 where id = $1", row.Id, locks ? reason.Trim() : null)
                        .ConfigureAwait(false);
                    return outcome;
                }), cancel);

    private static AwayNow From(NpgsqlDataReader r) =>
        new(
            Code.Parse<AwayFor>(r.Get<string>("sent_for")),
            r.Get<string>("sent_to"),
            r.Get<string>("what"),
            r.ValueOrNull<DateOnly>("expected_back"),
            r.Get<DateOnly>("since")
        );
}
