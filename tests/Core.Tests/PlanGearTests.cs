using Keralith.Core.Lifts;
using Xunit;
using static Keralith.Core.Tests.GivenPlan;

namespace Keralith.Core.Tests;

/// <summary>Gear put on a plan: where it belongs, and what is not put on.</summary>
public class PlanGearTests
{
    private static readonly Dictionary<string, LiftGear> Rack = new[]
    {
        Piece("S-1", "web-sling", "2 t"),
        Piece("S-2", "web-sling", "2 t"),
        Piece("S-3", "web-sling", "2 t"),
        Piece("T-2", "alloy-chain-sling", "4 t", ("legs", "2")),
        Piece("K-1", "shackle", "3 t"),
        Piece("K-2", "shackle", "3 t") with
        {
            LotCount = 12,
        },
        Piece("E-1", "eye-bolt", "1 t"),
        Piece("H-1", "hook", "3 t"),
        Piece("D-1", "load-indicator", "5 t"),
        Piece("W-1", "hand-chain-hoist", "2 t"),
        Piece("W-2", "hand-chain-hoist", "2 t"),
        Piece("P-1", "lifting-point", "2 t"),
        Piece("B-1", "lifting-beam", "5 t"),
        Piece("C-1", "wire-rope-clip", ""),
    }.ToDictionary(g => g.Mark);

    [Theory]
    // Slings fill the legs one by one, a sling of two legs both; when all have one, the next is beside the first.
    [InlineData("legs=2", "S-1", "S-1 leg-1")]
    [InlineData("legs=2", "S-1 S-2", "S-1 leg-1, S-2 leg-2")]
    [InlineData("legs=2", "S-1 S-2 S-3", "S-1 leg-1, S-2 leg-2, S-3 leg-1")]
    [InlineData("legs=2", "T-2", "T-2 legs")]
    [InlineData("legs=4", "T-2", "T-2 leg-1, T-2 leg-2")]
    [InlineData("legs=4", "S-1 T-2", "S-1 leg-1, T-2 leg-2, T-2 leg-3")]
    [InlineData("legs=1", "S-1", "S-1 leg-1")]
    // Hardware goes where its own kind is wanting; a lot of it into every leg.
    [InlineData("legs=2", "S-1 K-1", "S-1 leg-1, K-1 leg-1")]
    [InlineData("legs=2", "K-1 E-1", "K-1 leg-1, E-1 leg-1")]
    [InlineData("legs=2", "K-2", "K-2 legs")]
    [InlineData("legs=2", "K-1 K-2", "K-1 leg-1, K-2 leg-2")]
    // Hooks, indicators, hoists and points hang above.
    [InlineData("legs=2", "H-1 D-1 W-1 P-1", "H-1 above, D-1 above, W-1 above, P-1 above")]
    // Where the load drifts from hoist to hoist they are the legs.
    [InlineData("stand=drift hoists=2", "W-1 W-2", "W-1 leg-1, W-2 leg-2")]
    [InlineData("stand=drift hoists=3", "W-1 S-1 P-1", "W-1 leg-1, S-1 leg-1, P-1 leg-2")]
    [InlineData("stand=drift hoists=2", "H-1", "H-1 leg-1")]
    // Under a beam: the beam in its place, slings in the drops, then above it.
    [InlineData("stand=beam drops=2", "B-1", "B-1 beam")]
    [InlineData("stand=beam drops=2", "S-1 S-2 T-2", "S-1 leg-1, S-2 leg-2, T-2 top")]
    [InlineData("stand=beam drops=1", "S-1 S-2", "S-1 leg-1, S-2 top")]
    [InlineData("stand=beam drops=1", "S-1 K-1", "S-1 leg-1, K-1 leg-1")]
    [InlineData("legs=2", "B-1", "B-1 leg-1")]
    // Two cranes have two hooks; a number of legs that is none counts as two.
    [InlineData("stand=cranes", "S-1 S-2", "S-1 leg-1, S-2 leg-2")]
    [InlineData("legs=5", "T-2", "T-2 legs")]
    [InlineData("legs=none", "T-2", "T-2 legs")]
    public void A_piece_goes_where_it_belongs(string typed, string marks, string places)
    {
        var fields = typed.Split(' ').Select(t => t.Split('=')).ToDictionary(t => t[0], t => t[1]);
        var chosen = new Dictionary<string, LiftGear>();
        foreach (var mark in marks.Split(' '))
        {
            Assert.Null(PlanGear.Add(fields, mark, Rack[mark], chosen));
            chosen[mark] = Rack[mark];
        }

        Assert.Equal(places, Placed(fields));
    }

    [Fact]
    public void Asked_for_above_it_hangs_above()
    {
        var fields = Fields(("legs", "2"));
        Assert.Null(PlanGear.Add(fields, "K-1", Rack["K-1"], new Dictionary<string, LiftGear>(), above: true));
        Assert.Equal("K-1 above", Placed(fields));
    }

    [Fact]
    public void What_may_not_be_used_is_no_lifting_gear_or_hangs_there_already_is_not_put_on()
    {
        var fields = Fields(("legs", "2"));
        Refused("There is no piece S-9", Add("S-9", null));
        Refused("belongs on no lift", Add("C-1", Rack["C-1"]));
        Refused("can't be put on a lift: On hold", Add("S-1", Rack["S-1"] with { Use = new(["On hold"]) }));
        Assert.Empty(PlanGear.Rows(fields));
        Assert.Null(Add("S-1", Rack["S-1"]));
        Refused("is on this lift already", Add("S-1", Rack["S-1"]));
        Assert.Equal("S-1 leg-1", Placed(fields));

        Refusal? Add(string mark, LiftGear? gear) => PlanGear.Add(fields, mark, gear, Rack);
    }

    [Theory]
    [InlineData(LiftPlanReader.MostPieces - 2, null)]
    [InlineData(LiftPlanReader.MostPieces - 1, "take one off first")]
    [InlineData(LiftPlanReader.MostPieces, "take one off first")]
    public void What_finds_no_room_is_refused_whole_and_never_left_off_unsaid(int taken, string? refused)
    {
        var fields = Fields(("legs", "4"));
        for (var row = 1; row <= taken; row++)
            fields[LiftPlanReader.PieceField(row, "mark")] = $"X-{row}";
        var said = PlanGear.Add(fields, "T-2", Rack["T-2"], Rack);
        if (refused is null)
            Assert.Null(said);
        else
            Refused(refused, said);
        Assert.Equal(refused is null ? taken + 2 : taken, PlanGear.Rows(fields).Count);
    }

    [Fact]
    public void A_row_taken_off_takes_all_that_was_said_of_it_and_makes_room()
    {
        var fields = Fields(("legs", "2"), ("piece-1-mark", "S-1"), ("piece-1-place", "leg-1"), ("piece-1-pull", "5"));
        fields["piece-10-mark"] = "S-2";
        PlanGear.Off(fields, 1);
        Assert.Equal([10], PlanGear.Rows(fields));
        Assert.Equal(["legs", "piece-10-mark"], fields.Keys.Order());
        Assert.Null(PlanGear.Add(fields, "K-1", Rack["K-1"], Rack));
        Assert.Equal([1, 10], PlanGear.Rows(fields));
    }

    private static string Placed(Dictionary<string, string> fields) =>
        string.Join(
            ", ",
            PlanGear
                .Rows(fields)
                .Select(row =>
                    $"{fields[LiftPlanReader.PieceField(row, "mark")]} {fields[LiftPlanReader.PieceField(row, "place")]}"
                )
        );

    private static void Refused(string part, Refusal? refusal) =>
        Assert.Contains(part, refusal?.Words ?? "it was put on", StringComparison.Ordinal);
}
