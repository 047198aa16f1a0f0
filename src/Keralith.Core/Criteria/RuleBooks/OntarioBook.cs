namespace Keralith.Core.Criteria.RuleBooks;

/// <summary>Ontario construction: a hook is as made or out, and chain works at five to one.</summary>
internal static class OntarioBook
{
    public static RuleBook Book { get; } = new()
    {
        Id = "ontario",
        Name = "Ontario construction",
        Covers = "O. Reg. 213/91",
        DesignFactor = f => f.Code == "alloy-chain-sling" ? 5 : null,
        Rules = new Dictionary<string, BookRule>
        {
            ["hook.throat"] = new(new GrowthLimit(0, Comparator.Above)),
            ["hook.twist"] = new(null, Outcome.Remove),
        },
    };
}
