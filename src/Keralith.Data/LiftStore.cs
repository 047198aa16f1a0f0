using System.Text.Json;
using Keralith.Core.Lifts;
using Keralith.Core.People;
using Npgsql;

namespace Keralith.Data;

/// <summary>How far a lift has come.</summary>
public enum LiftState
{
    /// <summary>Being put together.</summary>
    [Code("planned")]
    Planned,

    /// <summary>Checked, and signed where it is critical.</summary>
    [Code("ready")]
    Ready,

    /// <summary>Its gear is handed out.</summary>
    [Code("out")]
    Out,

    /// <summary>Lifted, or given up.</summary>
    [Code("done")]
    Done,
}

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

/// <summary>Something done with a lift.</summary>
/// <param name="Kind">checked, signed, weighed, trial, issued or ended.</param>
/// <param name="Version">The version of the plan it was done on.</param>
/// <param name="Data">What was said, by name.</param>
public sealed record LiftRecord(
    string Kind,
    int Version,
    IReadOnlyDictionary<string, string> Data,
    DateTimeOffset At,
    string By
);

/// <summary>Lifts: plans, templates, and what was done with them.</summary>
public sealed class LiftStore(Database database, SiteStore sites)
{
    /// <summary>Said when somebody else was quicker.</summary>
    public const string Conflict =
        "Somebody else has changed this lift since you opened it. Nothing of theirs was written over: open it again and enter yours.";

    private const int Most = 200;

    private const string Columns = """
        select l.id, l.name, l.job, l.critical, l.is_template, l.fields::text as fields, l.marks, l.state, l.version, l.made_by, m.name as maker, l.changed_at, c.name as changer
        from lift l join person m on m.id = l.made_by join person c on c.id = l.changed_by
        """;

    private readonly Recorder _recorder = new(database);
    private readonly PieceChanges _changes = new(database, sites);

    /// <summary>Lifts, the newest change first; or templates by name.</summary>
    public Task<List<LiftRow>> ListAsync(bool templates, CancellationToken cancel) =>
        database
            .Command(
                $"{Columns} where l.is_template = $1 order by {(templates ? "l.name" : "l.state = 'done', l.changed_at desc")} limit {Most}"
            )
            .Positional(templates)
            .ListAsync(From, cancel);

    public Task<LiftRow?> GetAsync(Guid id, CancellationToken cancel) =>
        database.Command($"{Columns} where l.id = $1").Positional(id).FirstAsync(From, cancel);

    /// <summary>What was done with a lift, newest first.</summary>
    public Task<List<LiftRecord>> RecordsAsync(Guid lift, CancellationToken cancel) =>
        database
            .Command(
                """
                select r.kind, r.lift_version, r.data::text as data, r.at, w.name from lift_record r join person w on w.id = r.by_person where r.lift_id = $1 order by r.at desc, r.id desc
                """
            )
            .Positional(lift)
            .ListAsync(
                r => new LiftRecord(
                    r.Get<string>("kind"),
                    r.Get<int>("lift_version"),
                    Json(r.Get<string>("data")),
                    r.Get<DateTimeOffset>("at"),
                    r.Get<string>("name")
                ),
                cancel
            );

    /// <summary>Open lifts that name a piece.</summary>
    public Task<List<LiftRow>> NamingAsync(string mark, CancellationToken cancel) =>
        database.AskAsync(t => Naming(t, mark), cancel);

    /// <summary>The same, on a trip made with other questions.</summary>
    public static Asked<List<LiftRow>> Naming(Trip trip, string mark) =>
        trip.All(
            new NpgsqlBatchCommand(
                $"{Columns} where l.marks @> array[$1] and l.state <> 'done' and not l.is_template order by l.changed_at desc limit 20"
            ).Positional(mark),
            From
        );

    /// <summary>Begins a lift, or keeps one as a template. Its submission is its id.</summary>
    public Task<Checked<Recorded>> BeginAsync(
        IReadOnlyDictionary<string, string> fields,
        bool template,
        Stamp stamp,
        CancellationToken cancel
    ) =>
        _recorder.RecordAsync(
            stamp,
            async transaction =>
            {
                if (!stamp.Actor.Role.May(Right.PlanLift))
                    return "Your role does not allow this.";
                await transaction
                    .Command(
                        "insert into lift (id, name, job, critical, is_template, fields, marks, made_by, made_at, changed_by, changed_at) values ($1, $2, $3, $4, $5, $6::jsonb, $7, $8, $9, $8, $9)"
                    )
                    .Positional(
                        stamp.Submission,
                        Name(fields),
                        Job(fields),
                        IsCritical(fields),
                        template,
                        JsonSerializer.Serialize(fields),
                        Marks(fields),
                        stamp.Actor.Id,
                        stamp.At
                    )
                    .RunAsync(cancel)
                    .ConfigureAwait(false);
                return null;
            },
            cancel
        );

    /// <summary>Keeps what is typed of a lift. What was checked or signed on an earlier version holds for that version alone.</summary>
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
        if (!actor.Role.May(Right.PlanLift))
            return new Refusal("Your role does not allow this.");
        var saved = await database
            .Command(
                """
                update lift set name = $3, job = $4, critical = $5, fields = $6::jsonb, marks = $7, version = version + 1, changed_by = $8, changed_at = $9, state = case when state = 'ready' then 'planned' else state end
                where id = $1 and version = $2 and state in ('planned', 'ready') returning version
                """
            )
            .Positional(
                id,
                version,
                Name(fields),
                Job(fields),
                IsCritical(fields),
                JsonSerializer.Serialize(fields),
                Marks(fields),
                actor.Id,
                at
            )
            .ListAsync(r => r.GetInt32(0), cancel)
            .ConfigureAwait(false);
        if (saved.Count == 1)
            return saved[0];
        return await GetAsync(id, cancel).ConfigureAwait(false) switch
        {
            null => new Refusal("There is no such lift."),
            { State: LiftState.Out or LiftState.Done } => new Refusal(
                "Its gear is handed out: the plan stands as it is. Begin another from it."
            ),
            _ => new Refusal(Conflict),
        };
    }

    /// <summary>Records something done with a lift, on the version it was done on.</summary>
    /// <param name="kind">checked, signed, weighed, trial or ended.</param>
    /// <param name="right">What it takes.</param>
    /// <param name="becomes">The state it comes to; null: it stays.</param>
    public Task<Checked<Recorded>> RecordAsync(
        Guid id,
        int version,
        string kind,
        Right right,
        IReadOnlyDictionary<string, string> data,
        LiftState? becomes,
        Stamp stamp,
        CancellationToken cancel
    ) =>
        _recorder.RecordAsync(
            stamp,
            async transaction =>
            {
                if (!stamp.Actor.Role.May(right))
                    return "Your role does not allow this.";
                var (lift, refusal) = await LockAsync(transaction, id, version, cancel).ConfigureAwait(false);
                if (refusal is not null)
                    return refusal;
                await InsertAsync(transaction, stamp.Submission, id, kind, version, data, becomes, stamp, cancel)
                    .ConfigureAwait(false);
                await LedgerStore
                    .AppendAsync(
                        transaction,
                        stamp,
                        $"lift.{kind}",
                        lift!.Name,
                        new
                        {
                            lift = id,
                            version,
                            said = data,
                        },
                        cancel
                    )
                    .ConfigureAwait(false);
                return null;
            },
            cancel
        );

    /// <summary>Hands out gear to a lift's job in one go, each piece only when Core says it may be used.</summary>
    public Task<Checked<Recorded>> IssueAsync(
        Guid id,
        int version,
        IReadOnlyCollection<Guid> pieces,
        string holder,
        DateOnly? back,
        DateOnly today,
        Stamp stamp,
        CancellationToken cancel
    )
    {
        LiftRow? lift = null;
        return _changes.RunAllAsync(
            pieces,
            Right.Issue,
            stamp,
            "piece.issued",
            async (transaction, row) =>
            {
                if (lift is null)
                {
                    (lift, var refusal) = await LockAsync(transaction, id, version, cancel).ConfigureAwait(false);
                    if (refusal is not null)
                        return new Refusal(refusal);
                    if (lift!.State != LiftState.Ready)
                        return new Refusal("This lift is not ready: its checklist is answered first.");
                    await InsertAsync(
                            transaction,
                            stamp.Submission,
                            id,
                            "issued",
                            version,
                            new Dictionary<string, string> { ["holder"] = holder.Trim() },
                            LiftState.Out,
                            stamp,
                            cancel
                        )
                        .ConfigureAwait(false);
                }

                return await IssueStore
                    .HandOutAsync(
                        transaction,
                        await sites.GetAsync(cancel).ConfigureAwait(false),
                        row,
                        holder,
                        lift.Job.Length > 0 ? lift.Job : lift.Name,
                        back,
                        id,
                        today,
                        stamp,
                        cancel
                    )
                    .ConfigureAwait(false);
            },
            cancel
        );
    }

    /// <summary>Tells those who have a piece on an open lift that it was held.</summary>
    internal static Task TellOfHoldAsync(
        NpgsqlTransaction transaction,
        Guid piece,
        string reason,
        Stamp stamp,
        CancellationToken cancel
    ) =>
        transaction
            .Command(
                """
                insert into notice (person_id, words, link, at)
                select l.made_by, p.mark || ' on your lift "' || l.name || '" is on hold: ' || $2, '/lift/' || l.id, $3
                from piece p join lift l on l.marks @> array[p.mark] where p.id = $1 and l.state <> 'done' and not l.is_template
                """
            )
            .Positional(piece, reason, stamp.At)
            .RunAsync(cancel);

    private static async Task<(LiftRow? Lift, string? Refusal)> LockAsync(
        NpgsqlTransaction transaction,
        Guid id,
        int version,
        CancellationToken cancel
    )
    {
        await transaction
            .Command("select 1 from lift where id = $1 for update")
            .Positional(id)
            .RunAsync(cancel)
            .ConfigureAwait(false);
        var lift = await transaction
            .Command($"{Columns} where l.id = $1")
            .Positional(id)
            .FirstAsync(From, cancel)
            .ConfigureAwait(false);
        return (
            lift,
            lift is null ? "There is no such lift."
            : lift.Version != version ? Conflict
            : lift.State == LiftState.Done ? "This lift is done."
            : null
        );
    }

    private static async Task InsertAsync(
        NpgsqlTransaction transaction,
        Guid record,
        Guid lift,
        string kind,
        int version,
        IReadOnlyDictionary<string, string> data,
        LiftState? becomes,
        Stamp stamp,
        CancellationToken cancel
    )
    {
        await transaction
            .Command(
                "insert into lift_record (id, lift_id, kind, lift_version, data, at, by_person) values ($1, $2, $3, $4, $5::jsonb, $6, $7)"
            )
            .Positional(record, lift, kind, version, JsonSerializer.Serialize(data), stamp.At, stamp.Actor.Id)
            .RunAsync(cancel)
            .ConfigureAwait(false);
        if (becomes is { } state)
            await transaction
                .Command("update lift set state = $2 where id = $1")
                .Positional(lift, Code.Of(state))
                .RunAsync(cancel)
                .ConfigureAwait(false);
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
        fields.GetValueOrDefault("name") is { Length: > 0 } name
            ? name[..Math.Min(name.Length, 120)]
            : "Lift without a name";

    private static string Job(IReadOnlyDictionary<string, string> fields) =>
        fields.GetValueOrDefault("job") is { } job ? job[..Math.Min(job.Length, 120)] : string.Empty;

    private static bool IsCritical(IReadOnlyDictionary<string, string> fields) =>
        fields.GetValueOrDefault("critical") == "true";

    private static string[] Marks(IReadOnlyDictionary<string, string> fields) => [.. LiftPlanReader.Marks(fields)];
}
