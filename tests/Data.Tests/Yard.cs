using Keralith.Core.Custody;
using Keralith.Core.Gear;
using Keralith.Core.Judgement;
using Keralith.Core.Register;
using Keralith.Core.Signing;
using Keralith.Testing;
using Xunit;

namespace Keralith.Data.Tests;

/// <summary>A fresh yard with the moves a test makes in it, day by day.</summary>
internal sealed class Yard : IAsyncDisposable
{
    private Yard(Database database)
    {
        Database = database;
        Sites = new(database);
        Pieces = new(database);
        Inspections = new(database);
        Signing = new(database);
        Custody = new(database);
        Ledger = new(database);
    }

    public Database Database { get; }

    public SiteStore Sites { get; }

    public PieceStore Pieces { get; }

    public InspectionStore Inspections { get; }

    public SigningStore Signing { get; }

    public CustodyStore Custody { get; }

    public LedgerStore Ledger { get; }

    /// <summary>Carries SQL out as whoever owns the database: what the application itself may not do.</summary>
    public async Task AsOwnerAsync(string sql)
    {
        await using var owner = new Database(await TestDatabases.OwnerOfAsync(Database.ConnectionString));
        await using var command = owner.Command(sql);
        await command.ExecuteNonQueryAsync(Cancel);
    }

    public DateTimeOffset Now { get; set; } = new(2026, 3, 2, 9, 0, 0, TimeSpan.Zero);

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    /// <param name="connections">How many connections its pool has; null: as many as are wanted.</param>
    /// <param name="longest">How many seconds a question of a page may take; null: as many as usual.</param>
    /// <param name="isTold">Whether its ledger tells the record; else what an earlier program wrote can be laid out.</param>
    public static async Task<Yard> OpenAsync(int? connections = null, int? longest = null, bool isTold = true)
    {
        var at = new Npgsql.NpgsqlConnectionStringBuilder(await TestDatabases.CreateAsync(isTold));
        if (connections is { } most)
            (at.MaxPoolSize, at.Timeout) = (most, 20);
        at.CommandTimeout = longest ?? at.CommandTimeout;
        return new(new Database(at.ConnectionString));
    }

    /// <summary>A yard on a copy of another's records, which nobody is connected to.</summary>
    public static async Task<Yard> CopyAsync(string of) => new(new Database(await TestDatabases.CopyAsync(of)));

    public Stamp Stamp(string who)
    {
        // Several hands at once: each gets a moment of its own.
        lock (this)
            return new(Seed.People[who], Now += TimeSpan.FromMinutes(1), Guid.NewGuid());
    }

    public async Task<Piece> RegisterAsync(Dictionary<string, string> fields, string by = "stores")
    {
        var (entry, faults) = PieceEntryReader.Read(fields);
        Assert.True(entry is not null, string.Join("; ", faults));
        Must(await Pieces.RegisterAsync(entry, Guid.NewGuid(), Stamp(by), Cancel));
        return await FindAsync(fields["mark"]);
    }

    /// <summary>A piece registered and accepted by its initial inspection.</summary>
    public async Task<Piece> InServiceAsync(Dictionary<string, string> fields)
    {
        await RegisterAsync(fields);
        Must(await InspectAsync(fields["mark"], InspectionKind.Initial));
        return await FindAsync(fields["mark"]);
    }

    public async Task<Piece> FindAsync(string mark) => (await Pieces.FindAsync(mark, Cancel))!;

    /// <summary>Drafts a complete inspection with nothing wrong but what is named, and leaves it unsigned.</summary>
    public async Task<(Guid Draft, int Version)> DraftAsync(
        string mark,
        InspectionKind kind,
        params (string Part, string Criterion, AnswerEntry Entry)[] but
    )
    {
        var piece = await FindAsync(mark);
        var site = await Sites.GetAsync(Cancel);
        var draft = await Inspections.OpenAsync(piece, kind, Stamp("inspector"), Cancel);
        var baselines = await Pieces.BaselinesAsync(piece.Id, Cancel);
        var answers = Judge
            .MissingAnswers(
                new(site.Books, (await Inspections.DraftAsync(draft.Value, Cancel))!.Kind, piece.Gear, [], [])
            )
            .Select(m =>
                (
                    m.Part,
                    Criterion: m.Criterion.Id,
                    Entry: Clean(m.Criterion, baselines.GetValueOrDefault(new(m.Part, m.Criterion.Id))?.Figure)
                )
            )
            .Where(a => !but.Any(b => b.Part == a.Part && b.Criterion == a.Criterion))
            .Concat(but)
            .Select(a => new DraftAnswer(a.Part, a.Criterion, a.Entry, null, "", Now))
            .ToList();
        return (
            draft.Value,
            (await Inspections.SaveAsync(draft.Value, answers, Seed.People["inspector"], Now, Cancel)).Value
        );
    }

    public async Task<Checked<Recorded>> InspectAsync(
        string mark,
        InspectionKind kind,
        params (string Part, string Criterion, AnswerEntry Entry)[] but
    ) => await InspectByAsync("inspector", mark, kind, but);

    public async Task<Checked<Recorded>> InspectByAsync(
        string who,
        string mark,
        InspectionKind kind,
        params (string Part, string Criterion, AnswerEntry Entry)[] but
    )
    {
        var (draft, version) = await DraftAsync(mark, kind, but);
        var stamp = Stamp(who);
        return await Signing.SignAsync(draft, new(version, DateOnly.FromDateTime(stamp.At.Date)), stamp, Cancel);
    }

    public async Task<Checked<Recorded>> ReleaseAsync(string who, string mark, string reason = "Looked at again, sound")
    {
        var piece = await FindAsync(mark);
        var hold = (await Custody.HoldsAsync(piece.Id, Cancel)).First(h => h.IsOpen);
        return await Custody.ReleaseAsync(piece.Id, piece.Version, hold.Id, reason, Stamp(who), Cancel);
    }

    public async Task<Checked<Recorded>> HoldAsync(string who, string mark, HoldCause cause = HoldCause.Doubt) =>
        await Custody.HoldAsync((await FindAsync(mark)).Id, cause, "Something looks wrong", Stamp(who), Cancel);

    public static void Must(Checked<Recorded> result) => Assert.True(result.Ok, result.Fault);

    public ValueTask DisposeAsync() => Database.DisposeAsync();

    private static AnswerEntry Clean(Criterion criterion, BaselineFigure? baseline) =>
        criterion switch
        {
            { IsAnswerChosen: true } => new(Answer: "no"),
            { IsPair: true } => new(Value: "72 in", Shortest: "72 in"),
            { Kind: CriterionKind.Count } => new(Value: "0"),
            { Id: "chain.link-thickness" } => new(Value: "0.37 in"),
            _ => new(Value: baseline?.Length.ToString() ?? "1 in"),
        };

    /// <summary>Waits until so many of the database's sessions stand before a lock.</summary>
    public async Task UntilSomebodyWaitsAsync(int waiting = 1)
    {
        for (var tries = 0; tries < 600; tries++)
        {
            await using var count = Database.Command(
                "select count(*)::int from pg_stat_activity where datname = current_database() and wait_event_type = 'Lock'"
            );
            if ((int)(await count.ExecuteScalarAsync(Cancel))! >= waiting)
                return;
            await Task.Delay(10, Cancel);
        }

        Assert.Fail("Nobody waits.");
    }
}
