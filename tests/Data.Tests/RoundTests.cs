using Keralith.Core.Custody;
using Keralith.Testing;
using Xunit;

namespace Keralith.Data.Tests;

/// <summary>Rounds in the store: gone on with, closed once, their list kept as it was.</summary>
public class RoundTests
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task A_round_is_gone_on_with_and_keeps_its_list_when_gear_moves_on()
    {
        await using var yard = await Yard.OpenAsync();
        var (first, second) = (
            await yard.RegisterAsync(Seed.Sling("HM-0001")),
            await yard.RegisterAsync(Seed.Shackle("HM-0002"))
        );
        var rounds = new RoundStore(yard.Database);
        var stamp = yard.Stamp("stores");
        Yard.Must(await rounds.WalkAsync(stamp.Submission, first.StoreId, stamp, Cancel));
        Assert.Contains(
            "under way",
            (await rounds.WalkAsync(Guid.CreateVersion7(), first.StoreId, yard.Stamp("stores"), Cancel)).Fault,
            StringComparison.Ordinal
        );

        // The same press again is the same scan.
        var scan = yard.Stamp("crew");
        for (var i = 0; i < 2; i++)
            Yard.Must(
                await rounds.SeeAsync(stamp.Submission, [("HM-0001", first.Id), ("ZZ-9", null)], "Z-99", scan, Cancel)
            );
        var open = (await rounds.FindAsync(stamp.Submission, Cancel))!;
        Assert.Equal(
            [RoundFinding.NotSeen, RoundFinding.Unknown, RoundFinding.WrongPeg],
            open.Standing.Select(l => l.Finding)
        );
        Yard.Must(
            await rounds.SeeAsync(stamp.Submission, [("HM-0001", first.Id)], first.Peg, yard.Stamp("stores"), Cancel)
        );
        Yard.Must(await rounds.CloseAsync(stamp.Submission, yard.Stamp("stores"), Cancel));
        Assert.False((await rounds.CloseAsync(stamp.Submission, yard.Stamp("stores"), Cancel)).Ok);
        Assert.False(
            (await rounds.SeeAsync(stamp.Submission, [("HM-0002", second.Id)], "", yard.Stamp("stores"), Cancel)).Ok
        );

        Yard.Must(
            await new YardStore(yard.Database).MoveAsync(
                [second.Id],
                second.StoreId,
                "Q-1",
                yard.Stamp("stores"),
                Cancel
            )
        );
        var closed = (await rounds.FindAsync(stamp.Submission, Cancel))!;
        Assert.Contains(closed.Standing, l =>
            l is { Finding: RoundFinding.NotSeen, Mark: "HM-0002" }
            && !l.Words.Contains("Q-1", StringComparison.Ordinal)
        );
        Assert.Equal(
            ["round.closed", "round.begun"],
            (await yard.Ledger.NewestAsync("site", null, 9, Cancel))
                .Select(e => e.Kind)
                .Where(k => k.StartsWith("round.", StringComparison.Ordinal))
        );
    }

    [Fact]
    public async Task Chosen_pieces_are_looked_for_wherever_they_hang()
    {
        await using var yard = await Yard.OpenAsync();
        var (first, second, other) = (
            await yard.RegisterAsync(Seed.Sling("HM-0001")),
            await yard.RegisterAsync(Seed.Shackle("HM-0002")),
            await yard.RegisterAsync(Seed.Shackle("HM-0003"))
        );
        var rounds = new RoundStore(yard.Database);
        var stamp = yard.Stamp("stores");
        Yard.Must(await rounds.SearchAsync(stamp.Submission, [first.Id, second.Id], stamp, Cancel));
        Yard.Must(
            await rounds.SeeAsync(
                stamp.Submission,
                [("HM-0002", second.Id), ("HM-0003", other.Id)],
                "",
                yard.Stamp("stores"),
                Cancel
            )
        );
        Assert.Equal(
            [("HM-0001", RoundFinding.NotSeen), ("HM-0003", RoundFinding.Extra), ("HM-0002", RoundFinding.Seen)],
            (await rounds.FindAsync(stamp.Submission, Cancel))!.Standing.Select(l => (l.Mark, l.Finding))
        );
        Assert.Equal("2 chosen", Assert.Single(await rounds.AllAsync(Cancel)).Name);
    }

    [Fact]
    public async Task Of_many_who_begin_a_round_of_one_store_at_once_one_does()
    {
        await using var yard = await Yard.OpenAsync();
        var store = (await yard.RegisterAsync(Seed.Sling("HM-0001"))).StoreId;
        var rounds = new RoundStore(yard.Database);
        var results = await Task.WhenAll(
            Enumerable
                .Range(0, 6)
                .Select(_ => rounds.WalkAsync(Guid.CreateVersion7(), store, yard.Stamp("stores"), Cancel))
        );
        Assert.Single(results, r => r.Ok);
        Assert.Single(await rounds.AllAsync(Cancel));
    }
}
