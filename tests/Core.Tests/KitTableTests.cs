using Keralith.Core.Lifts;
using Keralith.Core.Quantities;
using Keralith.Core.Register;
using Keralith.Core.Tags;
using Xunit;
using static Keralith.Core.Tests.GivenPlan;

namespace Keralith.Core.Tests;

/// <summary>A kit whose maker rates it by legs used: that table governs in place of counting four legs as three.</summary>
public class KitTableTests
{
    private const string Sheet = "sheet K-7";

    [Theory]
    [InlineData("4 legs 45 deg 14000 lb; sheet K-7")]
    [InlineData("1 leg 90 deg 1.5 t; maker's table 3, 2024")]
    public void A_line_names_legs_least_angle_load_and_whose_table_it_is(string line) =>
        Assert.Equal(line, MarkedRating.Read(line).Value.ToString());

    [Theory]
    [InlineData("4 legs 45 deg 14000 lb")]
    [InlineData("4 legs 45 deg 14000 lb; ")]
    [InlineData("4 legs 14000 lb; sheet K-7")]
    [InlineData("0 legs 45 deg 14000 lb; sheet K-7")]
    [InlineData("5 legs 45 deg 14000 lb; sheet K-7")]
    [InlineData("4 legs 0 deg 14000 lb; sheet K-7")]
    [InlineData("4 legs 91 deg 14000 lb; sheet K-7")]
    [InlineData("4 legs 45 deg 0 lb; sheet K-7")]
    [InlineData("4 legs 45 deg 14000; sheet K-7")]
    public void What_does_not_say_all_of_that_is_refused(string line) => Assert.False(MarkedRating.Read(line).Ok);

    // Members of 2 t a leg; four legs at 60 deg: three of them counted 5.196 t, the maker's four 6.4 t.
    [Theory]
    [InlineData(4, "60", 6400)]
    [InlineData(4, "75", 6400)]
    [InlineData(3, "60", 4800)]
    [InlineData(2, "60", 3200)]
    public void The_table_governs_for_the_legs_and_the_angles_it_names(int legs, string angle, double kilograms) =>
        Assert.Equal(kilograms, (double)Carried(legs, angle).Capacity!.Value, 3);

    [Theory]
    [InlineData(4, "59.9")]
    [InlineData(2, "45")]
    public void Flatter_than_it_names_nothing_is_lifted(int legs, string angle)
    {
        var result = Carried(legs, angle);
        Assert.Equal(LiftOutcome.NotPermitted, result.Outcome);
        Assert.Contains(result.Remarks, r => r.Text.Contains(Sheet, StringComparison.Ordinal));
    }

    [Fact]
    public void Legs_it_does_not_name_are_not_lifted_with() =>
        Assert.Equal(LiftOutcome.NotPermitted, Carried(1, "90").Outcome);

    [Fact]
    public void No_leg_carries_more_than_its_weakest_member_whatever_the_table_says()
    {
        // Four legs of 2 t straight up share 8 t at most, three of them where the load is rigid carry two.
        Assert.Equal(8000, (double)Carried(4, "90", table: "4 legs 60 deg 9 t; sheet K-7").Capacity!.Value, 3);
        Assert.Equal(
            4000,
            (double)Carried(4, "90", "4 legs 60 deg 9 t; sheet K-7", null, ("fourLegs", "two-carry")).Capacity!.Value,
            3
        );
    }

    [Fact]
    public void What_all_legs_have_in_common_still_caps_it() =>
        Assert.Equal(5000, (double)Carried(4, "60", common: "5 t").Capacity!.Value, 3);

    [Fact]
    public void It_is_rated_straight_and_never_choked() =>
        Assert.Equal(
            LiftOutcome.NotPermitted,
            Carried(4, "75", null, null, ("hitch", "choker"), ("chokeAngle", "130")).Outcome
        );

    [Fact]
    public void The_page_of_the_kit_tells_whose_table_it_is()
    {
        var table = new[] { "2 legs 60 deg 3.2 t; sheet K-7", "4 legs 60 deg 9 t; sheet K-7" }
            .Select(l => MarkedRating.Read(l).Value)
            .ToList();
        var ratings = HitchRatings.OfKit(
            Mass.Parse("2 t"),
            4,
            null,
            (TagWords.Plain with { Ratings = table }).LegTable
        );
        Assert.Equal(["2 legs, by sheet K-7", "4 legs, by sheet K-7"], ratings.Rows.Select(r => r.Remark));
        Assert.Equal(3200, ratings.Rows[0].Load!.Value.Kilograms);
        Assert.InRange((double)ratings.Rows[1].Load!.Value.Kilograms, 6928, 6929);
    }

    private static LiftResult Carried(
        int legs,
        string angle,
        string? table = null,
        string? common = null,
        params (string, string)[] more
    )
    {
        string[] lines = table is null
            ? ["2 legs 60 deg 3.2 t; sheet K-7", "3 legs 60 deg 4.8 t; sheet K-7", "4 legs 60 deg 6.4 t; sheet K-7"]
            : [table];
        string[] members = common is null
            ? ["4; hook; 2 t; bears"]
            : ["4; hook; 2 t; bears", $"1; apex; {common}; common"];
        var kit = Piece("HM-0001", "sling-kit", "9 t", ("legs", "4")) with
        {
            Tag = TagWords.Plain with { Ratings = [.. lines.Select(l => MarkedRating.Read(l).Value)] },
            Members = [.. members.Select(m => KitMember.Read(m).Value)],
        };
        return Verdict(
            Fields([
                ("basis", "known"),
                ("weight", "1 t"),
                ("legs", $"{legs}"),
                ("angle", angle),
                ("piece-1-mark", "HM-0001"),
                ("piece-1-place", "legs"),
                .. more,
            ]),
            kit
        ).Result!;
    }
}
