using System.Text.Json;
using Keralith.Core.Custody;
using Keralith.Core.Ledger;
using Keralith.Core.Lifts;
using Keralith.Core.People;
using Keralith.Core.Register;
using Npgsql;

namespace Keralith.Data;

/// <summary>A lift on record.</summary>
public sealed record LiftRow(
    Guid Id,
    string Name,
    string Job,
    bool Critical,
    bool IsTemplate,
    IReadOnlyDictionary<string, string> Fields,
    IReadOnlyList<string> Marks,
    LiftState State,
    int Version,
    Guid MadeBy,
    string Maker,
    DateTimeOffset ChangedAt,
    string ChangedBy
);

/// <summary>Lifts: plans, templates, and what was done with them.</summary>
public sealed class LiftStore(Database database)
{
    private const int Most = 200;

    private const string Columns = """
        select l.id, l.name, l.job, l.critical, l.is_template, l.fields::text as fields, l.marks, l.state, l.version, l.made_by, m.name as maker, l.changed_at, c.name as changer
        from lift l join person m on m.id = l.made_by join person c on c.id = l.changed_by
        """;

    /// <summary>Lifts, the newest change first; or templates by name.</summary>
    public Task<List<LiftRow>> ListAsync(bool templates, CancellationToken cancel) =>
        database
            .Command(
                $"{Columns} where l.is_template = $1 order by {(templates ? "l.name" : $"l.state not in {Fragments.OpenLift}, l.changed_at desc")} limit {Most}"
            )
            .Positional(templates)
            .ListAsync(From, cancel);

    public Task<LiftRow?> GetAsync(Guid id, CancellationToken cancel) =>
        database.Command($"{Columns} where l.id = $1").Positional(id).FirstAsync(From, cancel);

    /// <summary>What was done with a lift, newest first.</summary>
    public async Task<List<LiftRecord>> RecordsAsync(Guid lift, CancellationToken cancel) =>
        [.. (await RecordsAsync([lift], cancel).ConfigureAwait(false))[lift]];

    /// <summary>What was done with lifts, by lift, the newest first.</summary>
    public async Task<ILookup<Guid, LiftRecord>> RecordsAsync(
        IReadOnlyCollection<Guid> lifts,
        CancellationToken cancel
    ) =>
        (
            await database
                .Command(RecordsOf)
                .Positional(lifts.ToArray())
                .ListAsync(RecordFrom, cancel)
                .ConfigureAwait(false)
        ).ToLookup(r => r.Lift, r => r.Record);

    private const string RecordsOf = """
        select r.id, r.lift_id, r.kind, r.lift_version, r.data::text as data, r.at, w.name
        from lift_record r
        join person w on w.id = r.by_person
        where r.lift_id = any($1)
        order by r.at desc, r.id desc
        """;

    private static (Guid Lift, LiftRecord Record) RecordFrom(NpgsqlDataReader r) =>
        (
            r.Get<Guid>("lift_id"),
            new(
                r.Get<Guid>("id"),
                r.Get<string>("kind"),
                r.Get<int>("lift_version"),
                Json(r.Get<string>("data")),
                r.Get<DateTimeOffset>("at"),
                r.Get<string>("name")
            )
        );

    /// <summary>The charts of cranes on other lifts, the last of each name, by name.</summary>
    public Task<List<(Guid Lift, string Name)>> ChartsAsync(Guid but, CancellationToken cancel) =>
        database
            .Command(
                """
                select distinct on (fields->>'crane-name') id, fields->>'crane-name' as name
                from lift
                where fields->>'crane-name' <> '' and fields->>'crane-chart' <> '' and id <> $1
                order by fields->>'crane-name', changed_at desc
                limit 100
                """
            )
            .Positional(but)
            .ListAsync(r => (r.Get<Guid>("id"), r.Get<string>("name")), cancel);

    /// <summary>Lifts still to come that name a piece, the last changed first.</summary>
    public static Asked<List<LiftRow>> Naming(Trip trip, Guid piece) =>
        trip.All(
            new NpgsqlBatchCommand(
                $"""
                {Columns}
                where l.marks @> array[(select mark from piece where id = $1)] and l.state in {Fragments.OpenLift} and not l.is_template
                order by l.changed_at desc limit 20
                """
            ).Positional(piece),
            From
        );

    /// <summary>Begins a lift, or keeps one as a template. Its submission is its id.</summary>
    public Task<Checked<Recorded>> BeginAsync(
        IReadOnlyDictionary<string, string> fields,
        bool template,
        Stamp stamp,
        CancellationToken cancel
    ) =>
        Session.RunAsync(
            database,
            stamp,
            async session =>
            {
                if (session.By.Without(Right.PlanLift) is { } forbidden)
                    return forbidden;
                await session
                    .WriteAsync(
                        """
                        insert into lift (id, name, job, critical, is_template, fields, marks, made_by, made_at, changed_by, changed_at)
                        values ($1, $2, $3, $4, $5, $6::jsonb, $7, $8, $9, $8, $9)
                        """,
                        stamp.Submission,
                        Name(fields),
                        Job(fields),
                        IsCritical(fields),
                        template,
                        JsonSerializer.Serialize(fields),
                        Marks(fields),
                        stamp.Actor.Id,
                        session.Stamp.At
                    )
                    .ConfigureAwait(false);
                return null;
            },
            cancel
        );

    /// <summary>
    /// Keeps what is typed of a lift. What was checked or signed on an earlier version holds for that version alone.
    /// </summary>
    /// <returns>The new version, or why not.</returns>
    public async Task<Checked<int>> SaveAsync(
        Guid id,
        int version,
        IReadOnlyDictionary<string, string> fields,
        Actor actor,
        DateTimeOffset at,
        CancellationToken cancel
    )
    {
        // What is typed is kept again and again: no id makes one of them the last.
        var saved = await Session
            .RunAsync(
                database,
                new(actor, at, Guid.CreateVersion7()),
                async session =>
                {
                    var lift = await LockAsync(session, id, version).ConfigureAwait(false);
                    if (!lift.Ok)
                        return lift.Refusal;
                    var state = LiftLife.AfterChange(lift.Value.State, session.By);
                    if (!state.Ok)
                        return state.Refusal;
                    await session
                        .WriteAsync(
                            """
                            update lift
                            set name = $2, job = $3, critical = $4, fields = $5::jsonb, marks = $6, state = $7, version = version + 1,
                              changed_by = $8, changed_at = $9
                            where id = $1
                            """,
                            id,
                            Name(fields),
                            Job(fields),
                            IsCritical(fields),
                            JsonSerializer.Serialize(fields),
                            Marks(fields),
                            Code.Of(state.Value),
                            actor.Id,
                            at
                        )
                        .ConfigureAwait(false);
                    if (lift.Value.State != LiftState.Planned && !lift.Value.IsTemplate)
                        await session.LedgerAsync(new LiftChanged(id, version), lift.Value.Name).ConfigureAwait(false);
                    return null;
                },
                cancel
            )
            .ConfigureAwait(false);
        return saved.Ok ? version + 1 : saved.Refusal!;
    }

    /// <summary>
    /// A step in the life of a lift, on the version of the plan it was read on: asked of Core with the gear as it
    /// stands now.
    /// </summary>
    public Task<Checked<Recorded>> StepAsync(
        Guid id,
        int version,
        LiftStep step,
        Stamp stamp,
        CancellationToken cancel
    ) =>
        Session.RunAsync(
            database,
            stamp,
            async session =>
            {
                var locked = await LockAsync(session, id, version).ConfigureAwait(false);
                if (!locked.Ok)
                    return locked.Refusal;
                var lift = locked.Value;
                var (pieces, beside) = await GearAsync(session, lift).ConfigureAwait(false);
                var facts = FactsOf(session, lift, pieces, beside);
                var after = LiftLife.After(facts, step, session.By);
                if (!after.Ok)
                    return after.Refusal;
                if (step is HandOutLift handOut)
                {
                    var job = lift.Job.Length > 0 ? lift.Job : lift.Name;
                    var handed = await session
                        .OnPiecesAsync([.. pieces.Where(p => !beside.Out.Contains(p.Id)).Select(p => p.Id)], row =>
                            IssueStore.HandOutAsync(session, row, handOut.Holder, job, handOut.Back, id)
                        )
                        .ConfigureAwait(false);
                    if (handed is not null)
                        return handed;
                }

                await WriteAsync(session, lift, LiftLife.Completed(facts, step), after.Value).ConfigureAwait(false);
                return null;
            },
            cancel
        );

    /// <summary>What else bears on a step.</summary>
    /// <param name="Records">What was done with it.</param>
    /// <param name="Out">Pieces that are out for this lift.</param>
    private sealed record Beside(IReadOnlyList<LiftRecord> Records, IReadOnlySet<Guid> Out);

    /// <summary>The pieces a lift names, locked, and what was done on this version of its plan.</summary>
    private static async Task<(List<Piece> Pieces, Beside Beside)> GearAsync(Session session, LiftRow lift)
    {
        var named = await session
            .ReadAsync("select id from piece where mark = any($1)", r => r.GetGuid(0), [lift.Marks.ToArray()])
            .ConfigureAwait(false);
        var trip = new Trip();
        var done = trip.All(new NpgsqlBatchCommand(RecordsOf).Positional(new[] { lift.Id }), RecordFrom);
        var gone = trip.All(
            new NpgsqlBatchCommand(
                "select p.id from piece p join issue i on i.id = p.issue_id where i.lift_id = $1"
            ).Positional(lift.Id),
            r => r.GetGuid(0)
        );
        var pieces = await session.LockAllAsync(named, trip).ConfigureAwait(false);
        return (pieces, new([.. done.Value.Select(d => d.Record)], gone.Value.ToHashSet()));
    }

    private static LiftFacts FactsOf(Session session, LiftRow lift, List<Piece> pieces, Beside beside)
    {
        var sites = session.Sites;
        var gear = pieces.ToDictionary(p => p.Mark, p => p.OnLift(session.Stamp.At, sites));
        var notReady = pieces
            .Where(p => !beside.Out.Contains(p.Id))
            .Select(p => (p.Mark, Why: Issuing.WhyNotNow(gear[p.Mark].Use, p.Issued)))
            .Where(p => p.Why is not null)
            .Select(p => $"{p.Mark}: {p.Why}");
        var site = sites.Together(pieces.Select(p => p.SiteId));
        var known = LiftKnown.Of(beside.Records, lift.Version, site.Policies.CriticalShare);
        var done = beside.Records.Where(r => r.Version == lift.Version).Select(r => r.Kind).ToHashSet();
        return new(
            lift.State,
            lift.IsTemplate,
            PlanVerdict.OfFields(lift.Fields, gear, site.Books, known).Verdict,
            lift.State != LiftState.Planned && done.Contains("checked"),
            done.Contains("signed"),
            [.. notReady],
            lift.Marks.Count
        )
        {
            Known = known,
            NotOut =
            [
                .. pieces.Where(p => !beside.Out.Contains(p.Id)).Select(p => p.Mark).Order(StringComparer.Ordinal),
            ],
        };
    }

    private static async Task WriteAsync(Session session, LiftRow lift, LiftStep step, LiftState after)
    {
        await session
            .WriteAsync(
                """
                insert into lift_record (id, lift_id, kind, lift_version, data, at, by_person)
                values ($1, $2, $3, $4, $5::jsonb, $6, $7)
                """,
                session.Stamp.Submission,
                lift.Id,
                step.Code,
                lift.Version,
                JsonSerializer.Serialize(step.Said),
                session.Stamp.At,
                session.Stamp.Actor.Id
            )
            .ConfigureAwait(false);

        // Back to planning: what was checked and signed so far holds no more.
        var again = after == LiftState.Planned && step is TryLift;
        await session
            .WriteAsync(
                "update lift set state = $2, version = version + case when $3 then 1 else 0 end where id = $1",
                lift.Id,
                Code.Of(after),
                again
            )
            .ConfigureAwait(false);
        await session
            .LedgerAsync(new LiftStepped(step.Code, lift.Id, lift.Version, step.Said), lift.Name)
            .ConfigureAwait(false);
    }

    private static async Task<Checked<LiftRow>> LockAsync(Session session, Guid id, int version)
    {
        await session
            .ReadAsync("select 1 from lift where id = $1 for update", r => r.GetInt32(0), id)
            .ConfigureAwait(false);
        var lift = await session.ReadAsync($"{Columns} where l.id = $1", From, id).ConfigureAwait(false);
        return lift.Count == 0 ? Refusals.NoSuchLift
            : lift[0].Version != version ? Refusals.LiftChanged
            : lift[0];
    }

    private static LiftRow From(NpgsqlDataReader r) =>
        new(
            r.Get<Guid>("id"),
            r.Get<string>("name"),
            r.Get<string>("job"),
            r.Get<bool>("critical"),
            r.Get<bool>("is_template"),
            Json(r.Get<string>("fields")),
            r.Get<string[]>("marks"),
            Code.Parse<LiftState>(r.Get<string>("state")),
            r.Get<int>("version"),
            r.Get<Guid>("made_by"),
            r.Get<string>("maker"),
            r.Get<DateTimeOffset>("changed_at"),
            r.Get<string>("changer")
        );

    private static Dictionary<string, string> Json(string json) =>
        JsonSerializer.Deserialize<Dictionary<string, string>>(json)!;

    private static string Name(IReadOnlyDictionary<string, string> fields) =>
        fields.GetValueOrDefault("name") is { Length: > 0 } name ? name : "Lift without a name";

    private static string Job(IReadOnlyDictionary<string, string> fields) =>
        fields.GetValueOrDefault("job") ?? string.Empty;

    private static bool IsCritical(IReadOnlyDictionary<string, string> fields) =>
        fields.GetValueOrDefault("critical") == "true";

    private static string[] Marks(IReadOnlyDictionary<string, string> fields) => [.. LiftPlanReader.Marks(fields)];
}
