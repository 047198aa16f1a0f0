using Keralith.Core.Custody;
using Keralith.Core.Judgement;
using Keralith.Core.Quantities;
using Keralith.Core.Register;
using Keralith.Core.Schedule;
using Keralith.Testing;
using Xunit;

namespace Keralith.Data.Tests;

/// <summary>What happens to gear in the yard: moved, lost, found, painted, counted, split, mended, taken over.</summary>
public class YardTests
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task A_piece_moves_to_another_peg_and_its_history_says_so()
    {
        await using var yard = await Yard.OpenAsync();
        var piece = await yard.RegisterAsync(Seed.Sling("HM-0001"));
        var store = new YardStore(yard.Database);
        Yard.Must(await store.MoveAsync([piece.Id], 2, "B4", yard.Stamp("crew"), Cancel));
        Assert.Equal(("Workboat Teasel", "B4"), await WhereAsync(yard, "HM-0001"));
        Assert.Contains(await yard.Database.AskAsync(t => YardStore.Events(t, piece.Id), Cancel), e =>
            e.What == "Moved from Basin Yard, A1 to Workboat Teasel, B4"
        );
        Assert.Contains(
            "hangs there already",
            (await store.MoveAsync([piece.Id], 2, "B4", yard.Stamp("crew"), Cancel)).Fault,
            StringComparison.Ordinal
        );
        Assert.Contains(
            "Choose the store",
            (await store.MoveAsync([piece.Id], 99, "B4", yard.Stamp("crew"), Cancel)).Fault,
            StringComparison.Ordinal
        );
        Assert.Contains(
            "role",
            (await store.MoveAsync([piece.Id], 1, "B4", yard.Stamp("auditor"), Cancel)).Fault,
            StringComparison.Ordinal
        );
    }

    [Fact]
    public async Task What_was_missing_and_is_found_goes_to_the_cage()
    {
        await using var yard = await Yard.OpenAsync();
        var piece = await yard.InServiceAsync(Seed.Sling("HM-0001"));
        var store = new YardStore(yard.Database);
        Yard.Must(await store.LoseAsync(piece.Id, "Not on its peg", yard.Stamp("crew"), Cancel));
        var site = await yard.Sites.GetAsync(Cancel);
        Assert.Contains(
            "Missing",
            (await yard.FindAsync("HM-0001")).UseOn(new(2026, 3, 3), site).Reasons[0],
            StringComparison.Ordinal
        );
        Assert.False((await store.LoseAsync(piece.Id, "Again", yard.Stamp("crew"), Cancel)).Ok);
        Yard.Must(await store.FindAsync(piece.Id, "Under the jetty", yard.Stamp("crew"), Cancel));
        var found = await yard.FindAsync("HM-0001");
        Assert.Equal((PieceState.Held, 1), (found.State, found.OpenHolds.Count));
        Assert.False((await store.FindAsync(piece.Id, "Again", yard.Stamp("crew"), Cancel)).Ok);
    }

    [Fact]
    public async Task The_seasons_mark_goes_on_accepted_gear_alone_and_counts_once_enforced()
    {
        await using var yard = await Yard.OpenAsync();
        var today = DateOnly.FromDateTime(yard.Now.Date).AddDays(1);
        var scheme = new SeasonScheme(
            [new("R", "madder", SeasonPattern.Dots), new("K", "teal", SeasonPattern.Ring)],
            3,
            new(2026, 1, 1),
            7,
            true
        );
        await using (var set = yard.Database.Command("update site set season_scheme = $1::jsonb"))
        {
            set.Parameters.Add(
                new()
                {
                    Value = System.Text.Json.JsonSerializer.Serialize(
                        scheme,
                        System.Text.Json.JsonSerializerOptions.Web
                    ),
                }
            );
            await set.ExecuteNonQueryAsync(Cancel);
        }

        var store = new YardStore(yard.Database);
        var fresh = await yard.RegisterAsync(Seed.Shackle("HM-0002"));
        Assert.Contains(
            "inspect it first",
            (await store.PaintAsync([fresh.Id], yard.Stamp("inspector"), Cancel)).Fault,
            StringComparison.Ordinal
        );
        var sound = await yard.InServiceAsync(Seed.Sling("HM-0001"));
        var site = await yard.Sites.GetAsync(Cancel);
        Assert.Contains(sound.UseOn(today, site).Reasons, r => r.Contains("season", StringComparison.Ordinal));
        Yard.Must(await store.PaintAsync([sound.Id], yard.Stamp("inspector"), Cancel));
        Assert.True((await yard.FindAsync("HM-0001")).UseOn(today, site).MayBeUsed);
        Assert.False((await yard.FindAsync("HM-0001")).UseOn(new(2026, 4, 8), site).MayBeUsed);
    }

    [Fact]
    public async Task A_lot_is_counted_and_a_finding_splits_one_out_under_its_own_mark_on_hold()
    {
        await using var yard = await Yard.OpenAsync();
        var form = Seed.Shackle("HM-0001");
        form["lotCount"] = "12";
        var lot = await yard.RegisterAsync(form);
        var store = new YardStore(yard.Database);
        Yard.Must(await store.CountLotAsync(lot.Id, lot.Version, 12, 2, "Pins bent", yard.Stamp("stores"), Cancel));
        lot = await yard.FindAsync("HM-0001");
        Assert.Contains(
            "registered already",
            (
                await store.SplitLotAsync(lot.Id, lot.Version, "HM-0001", "Bow spread", yard.Stamp("stores"), Cancel)
            ).Fault,
            StringComparison.Ordinal
        );
        Yard.Must(
            await store.SplitLotAsync(lot.Id, lot.Version, "HM-0050", "Bow spread", yard.Stamp("stores"), Cancel)
        );
        var split = await yard.FindAsync("HM-0050");
        Assert.Equal(
            (9, PieceState.Held, null),
            ((await yard.FindAsync("HM-0001")).LotCount!.Value, split.State, split.LotCount)
        );
        Assert.All((await yard.Pieces.BaselinesAsync(split.Id, Cancel)).Values, b =>
            Assert.Equal(BaselineBasis.Twin, b.Figure.Basis)
        );
    }

    [Fact]
    public async Task A_part_replaced_begins_a_new_figure_keeps_the_old_and_holds_the_piece()
    {
        await using var yard = await Yard.OpenAsync();
        var piece = await yard.InServiceAsync(Seed.Sling("HM-0001"));
        var store = new YardStore(yard.Database);
        var key = new BaselineKey("leg-1/hook", "hook.throat");
        var figures = new Dictionary<BaselineKey, BaselineFigure>
        {
            [key] = new(Length.Parse("1-1/2 in"), BaselineBasis.New, null),
        };
        Assert.Contains(
            "by its own figures",
            (
                await store.ReplacePartAsync(
                    piece.Id,
                    piece.Version,
                    new("leg-1/hook", "hook", "the maker", "opened", figures),
                    yard.Stamp("qualified"),
                    Cancel
                )
            ).Fault,
            StringComparison.Ordinal
        );
        figures[new("leg-1/hook", "hook.wear")] = new(Length.Parse("1 in"), BaselineBasis.New, null);
        Assert.False(
            (
                await store.ReplacePartAsync(
                    piece.Id,
                    piece.Version,
                    new("leg-1/hook", "hook", "the maker", "opened", figures),
                    yard.Stamp("inspector"),
                    Cancel
                )
            ).Ok
        );
        Yard.Must(
            await store.ReplacePartAsync(
                piece.Id,
                piece.Version,
                new("leg-1/hook", "hook", "the maker", "opened", figures),
                yard.Stamp("qualified"),
                Cancel
            )
        );
        Assert.Equal("1-1/2 in", (await yard.Pieces.BaselinesAsync(piece.Id, Cancel))[key].Figure.Length.ToString());
        Assert.Equal(PieceState.Held, (await yard.FindAsync("HM-0001")).State);
        Assert.Null((await yard.Ledger.VerifyAsync(Cancel)).Broken);
    }

    [Fact]
    public async Task Gear_taken_over_is_in_service_once_its_report_is_attached_and_accepted_and_overdue_when_the_report_runs_out()
    {
        await using var yard = await Yard.OpenAsync(isTold: false);
        var form = Seed.Sling("HM-0001");
        (form["lastPeriodic"], form["lastInspector"], form["evidence"]) = ("2026-01-10", "Hesper Lunn", "survey 3");
        var piece = await yard.RegisterAsync(form);
        var files = new FileStore(yard.Database);
        Assert.Contains(
            "file is not attached",
            (await files.AcceptReportsAsync([piece.Id], yard.Stamp("inspector"), Cancel)).Fault,
            StringComparison.Ordinal
        );
        Yard.Must(
            await files.AttachAsync(
                [piece.Id],
                new(FileKind.Report, "survey 3", new(2026, 1, 10), "application/pdf", [1, 2, 3], null),
                yard.Stamp("stores"),
                Cancel
            )
        );
        Assert.False((await files.AcceptReportsAsync([piece.Id], yard.Stamp("stores"), Cancel)).Ok);

        // Whoever accepts is authorised for the group, as for an inspection; the report has not run out; the marking was
        // read and every figure when new is there.
        await yard.AsOwnerAsync("alter table authorisation disable trigger user");
        await yard.AsOwnerAsync("update authorisation set until = '2026-03-01'");
        Assert.Equal(
            RefusalKind.Forbidden,
            (await files.AcceptReportsAsync([piece.Id], yard.Stamp("inspector"), Cancel)).Refusal!.Kind
        );
        await yard.AsOwnerAsync("update authorisation set until = '2099-03-01'");
        foreach (
            var (lacks, restores, words) in new[]
            {
                (
                    "update carried_over set last_periodic = '2025-01-10'",
                    "update carried_over set last_periodic = '2026-01-10'",
                    "ran out on 2026-01-10"
                ),
                ("update piece set tag_read = false", "update piece set tag_read = true", "read its marking"),
                (
                    "create table aside as select * from baseline; delete from baseline where criterion = 'hook.throat'",
                    "delete from baseline; insert into baseline overriding system value select * from aside",
                    "is not on record"
                ),
            }
        )
        {
            foreach (var table in new[] { "baseline", "carried_over" })
                await yard.AsOwnerAsync($"alter table {table} disable trigger user");
            await yard.AsOwnerAsync(lacks);
            Assert.Contains(
                words,
                (await files.AcceptReportsAsync([piece.Id], yard.Stamp("inspector"), Cancel)).Fault,
                StringComparison.Ordinal
            );
            await yard.AsOwnerAsync(restores);
        }

        Yard.Must(await files.AcceptReportsAsync([piece.Id], yard.Stamp("inspector"), Cancel));
        piece = await yard.FindAsync("HM-0001");
        var site = await yard.Sites.GetAsync(Cancel);
        Assert.Equal(
            (PieceState.InService, new DateOnly(2027, 1, 10), true),
            (piece.State, piece.PeriodicDue!.Value, piece.IsCarried)
        );
        Assert.True(piece.UseOn(new(2027, 1, 10), site).MayBeUsed);
        Assert.False(piece.UseOn(new(2027, 1, 11), site).MayBeUsed);
        Yard.Must(await yard.InspectAsync("HM-0001", InspectionKind.Periodic));
        Assert.False((await yard.FindAsync("HM-0001")).IsCarried);
    }

    /// <summary>Of many pieces made alike, those are told that lack something; what is known whole, or condemned, wants nothing.</summary>
    [Fact]
    public async Task What_gear_taken_over_still_needs_is_told_of_each_piece_that_needs_it()
    {
        await using var yard = await Yard.OpenAsync();
        for (var i = 1; i <= 5; i++)
            await yard.RegisterAsync(Seed.Sling($"HM-000{i}"));
        var reported = Seed.Sling("HM-0006");
        (reported["lastPeriodic"], reported["lastInspector"], reported["evidence"]) = ("2026-01-10", "Hesper", "R 3");
        await yard.RegisterAsync(reported);
        var unread = Seed.Sling("HM-0007");
        unread["tagUnread"] = "on";
        foreach (var field in unread.Keys.Where(f => f.StartsWith("tag:", StringComparison.Ordinal)).ToList())
            unread.Remove(field);
        await yard.RegisterAsync(unread);
        foreach (var mark in new[] { "HM-0008", "HM-0009" })
        {
            var bare = Seed.Sling(mark);
            foreach (var field in bare.Keys.Where(f => f.EndsWith("hook.throat", StringComparison.Ordinal)).ToList())
                bare.Remove(field);
            await yard.RegisterAsync(bare);
        }

        var gone = await yard.FindAsync("HM-0009");
        Yard.Must(await yard.Custody.CondemnAsync(gone.Id, gone.Version, "Bent", yard.Stamp("qualified"), Cancel));
        var left = await new TakeOverStore(yard.Database).ListAsync(Cancel);
        Assert.Equal(
            [("HM-0006", "R 3", true, 0), ("HM-0007", null, false, 0), ("HM-0008", null, true, 2)],
            left.Select(p => (p.Mark, p.Evidence, p.TagRead, p.Missing.Count))
        );
    }

    [Fact]
    public async Task Missing_figures_are_filled_by_what_is_made_alike_and_provisional_ones_by_a_qualified_person_alone()
    {
        await using var yard = await Yard.OpenAsync();
        var twin = Seed.Sling("HM-0001");
        twin["model"] = "OC-8";
        await yard.RegisterAsync(twin);
        await yard.RegisterAsync(WithoutThroats("HM-0002", "OC-8", "3/8 in"));
        await yard.RegisterAsync(WithoutThroats("HM-0003", "OC-8", "1/2 in"));

        var store = new TakeOverStore(yard.Database);
        var missing = await store.MissingAsync(await store.ListAsync(Cancel), Cancel);
        Assert.Equal("HM-0001", missing.Single(m => m.Pieces[0].Mark == "HM-0002").Twin);
        Assert.Null(missing.Single(m => m.Pieces[0].Mark == "HM-0003").Twin);
        var same = missing.Single(m => m.Pieces[0].Mark == "HM-0002");
        Assert.Contains(
            "nothing was measured",
            (
                await store.FillAsync(
                    [same.Pieces[0].Id],
                    same.Criterion,
                    same.PartKind,
                    null,
                    yard.Stamp("qualified"),
                    Cancel
                )
            ).Fault,
            StringComparison.Ordinal
        );
        Assert.Contains(
            "qualified",
            (
                await store.FillAsync(
                    [same.Pieces[0].Id],
                    same.Criterion,
                    same.PartKind,
                    same.TwinFigure! with
                    {
                        Basis = BaselineBasis.Provisional,
                    },
                    yard.Stamp("stores"),
                    Cancel
                )
            ).Fault,
            StringComparison.Ordinal
        );
        Yard.Must(
            await store.FillAsync(
                [same.Pieces[0].Id],
                same.Criterion,
                same.PartKind,
                same.TwinFigure,
                yard.Stamp("stores"),
                Cancel
            )
        );
        Assert.DoesNotContain(await store.ListAsync(Cancel), p => p.Mark == "HM-0002");
    }

    [Theory]
    [InlineData("OC-8", true)]
    [InlineData("-", false)]
    [InlineData("?", false)]
    [InlineData("", false)]
    public async Task Of_a_model_that_nobody_knows_there_is_no_twin(string model, bool hasTwin)
    {
        await using var yard = await Yard.OpenAsync();
        var known = Seed.Sling("HM-0001");
        known["model"] = model;
        await yard.RegisterAsync(known);
        await yard.RegisterAsync(WithoutThroats("HM-0002", model, "3/8 in"));
        var store = new TakeOverStore(yard.Database);
        var missing = Assert.Single(await store.MissingAsync(await store.ListAsync(Cancel), Cancel));
        Assert.Equal(hasTwin ? "HM-0001" : null, missing.Twin);
        Assert.Equal(hasTwin, missing.TwinFigure is not null);
    }

    /// <summary>A sling whose hooks' throats when new nobody wrote down.</summary>
    private static Dictionary<string, string> WithoutThroats(string mark, string model, string size)
    {
        var bare = Seed.Sling(mark);
        (bare["model"], bare["size"]) = (model, size);
        foreach (var field in bare.Keys.Where(f => f.StartsWith("baseline:", StringComparison.Ordinal)).ToList())
        {
            if (field.EndsWith("hook.throat", StringComparison.Ordinal))
                bare.Remove(field);
            else if (field.EndsWith("chain.gauge-growth", StringComparison.Ordinal))
                bare[field] = size == "1/2 in" ? "15 in" : "11.25 in";
        }

        return bare;
    }

    [Fact]
    public async Task A_marking_read_again_keeps_what_it_said_before()
    {
        await using var yard = await Yard.OpenAsync();
        var piece = await yard.RegisterAsync(Seed.Sling("HM-0001"));
        var form = Seed.Sling("HM-0001");
        form["ratedLoad"] = "11000 lb";
        Yard.Must(
            await yard.Pieces.EditAsync(
                piece.Id,
                piece.Version,
                PieceEntryReader.Read(form).Entry!,
                new("Read again", null),
                yard.Stamp("inspector"),
                Cancel
            )
        );
        Assert.Equal(
            ["11000 lb", "12200 lb"],
            (await yard.Database.AskAsync(t => PieceStore.Tags(t, piece.Id), Cancel)).Select(t =>
                t.RatedLoad!.Value.ToString()
            )
        );
    }

    [Fact]
    public async Task A_marking_that_was_read_is_never_called_unread_again()
    {
        await using var yard = await Yard.OpenAsync();
        var piece = await yard.RegisterAsync(Seed.Sling("HM-0001"));
        var form = Seed.Sling("HM-0001");
        form[PieceEntryReader.TagUnread] = "true";
        Assert.Contains(
            "stays read",
            (
                await yard.Pieces.EditAsync(
                    piece.Id,
                    piece.Version,
                    PieceEntryReader.Read(form).Entry!,
                    new("Read again", null),
                    yard.Stamp("stores"),
                    Cancel
                )
            ).Fault,
            StringComparison.Ordinal
        );
    }

    private static async Task<(string, string)> WhereAsync(Yard yard, string mark)
    {
        var piece = await yard.FindAsync(mark);
        return (piece.Store, piece.Peg);
    }
}
