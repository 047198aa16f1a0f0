namespace Keralith.Web.Pages.Register;

/// <summary>A unit pressed beside a figure that stood without one.</summary>
public static class UnitPressed
{
    /// <summary>The name such buttons are sent by; their value is the field and the unit.</summary>
    public const string Name = "unit";

    /// <summary>The units that are offered.</summary>
    public static IReadOnlyList<string> Offered { get; } = ["in", "mm"];

    /// <summary>The field and the unit of a press; null where there was none.</summary>
    public static (string Field, string Unit)? Of(string? sent) =>
        sent?.Split(' ') is [{ Length: > 0 } field, var unit] && Offered.Contains(unit) ? (field, unit) : null;
}
