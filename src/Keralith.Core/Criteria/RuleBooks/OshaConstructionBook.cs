namespace Keralith.Core.Criteria.RuleBooks;

/// <summary>OSHA construction (29 CFR 1926.251). Hooks, chain and twist as in general industry.</summary>
internal static class OshaConstructionBook
{
    public static RuleBook Book { get; } = new()
    {
        Id = "osha-construction",
        Name = "OSHA construction",
        Covers = "29 CFR 1926.251",
        DesignFactor = OshaBook.Book.DesignFactor,
        Rules = new Dictionary<string, BookRule>(OshaBook.Book.Rules),
    };
}
