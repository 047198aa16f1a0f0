using Keralith.Core.People;
using Keralith.Core.Wear;
using Xunit;

namespace Keralith.Core.Tests;

/// <summary>What the record teaches: shares with their chance, and prices.</summary>
public class TeachingTests
{
    private const string Throat = "hook.throat";

    [Theory]
    // Wilson's interval, from its formula worked out apart.
    [InlineData(0, 20, 0.0, 0.1611)]
    [InlineData(1, 20, 0.0089, 0.2361)]
    [InlineData(10, 20, 0.2993, 0.7007)]
    [InlineData(20, 20, 0.8389, 1.0)]
    [InlineData(50, 1000, 0.0381, 0.0653)]
    [InlineData(0, 0, 0.0, 1.0)]
    public void A_share_lies_in_a_range_that_narrows_with_looks(int found, int looked, double least, double most)
    {
        var (low, high) = new FindingShare("Maud", Throat, found, looked).Range;
        Assert.Equal(least, low, 4);
        Assert.Equal(most, high, 4);
    }

    [Theory]
    [InlineData(10, 20, true)]
    [InlineData(10, 19, false)]
    [InlineData(3, 20, false)]
    public void Only_who_looked_often_enough_and_lies_apart_is_said_to_differ(int found, int looked, bool differs)
    {
        var differences = FindingDifference.Of([
            new("Maud", Throat, found, looked),
            new("Ines", Throat, 2, 40),
            new("Otto", Throat, 3, 60),
        ]);
        Assert.Equal(differs ? ["Maud"] : [], differences.Select(d => d.Own.Who));
        if (differs)
            Assert.Equal(
                (true, 5, 100),
                (differences[0].IsMore, differences[0].Others.Found, differences[0].Others.Looked)
            );
    }

    [Fact]
    public void Who_finds_less_than_the_others_differs_too_and_who_has_nobody_beside_does_not()
    {
        var less = FindingDifference.Of([new("Maud", Throat, 0, 200), new("Ines", Throat, 30, 100)]);
        Assert.Equal([("Ines", true), ("Maud", false)], less.Select(d => (d.Own.Who, d.IsMore)));
        Assert.Empty(FindingDifference.Of([new("Maud", Throat, 50, 200)]));
        Assert.Empty(FindingDifference.Of([new("Maud", Throat, 50, 200), new("Ines", "hook.twist", 0, 200)]));
    }

    [Theory]
    [InlineData("120 EUR", "120 EUR")]
    [InlineData(" 1250.50cad ", "1250.5 CAD")]
    [InlineData("0.01 EUR", "0.01 EUR")]
    [InlineData("10000000 EUR", "10000000 EUR")]
    public void A_price_is_an_amount_and_the_letters_of_its_currency(string typed, string read) =>
        Assert.Equal(read, Price.Read(typed).Value.ToString());

    [Theory]
    [InlineData("0 EUR")]
    [InlineData("-1 EUR")]
    [InlineData("10000000.01 EUR")]
    [InlineData("1.234 EUR")]
    [InlineData("120")]
    [InlineData("EUR 120")]
    [InlineData("1,200 EUR")]
    [InlineData("120 EURO")]
    public void What_is_none_is_refused(string typed) => Assert.False(Price.Read(typed).Ok);

    [Fact]
    public void Prices_are_entered_by_who_registers_gear_all_or_none()
    {
        EnteredPrice[] two = [new("shackle", "7/8 in", "40 EUR"), new("hook", "", " ")];
        foreach (var role in Enum.GetValues<Role>())
        {
            var by = GivenPeople.Signer(role);
            Assert.Equal(by.Without(Right.Register) is null, PriceActs.Set(two, by).Ok);
        }

        var stores = GivenPeople.Signer(Role.Stores);
        Assert.Equal(["40 EUR", null], PriceActs.Set(two, stores).Value.Select(p => p.Price?.ToString()));
        Assert.False(PriceActs.Set([.. two, new("tent", "", "5 EUR")], stores).Ok);
        Assert.False(PriceActs.Set([.. two, new("hook", "", "cheap")], stores).Ok);
    }

    [Theory]
    [InlineData("2026-03-01", "2026-03-01", true)]
    [InlineData("2026-03-01", "2026-03-02", true)]
    [InlineData("2026-03-02", "2026-03-01", false)]
    [InlineData("", "2026-03-01", false)]
    [InlineData("2026-03-01", "2026-02-30", false)]
    public void A_period_has_both_its_days_in_order(string from, string until, bool read) =>
        Assert.Equal(read, DayReader.Period(from, until).Ok);

    [Fact]
    public void Nothing_typed_is_no_price_and_sums_stay_with_their_currency()
    {
        Assert.Null(Price.Read(" ").Value);
        Assert.Equal(
            ["30 CAD", "150 EUR"],
            Price.Sum([new(120, "EUR"), new(30, "CAD"), new(30, "EUR")]).Select(p => p.ToString())
        );
        Assert.Equal("300 EUR", new Price(120, "EUR").Times(2.5).ToString());
        Assert.Equal("0 EUR", new Price(120, "EUR").Times(0).ToString());
    }
}
