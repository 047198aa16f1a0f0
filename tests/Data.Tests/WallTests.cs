using Keralith.Core.Gear;
using Keralith.Testing;
using Xunit;

namespace Keralith.Data.Tests;

/// <summary>The wall's answer to "may it be used" is the piece's own, whatever stands against it.</summary>
public class WallTests
{
    private static readonly DateOnly Today = new(2026, 3, 2);

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task Every_family_hangs_as_its_own_page_says()
    {
        await using var yard = await Yard.OpenAsync();
        foreach (var (family, at) in GearFamilies.All.Select((f, i) => (f, i)))
        {
            await yard.RegisterAsync(EveryFamily.Form(family, $"HM-{at:0000}"), "qualified");
        }

        await AcceptAllAsync(yard);
        await AlikeAsync(yard, new(yard.Database), GearFamilies.All.Count);
    }

    [Fact]
    public async Task What_is_against_a_marking_stops_it_on_the_wall_at_once_and_no_other_of_its_make()
    {
        await using var yard = await Yard.OpenAsync();
        var wall = new WallStore(yard.Database);
        foreach (var mark in new[] { "HM-0001", "HM-0002", "HM-0003", "HM-0004" })
            await yard.InServiceAsync(Seed.Shackle(mark));
        await AlikeAsync(yard, wall, 4);
        foreach (
            var (mark, sql) in new[]
            {
                ("HM-0001", "details = details || '{\"legibility\": \"unreadable\"}'"),
                ("HM-0002", "tag_entries = '{}'"),
                ("HM-0003", "rated_load = null"),
            }
        )
        {
            await using var command = yard.Database.Command($"update piece set {sql} where mark = '{mark}'");
            await command.ExecuteNonQueryAsync(Cancel);
        }

        await AlikeAsync(yard, wall, 4);
        Assert.Equal(
            ["HM-0004"],
            (await wall.HangingAsync(1, await yard.Sites.GetAsync(Cancel), Today, Cancel))
                .Where(w => w.Use.MayBeUsed)
                .Select(w => w.Mark)
        );
    }

    [Fact]
    public async Task A_policy_set_or_taken_back_counts_on_the_wall_at_once()
    {
        await using var yard = await Yard.OpenAsync();
        var wall = new WallStore(yard.Database);
        await yard.InServiceAsync(Seed.Sling("HM-0001"));
        await AlikeAsync(yard, wall, 1);
        foreach (var latches in new[] { true, false })
        {
            var site = await yard.Sites.GetAsync(Cancel);
            Yard.Must(
                await new SettingsStore(yard.Database).ChangeSiteAsync(
                    new(
                        site.Version,
                        latches ? [RuleBookShelf.Find("europe")!] : site.Books,
                        site.Editions,
                        site.WatchShare,
                        new(latches, latches, latches, latches, latches),
                        "As the supervisor says"
                    ),
                    yard.Stamp("admin"),
                    Cancel
                )
            );
            await AlikeAsync(yard, wall, 1);
        }
    }

    [Fact]
    public async Task Holds_due_dates_lots_and_calibration_count_as_on_the_piece()
    {
        await using var yard = await Yard.OpenAsync();
        foreach (var mark in new[] { "HM-0001", "HM-0002", "HM-0003", "HM-0004", "HM-0005" })
            await yard.InServiceAsync(Seed.Shackle(mark));
        Yard.Must(await yard.HoldAsync("crew", "HM-0001"));
        foreach (
            var sql in new[]
            {
                "periodic_due = '2026-03-01' where mark = 'HM-0002'",
                "lot_count = 0 where mark = 'HM-0003'",
                "calibration_due = '2026-03-01' where mark = 'HM-0004'",
            }
        )
        {
            await using var command = yard.Database.Command($"update piece set {sql}");
            await command.ExecuteNonQueryAsync(Cancel);
        }

        var wall = new WallStore(yard.Database);
        await AlikeAsync(yard, wall, 5);
        Assert.Equal(
            ["HM-0005"],
            (await wall.HangingAsync(1, await yard.Sites.GetAsync(Cancel), Today, Cancel))
                .Where(w => w.Use.MayBeUsed)
                .Select(w => w.Mark)
        );
    }

    private static async Task AlikeAsync(Yard yard, WallStore wall, int count)
    {
        var site = await yard.Sites.GetAsync(Cancel);
        var hanging = await wall.HangingAsync(1, site, Today, Cancel);
        Assert.Equal(count, hanging.Count);
        foreach (var row in hanging)
        {
            var piece = await yard.FindAsync(row.Mark);
            var use = piece.UseOn(Today, site);
            Assert.True(
                use.MayBeUsed == row.Use.MayBeUsed && use.Reasons.Count == row.Use.Reasons.Count,
                $"{row.Mark}: {string.Join(" ", use.Reasons)} / {string.Join(" ", row.Use.Reasons)}"
            );
            Assert.Equal((piece.State, piece.Verdict, piece.IsCarried), (row.State, row.Verdict, row.IsCarried));
        }
    }

    /// <summary>
    /// As if each had passed its inspection: what is left against it is its marking, its policies and its own dates.
    /// </summary>
    private static async Task AcceptAllAsync(Yard yard)
    {
        await using var command = yard.Database.Command(
            "update piece set state = 'in-service', verdict = 'fit', periodic_due = '2027-01-01', frequent_due = '2027-01-01'"
        );
        await command.ExecuteNonQueryAsync(Cancel);
    }
}
