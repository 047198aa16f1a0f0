using Keralith.Core.Wear;
using Xunit;

namespace Keralith.Core.Tests;

/// <summary>What the record says will leave: a count with its uncertainty, or nothing.</summary>
public class RemovalRateTests
{
    [Theory]
    [InlineData(4, 100, 50, "2, between 0 and 5")]
    [InlineData(0, 100, 50, "0, between 0 and 2")]
    [InlineData(100, 1000, 1000, "100, between 80 and 122")]
    [InlineData(1, 2, 2, "1, between 0 and 5")]
    [InlineData(1, 1.99, 2, "not enough on record to say")]
    [InlineData(3, 0, 0, "not enough on record to say")]
    public void What_will_leave_is_said_with_its_range(int removed, double years, int pieces, string words) =>
        Assert.Equal(words, new RemovalRate(removed, years, pieces).ToString());

    [Theory]
    [InlineData(0)]
    [InlineData(1)]
    [InlineData(7)]
    [InlineData(400)]
    public void The_range_holds_what_is_expected(int removed)
    {
        var rate = new RemovalRate(removed, 300, 120);
        Assert.InRange(rate.Expected, rate.Range.Least, rate.Range.Most);
    }
}
