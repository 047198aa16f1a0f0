using Xunit;

namespace Keralith.Core.Tests;

/// <summary>What can't be read as a day is refused, never taken for today.</summary>
public class DayReaderTests
{
    [Theory]
    [InlineData("2026-03-02", "2026-03-02")]
    [InlineData(" 2026-03-02 ", "2026-03-02")]
    [InlineData("2028-02-29", "2028-02-29")]
    [InlineData("1900-01-01", "1900-01-01")]
    [InlineData("2199-12-31", "2199-12-31")]
    [InlineData("", null)]
    [InlineData("  ", null)]
    [InlineData(null, null)]
    public void A_day_is_read_as_written(string? text, string? day) =>
        Assert.Equal(day, DayReader.Read(text).Value?.ToString("yyyy-MM-dd"));

    [Theory]
    [InlineData("03/04/2026")]
    [InlineData("4.3.2026")]
    [InlineData("2026-3-2")]
    [InlineData("2026-02-29")]
    [InlineData("2026-03-02T10:00")]
    [InlineData("1899-12-31")]
    [InlineData("2200-01-01")]
    [InlineData("0001-01-01")]
    [InlineData("9999-12-31")]
    [InlineData("today")]
    [InlineData("\0")]
    public void Anything_else_is_refused_with_how_to_write_it(string text) =>
        Assert.Contains("year-month-day", DayReader.Read(text).Fault, StringComparison.Ordinal);
}
