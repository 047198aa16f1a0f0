using Keralith.Data.Exchange;
using Microsoft.AspNetCore.Mvc;

namespace Keralith.Web.Files;

/// <summary>An auditor's pack as it is asked for; every word may be missing.</summary>
public sealed record PackAsked(
    [FromQuery] string? From,
    [FromQuery] string? Until,
    [FromQuery] string? Store,
    [FromQuery] string? Family,
    [FromQuery] string? Mark
)
{
    private const int FirstYear = 1990;

    /// <summary>What it is about.</summary>
    public Checked<PackScope> Scope() =>
        DayReader.Read(From) is { Ok: true, Value: { Year: > FirstYear } begins }
        && DayReader.Read(Until) is { Ok: true, Value: { Year: > FirstYear } ends }
        && begins <= ends
            ? new PackScope(
                begins,
                ends,
                int.TryParse(Store, out var store) ? store : null,
                string.IsNullOrWhiteSpace(Family) ? null : Family,
                string.IsNullOrWhiteSpace(Mark) ? null : Mark.Trim().ToUpperInvariant()
            )
            : new Refusal("Write the first and the last day of the pack.");
}
