using Keralith.Core.Custody;
using Keralith.Core.Ledger;
using Keralith.Core.Register;

namespace Keralith.Data;

/// <summary>A piece in somebody's hands.</summary>
/// <param name="Piece">The piece; who has it stands on it.</param>
/// <param name="HandedOutBy">Who handed it out.</param>
/// <param name="Lift">The lift it went to; null: none.</param>
/// <param name="LiftName">That lift's name.</param>
public sealed record OutRow(Piece Piece, string HandedOutBy, Guid? Lift, string? LiftName);

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
    ) => IssueAsync([piece], holder, job, back, refused: _ => { }, stamp, cancel);

    /// <summary>
    /// Hands several pieces out to one job. One that may not be used stops that piece, with its reasons, and not the rest.
    /// </summary>
    /// <param name="refused">Told why a piece stays, one after the other.</param>
    public Task<Checked<Recorded>> IssueAsync(
        IReadOnlyCollection<Guid> pieces,
        string holder,
        string job,
        DateOnly? back,
        Action<Refusal> refused,
        Stamp stamp,
        CancellationToken cancel
    ) =>
        Session.RunAsync(
            database,
            stamp,
            session => session.OnEachAsync(pieces, row => HandOutAsync(session, row, holder, job, back, null), refused),
            cancel
        );

    /// <summary>
    /// Hands several pieces from who has them to the next, without the store. One that may not be used stops that piece.
    /// </summary>
    /// <param name="job">For what; empty: each for the same, and the same lift.</param>
    /// <param name="back">When they are wanted back; null: when each was.</param>
    /// <param name="refused">Told why a piece stays with who has it, one after the other.</param>
    public Task<Checked<Recorded>> HandOverAsync(
        IReadOnlyCollection<Guid> pieces,
        string holder,
        string job,
        DateOnly? back,
        Action<Refusal> refused,
        Stamp stamp,
        CancellationToken cancel
    ) =>
        Session.RunAsync(
            database,
            stamp,
            session => session.OnEachAsync(pieces, row => HandOverAsync(session, row, holder, job, back), refused),
            cancel
        );

    /// <summary>Takes a piece back after a quick look; on a doubt it goes to the cage.</summary>
    /// <param name="doubt">What is the matter with it; empty when nothing was seen.</param>
    public Task<Checked<Recorded>> ReturnAsync(Guid piece, string doubt, Stamp stamp, CancellationToken cancel) =>
        Session.RunAsync(
            database,
            stamp,
            session => session.OnPieceAsync(piece, null, row => TakeBackAsync(session, row, doubt)),
            cancel
        );

    /// <summary>Takes several pieces back, each looked over with nothing seen on it.</summary>
    /// <param name="refused">Told why a piece was not taken back, one after the other.</param>
    public Task<Checked<Recorded>> ReturnAsync(
        IReadOnlyCollection<Guid> pieces,
        Action<Refusal> refused,
        Stamp stamp,
        CancellationToken cancel
    ) =>
        Session.RunAsync(
            database,
            stamp,
            session => session.OnEachAsync(pieces, row => TakeBackAsync(session, row, string.Empty), refused),
            cancel
        );

    /// <summary>Who has what, since when: who has had something longest comes first.</summary>
    /// <param name="store">Gear of one store alone; null: of all.</param>
    /// <param name="lift">Gear of one lift alone; null: of all.</param>
    public Task<List<OutRow>> OutAsync(int? store, Guid? lift, CancellationToken cancel) =>
        database
            .Command(
                $"""
                select {PieceRows.Columns}, i.lift_id, l.name as lift_name, w.name as handed_out_by
                from piece p
                join store s on s.id = p.store_id
                join issue i on i.id = p.issue_id
                join person w on w.id = i.by_person
                left join lift l on l.id = i.lift_id
                where ($1::int is null or p.store_id = $1) and ($2::uuid is null or i.lift_id = $2)
                order by min(i.at) over (partition by lower(i.holder)), lower(i.holder), i.at, p.mark
                limit {Most}
                """
            )
            .Positional(store, lift)
            .ListAsync(
                r => new OutRow(
                    PieceRows.From(r),
                    r.Get<string>("handed_out_by"),
                    r.ValueOrNull<Guid>("lift_id"),
                    r.TextOrNull("lift_name")
                ),
                cancel
            );

    /// <summary>Most pieces listed that are out.</summary>
    public const int Most = 1000;

    /// <summary>Who took gear lately and for which jobs, to be chosen from; people here among them.</summary>
    public async Task<(IReadOnlyList<string> People, IReadOnlyList<string> Jobs)> KnownAsync(CancellationToken cancel)
    {
        var known = await database
            .Command(
                """
                select 'person' as kind, name as word from person where disabled_at is null
                union
                select 'person', holder from issue where at > now() - interval '180 days'
                union
                select 'job', job from issue where job <> '' and at > now() - interval '90 days'
                union
                select 'job', case when job = '' then name else job end from lift where state in ('planned', 'checked', 'ready', 'out', 'tried')
                order by 1, 2
                """
            )
            .ListAsync(r => (Kind: r.GetString(0), Word: r.GetString(1)), cancel)
            .ConfigureAwait(false);
        return (
            [.. known.Where(k => k.Kind == "person").Select(k => k.Word)],
            [.. known.Where(k => k.Kind == "job").Select(k => k.Word)]
        );
    }

    private static async Task<Checked<PieceOutcome>> TakeBackAsync(Session session, Piece row, string doubt)
    {
        var outcome = Issuing.TakeBack(row.Mark, row.State, row.Issued, doubt, session.By);
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
                session.Stamp.Actor.Id
            )
            .ConfigureAwait(false);
        await session.WriteAsync("update piece set issue_id = null where id = $1", row.Id).ConfigureAwait(false);
        return outcome;
    }

    private static async Task<Checked<PieceOutcome>> HandOverAsync(
        Session session,
        Piece row,
        string holder,
        string job,
        DateOnly? back
    )
    {
        var use = row.UseOn(session.By.Day, session.Site);
        var id = Guid.CreateVersion7();
        var outcome = Issuing.HandOver(id, row.Mark, row.State, use, row.Issued, holder, job, back, session.By);
        if (!outcome.Ok)
            return outcome;
        var said = (PieceHandedOver)outcome.Value.Record;
        await session
            .WriteAsync(
                """
                with ended as (
                  insert into give_back (issue_id, at, by_person) select issue_id, $6, $7 from piece where id = $2
                ), begun as (
                  insert into issue (id, piece_id, lift_id, holder, job, expected_back, at, by_person, handed_from)
                  select $1, $2, case when f.job = $4 then f.lift_id end, $3, $4, $5, $6, $7, f.id
                  from piece p join issue f on f.id = p.issue_id where p.id = $2
                )
                update piece set issue_id = $1 where id = $2
                """,
                id,
                row.Id,
                said.Holder,
                said.Job,
                said.Back,
                session.Stamp.At,
                session.Stamp.Actor.Id
            )
            .ConfigureAwait(false);
        return outcome;
    }

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
