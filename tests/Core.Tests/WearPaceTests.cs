using Keralith.Core.Wear;
using Xunit;

namespace Keralith.Core.Tests;

/// <summary>How fast gear wears, by the first and the last reading of a measure.</summary>
public class WearPaceTests
{
    private static readonly DateOnly Day = new(2026, 3, 2);

    [Theory]
    [InlineData(0.2, 0.6, 365, 0.4)]
    [InlineData(0.2, 0.6, 730, 0.2)]
    [InlineData(0.6, 0.2, 365, 0)]
    [InlineData(0.2, 0.6, 89, 0)]
    [InlineData(0, 0.1, 90, 0.4058)]
    public void A_pace_is_what_was_used_up_over_the_days_between(double first, double last, int days, double perYear) =>
        Assert.Equal(perYear, Pace(first, last, days).PerYear, 3);

    [Theory]
    [InlineData(0.4, 0.7, 365, 366, true)]
    [InlineData(0.4, 0.7, 365, 364, false)]
    [InlineData(0.9, 1, 10, 0, true)]
    [InlineData(0.9, 0.99, 10, 3650, false)]
    [InlineData(0.7, 0.4, 365, 3650, false)]
    public void It_reaches_its_limit_going_on_so(double first, double last, int days, int ahead, bool reaches) =>
        Assert.Equal(reaches, Pace(first, last, days).ReachesBy(Day.AddDays(ahead)));

    [Theory]
    [InlineData(new[] { 0.3 }, 0.3)]
    [InlineData(new[] { 0.3, 0.1, 0.9 }, 0.3)]
    [InlineData(new[] { 0.4, 0.2 }, 0.3)]
    public void The_middle_of_several_is_told(double[] years, double middle) =>
        Assert.Equal(middle, WearPace.Middle(years.Select(y => Pace(0, y, 365))), 2);

    private static WearPace Pace(double first, double last, int days) =>
        new("HM-0001", "Test works", "Store", (decimal)first, Day.AddDays(-days), (decimal)last, Day);
}
