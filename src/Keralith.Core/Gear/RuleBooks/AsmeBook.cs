namespace Keralith.Core.Gear;

/// <summary>The ASME B30 volumes: the limits written in the catalogue itself.</summary>
internal static class AsmeBook
{
    public static RuleBook Book { get; } =
        new()
        {
            Id = "asme",
            Name = "ASME",
            Covers = "ASME B30.9, B30.10, B30.16, B30.20, B30.21, B30.26",
            DesignFactor = new DesignFactors(Chain: 4).Of,
            Rules = new Dictionary<string, BookRule>(),
        };
}
