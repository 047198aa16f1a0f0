using Keralith.Core.Gear;
using Keralith.Core.People;

namespace Keralith.Core.Sites;

/// <summary>A proof test that is asked again and again: by a maker of its gear, or by a site of a family.</summary>
/// <param name="Maker">Whose gear; empty: everybody's, and the site alone asks it.</param>
/// <param name="Model">Of which model; empty: of everything the maker makes.</param>
/// <param name="Family">Of which family; null: of all.</param>
/// <param name="Months">How many months one holds good.</param>
public sealed record ProofAskRow(
    string Maker,
    string Model,
    GearFamily? Family,
    int Months,
    string Reason,
    DateTimeOffset SetAt,
    string SetBy
)
{
    /// <summary>Whether it is asked of a piece: of one whose model is not on record, whatever the model.</summary>
    public bool IsOf(GearFamily family, string? maker, string? model) =>
        (Maker.Length == 0 || Spelling.MayBeSame(Maker, maker))
        && Spelling.MayMean(Model, model)
        && (Family is null || Family == family);

    /// <summary>Whether it and another are one, set twice.</summary>
    public bool IsOf(EnteredProofAsk other) =>
        KeyOf(0, Maker, Model, Family?.Code ?? string.Empty) == KeyOf(0, other.Maker, other.Model, other.Family);

    /// <summary>
    /// What tells one from another: of those with the same key the one set last is in force, and none is when that withdrew it.
    /// </summary>
    /// <param name="site">The number of the site; what a maker asks counts at all.</param>
    /// <param name="family">Its code; empty: all.</param>
    public static (int Site, string Maker, string Model, string Family) KeyOf(
        int site,
        string maker,
        string model,
        string family
    ) => (maker.Length > 0 ? 0 : site, Spelling.Key(maker), Spelling.Key(model), family);

    /// <summary>What it is asked of, in words.</summary>
    public string Of =>
        string.Join(
            ", ",
            new[] { Family?.Name, Maker, Model.Length > 0 ? $"model {Model}" : null }.Where(w =>
                !string.IsNullOrEmpty(w)
            )
        );
}

/// <summary>A proof test asked, as it is entered.</summary>
/// <param name="Months">How many months one holds good; null withdraws it.</param>
public sealed record EnteredProofAsk(string Maker, string Model, string Family, int? Months, string Reason)
{
    /// <summary>The number of the site that asks; a maker's counts at every site.</summary>
    public int Site { get; init; } = Sites.Site.First;

    /// <summary>How many pieces whoever sets it was shown that it stops; null: none were shown.</summary>
    public int? Stops { get; init; }
}

/// <summary>What is decided about the proof tests that are asked.</summary>
public static class ProofAskActs
{
    private const int LongestName = 120;
    private const int LongestReason = 400;

    /// <summary>The most months a proof test may be let hold good.</summary>
    public const int MostMonths = 120;

    /// <summary>Reads what is asked as it is to be kept.</summary>
    /// <param name="inForce">What is asked already.</param>
    public static Checked<EnteredProofAsk> Set(EnteredProofAsk given, IReadOnlyList<ProofAskRow> inForce, Signer by)
    {
        var entry = given with
        {
            Maker = given.Maker.Trim(),
            Model = given.Model.Trim(),
            Family = given.Family.Trim(),
            Reason = given.Reason.Trim(),
        };
        if (by.Without(Right.SetLimits, "Only a qualified person sets which proof tests are asked.") is { } forbidden)
            return forbidden;
        if (entry.Family.Length > 0 && GearFamilies.Find(entry.Family) is null)
            return new Refusal("Choose a family, or all of them.");
        if (entry.Maker.Length == 0 && entry.Family.Length == 0)
            return new Refusal("Name the maker, or choose the family it is asked of.");
        if (entry.Model.Length > 0 && entry.Maker.Length == 0)
            return new Refusal("Name the maker of the model.");
        if (entry.Months is < 1 or > MostMonths)
            return new Refusal($"A proof test holds good for 1 to {MostMonths} months.");
        if (entry.Reason.Length == 0)
            return new Refusal("Say why, or where it stands: it goes into the ledger.");
        if (entry.Maker.Length > LongestName || entry.Model.Length > LongestName || entry.Reason.Length > LongestReason)
            return new Refusal("That is too long to be one.");
        return entry.Months is null && !inForce.Any(a => a.IsOf(entry))
            ? Refusal.NotFound("No such proof test is asked.")
            : entry;
    }
}
