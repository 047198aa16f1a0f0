using Keralith.Core.Custody;
using Keralith.Core.Gear;
using Keralith.Core.Judgement;
using Keralith.Core.Register;
using Keralith.Core.Sites;
using Keralith.Testing;
using Xunit;

namespace Keralith.Data.Tests;

/// <summary>Two who act at once: each sees what the other did, or is told.</summary>
public class RaceTests
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    /// <summary>Acts that name the version of the piece they were made on.</summary>
    public static TheoryData<string> Versioned { get; } =
    ["release", "retag", "condemn", "destroy", "part", "count", "split", "edit"];

    [Theory]
    [MemberData(nameof(Versioned))]
    public async Task An_act_on_a_piece_that_was_changed_since_it_was_read_is_a_conflict(string act)
    {
        await using var yard = await Yard.OpenAsync();
        var form = Seed.Shackle("HM-0001");
        if (act is "count" or "split")
            form["lotCount"] = "12";
        await yard.InServiceAsync(form);
        if (act is "release")
        {
            Yard.Must(await yard.HoldAsync("crew", "HM-0001"));
            Yard.Must(await yard.InspectAsync("HM-0001", InspectionKind.Periodic));
        }

        var seen = await yard.FindAsync("HM-0001");
        if (act is "destroy")
            Yard.Must(await yard.Custody.CondemnAsync(seen.Id, seen.Version, "Worn", yard.Stamp("qualified"), Cancel));
        else
            Yard.Must(await new YardStore(yard.Database).MoveAsync([seen.Id], 2, "B9", yard.Stamp("stores"), Cancel));
        var late = await DoAsync(yard, act, seen);
        Assert.Equal(RefusalKind.Conflict, late.Refusal?.Kind);
        Assert.True((await DoAsync(yard, act, await yard.FindAsync("HM-0001"))).Ok);
    }

    private static async Task<Checked<Recorded>> DoAsync(Yard yard, string act, Piece seen)
    {
        var store = new YardStore(yard.Database);
        var (id, version) = (seen.Id, seen.Version);
        switch (act)
        {
            case "release":
                var hold = (await yard.Custody.HoldsAsync(id, Cancel)).First(h => h.IsOpen);
                return await yard.Custody.ReleaseAsync(id, version, hold.Id, "Sound", yard.Stamp("qualified"), Cancel);
            case "retag":
                return await yard.Custody.RetagAsync(id, version, "Serial", "Maker", yard.Stamp("qualified"), Cancel);
            case "condemn":
                return await yard.Custody.CondemnAsync(id, version, "Worn", yard.Stamp("qualified"), Cancel);
            case "destroy":
                return await yard.Custody.DestroyAsync(
                    id,
                    version,
                    "Cut",
                    Seed.People["stores"],
                    "",
                    yard.Stamp("qualified"),
                    Cancel
                );
            case "part":
                var figures = new Dictionary<BaselineKey, BaselineFigure>
                {
                    [new("pin", "shackle.wear-pin")] = new(
                        Core.Quantities.Length.Parse("1 in"),
                        BaselineBasis.New,
                        null
                    ),
                };
                var part = new NewPart("pin", "pin", "Maker", "Bent", figures);
                return await store.ReplacePartAsync(id, version, part, yard.Stamp("qualified"), Cancel);
            case "count":
                return await store.CountLotAsync(id, version, 12, 0, "", yard.Stamp("stores"), Cancel);
            case "split":
                return await store.SplitLotAsync(id, version, "HM-0099", "Bent", yard.Stamp("stores"), Cancel);
            default:
                var figuresNow = (await yard.Pieces.BaselinesAsync(id, Cancel)).ToDictionary(
                    b => b.Key,
                    b => b.Value.Figure
                );
                var entry = seen.Entry(figuresNow) with { Details = seen.Details with { Notes = "Changed" } };
                return await yard.Pieces.EditAsync(
                    id,
                    version,
                    entry,
                    new("Read again", null),
                    yard.Stamp("stores"),
                    Cancel
                );
        }
    }

    [Fact]
    public async Task A_signature_waits_for_an_answer_that_is_being_kept_and_then_finds_it_changed()
    {
        await using var yard = await Yard.OpenAsync();
        await yard.InServiceAsync(Seed.Shackle("HM-0001"));
        var (draft, version) = await yard.DraftAsync("HM-0001", InspectionKind.Periodic);
        await using var connection = await yard.Database.OpenAsync(Cancel);
        await using var keeping = await connection.BeginTransactionAsync(Cancel);
        await using (
            var change = new Npgsql.NpgsqlCommand("update draft set version = version + 1 where id = $1", connection)
        )
        {
            change.Parameters.Add(new() { Value = draft });
            await change.ExecuteNonQueryAsync(Cancel);
        }

        var signing = yard.Signing.SignAsync(draft, new(version, new(2026, 3, 2)), yard.Stamp("inspector"), Cancel);
        await yard.UntilSomebodyWaitsAsync();
        Assert.False(signing.IsCompleted);
        await keeping.CommitAsync(Cancel);
        Assert.Equal(Refusals.DraftChanged, (await signing).Refusal);
    }

    [Fact]
    public async Task A_change_of_books_waits_for_a_signature_under_way_and_counts_what_it_signed()
    {
        await using var yard = await Yard.OpenAsync();
        await yard.InServiceAsync(Seed.Shackle("HM-0001"));
        yard.Now = yard.Now.AddDays(100);
        var (draft, version) = await yard.DraftAsync("HM-0001", InspectionKind.Periodic);
        await using var connection = await yard.Database.OpenAsync(Cancel);
        await using var keeping = await connection.BeginTransactionAsync(Cancel);
        await using (var change = new Npgsql.NpgsqlCommand("select 1 from draft where id = $1 for update", connection))
        {
            change.Parameters.Add(new() { Value = draft });
            await change.ExecuteNonQueryAsync(Cancel);
        }

        // The signature has the site and waits for the draft; the change of books waits for the signature.
        var signing = yard.Signing.SignAsync(draft, new(version, new(2026, 6, 10)), yard.Stamp("inspector"), Cancel);
        await yard.UntilSomebodyWaitsAsync();
        var changing = ChangeAsync(yard, "europe");
        await yard.UntilSomebodyWaitsAsync(waiting: 2);
        await keeping.CommitAsync(Cancel);
        Yard.Must(await signing);
        Yard.Must(await changing);
        Assert.Equal(new DateOnly(2026, 12, 10), (await yard.FindAsync("HM-0001")).PeriodicDue);
    }

    /// <summary>Slow for its kind: what is lost here is lost in one run of many, so it is run often.</summary>
    [Fact]
    public async Task Whoever_signs_while_the_books_change_back_and_forth_no_due_date_is_the_older_answer()
    {
        await using var yard = await Yard.OpenAsync();
        const int Pieces = 24;
        for (var i = 0; i < Pieces; i++)
            await yard.InServiceAsync(Seed.Shackle($"HM-{i:0000}"));
        yard.Now = yard.Now.AddDays(100);
        var drafts = new List<(Guid Draft, int Version)>();
        for (var i = 0; i < Pieces; i++)
            drafts.Add(await yard.DraftAsync($"HM-{i:0000}", InspectionKind.Periodic));
        var stamps = drafts.Select(_ => yard.Stamp("inspector")).ToList();
        var signing = Task.WhenAll(
            drafts.Select(
                (d, i) => yard.Signing.SignAsync(d.Draft, new(d.Version, new(2026, 6, 10)), stamps[i], Cancel)
            )
        );
        for (var i = 0; i < 9; i++)
            Yard.Must(await ChangeAsync(yard, i % 2 == 0 ? "europe" : "osha"));
        Assert.All(await signing, Yard.Must);
        for (var i = 0; i < Pieces; i++)
            Assert.Equal(new DateOnly(2026, 12, 10), (await yard.FindAsync($"HM-{i:0000}")).PeriodicDue);
    }

    [Theory]
    [InlineData("Pacific/Kiritimati", "2026-03-02T12:00:00Z", "2026-03-03", true)]
    [InlineData("Pacific/Kiritimati", "2026-03-02T12:00:00Z", "2026-03-04", false)]
    [InlineData("Pacific/Pago_Pago", "2026-03-02T09:00:00Z", "2026-03-01", true)]
    [InlineData("Pacific/Pago_Pago", "2026-03-02T09:00:00Z", "2026-03-02", false)]
    public async Task A_works_signs_by_its_own_day(string zone, string now, string day, bool may)
    {
        await using var yard = await Yard.OpenAsync();
        await yard.InServiceAsync(Seed.Shackle("HM-0001"));
        await InZoneAsync(yard, zone);
        yard.Now = DateTimeOffset.Parse(now, System.Globalization.CultureInfo.InvariantCulture);
        var piece = await yard.FindAsync("HM-0001");
        var on = DateOnly.ParseExact(day, "yyyy-MM-dd", System.Globalization.CultureInfo.InvariantCulture);
        Assert.Equal(may, (await yard.Signing.SignCleanCheckAsync(piece, on, yard.Stamp("crew"), Cancel)).Ok);
        var happened = await new EventStore(yard.Database).RecordAsync(
            [piece.Id],
            GearEventKind.Shock,
            on,
            "It fell",
            yard.Stamp("crew"),
            Cancel
        );
        Assert.Equal(may, happened.Ok);
        if (may)
            Assert.Contains($"since {day}", (await yard.FindAsync("HM-0001")).OpenHolds[0], StringComparison.Ordinal);
    }

    [Fact]
    public async Task The_register_counts_a_piece_as_overdue_from_the_day_after_its_due_day()
    {
        await using var yard = await Yard.OpenAsync();
        var piece = await yard.InServiceAsync(Seed.Shackle("HM-0001"));
        var search = new RegisterSearch(yard.Database);
        foreach (var (days, value) in new[] { (-31, "later"), (-30, "soon"), (0, "soon"), (1, "overdue") })
        {
            var page = await search.FindAsync(new() { Today = piece.PeriodicDue!.Value.AddDays(days) }, Cancel);
            Assert.Equal(value, Assert.Single(page.Facets, f => f.Facet == "due").Value);
        }
    }

    private static async Task<Checked<Recorded>> ChangeAsync(Yard yard, string book)
    {
        var site = await yard.Sites.GetAsync(Cancel);
        var books = new[] { RuleBookShelf.Asme, RuleBookShelf.Find(book)! };
        var change = new SiteChange(site.Version, books, site.Editions, site.WatchShare, site.Policies, "Trial");
        return await new SettingsStore(yard.Database).ChangeSiteAsync(change, yard.Stamp("admin"), Cancel);
    }

    private static async Task InZoneAsync(Yard yard, string zone)
    {
        var site = await yard.Sites.GetAsync(Cancel);
        var change = new SiteChange(
            site.Version,
            site.Books,
            site.Editions,
            site.WatchShare,
            site.Policies,
            "Where we are"
        )
        {
            TimeZone = zone,
        };
        Yard.Must(await new SettingsStore(yard.Database).ChangeSiteAsync(change, yard.Stamp("admin"), Cancel));
    }
}
