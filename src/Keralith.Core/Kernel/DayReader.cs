using System.Globalization;

namespace Keralith.Core.Kernel;

/// <summary>The one reader of days, for forms, files and programs.</summary>
public static class DayReader
{
    /// <summary>The first year a record may name, and the last: no sling is older, no due date lies later.</summary>
    public const int FirstYear = 1900,
        LastYear = 2199;

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
