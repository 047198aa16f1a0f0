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
    /// <summary>What it is about.</summary>
    public Checked<PackScope> Scope() =>
        DayReader.Period(From, Until) is { Ok: true } period
            ? new PackScope(
                period.Value.From,
                period.Value.Until,
                int.TryParse(Store, out var store) ? store : null,
                string.IsNullOrWhiteSpace(Family) ? null : Family,
                string.IsNullOrWhiteSpace(Mark) ? null : Mark.Trim().ToUpperInvariant()
            )
            : DayReader.Period(From, Until).Refusal!;
}
