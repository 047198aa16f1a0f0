using System.Globalization;

namespace Keralith.Core.Kernel;

/// <summary>The one reader of days, for forms, files and programs.</summary>
public static class DayReader
{
    /// <summary>The first year a record may name, and the last: no sling is older, no due date lies later.</summary>
    public const int FirstYear = 1900,
        LastYear = 2199;

    /// <summary>Reads a first and a last day, both wanted, in their order.</summary>
    public static Checked<(DateOnly From, DateOnly Until)> Period(string? from, string? until) =>
        Read(from) is { Ok: true, Value: { } first } && Read(until) is { Ok: true, Value: { } last } && first <= last
            ? (first, last)
            : new Refusal("Write the first and the last day, the first no later than the last.");

    /// <summary>
    /// Reads a day as date fields send it and the formats write it: year-month-day (ISO 8601). What can't be read is
    /// refused, never taken for today.
    /// </summary>
    /// <param name="text">What was typed.</param>
    /// <returns>The day; null where nothing was typed.</returns>
    public static Checked<DateOnly?> Read(string? text) =>
        string.IsNullOrWhiteSpace(text) ? (DateOnly?)null
        : DateOnly.TryParseExact(
            text.Trim(),
            "yyyy-MM-dd",
            CultureInfo.InvariantCulture,
            DateTimeStyles.None,
            out var day
        ) && day.Year is >= FirstYear and <= LastYear
            ? (DateOnly?)day
        : new Refusal($"Write the date as year-month-day, such as 2026-03-01, from {FirstYear} to {LastYear}.");
}
