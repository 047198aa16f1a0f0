using Keralith.Core.Gear;

namespace Keralith.Core.Tags;

/// <summary>Kinds of chemicals gear may meet, their fumes included.</summary>
public enum Chemical
{
    [Code("acid")]
    Acid,

    [Code("caustic")]
    Caustic,

    [Code("phenolic")]
    Phenolic,

    [Code("bleach")]
    Bleach,

    [Code("solvent")]
    Solvent,
}

/// <summary>
/// Which material stands which chemical (ASME B30.9, environmental conditions). Nothing is ever simply allowed: the
/// maker is asked.
/// </summary>
public static class Materials
{
    private enum Stands
    {
        /// <summary>Not with this.</summary>
        No,

        /// <summary>Fair: still ask the maker for the actual chemical, strength and temperature.</summary>
        Fair,

        /// <summary>No rule has a row: ask the maker.</summary>
        Unknown,
    }

    /// <summary>What is against a piece meeting a chemical: there always is something, if only to ask the maker.</summary>
    /// <returns>The words, and whether it is ruled out rather than to be asked.</returns>
    public static (bool RuledOut, string Words) Against(
        GearPiece gear,
        Chemical chemical,
        IReadOnlyList<RuleBook> books
    )
    {
        if (gear.Text("fittingMetal") == "aluminium" && (chemical is Chemical.Acid or Chemical.Caustic))
            return (true, $"Aluminium fittings may meet no {Name(chemical)} nor their fumes.");
        var fiber = (gear.Text("fiber") ?? gear.Text("coreFiber"))?.ToLowerInvariant();
        if (
            gear.Family.Kind is not (GearKind.Web or GearKind.Roundsling or GearKind.FiberRope or GearKind.Net)
            || fiber == "wire"
        )
        {
            return (
                false,
                $"Steel that has met {Name(chemical)} or their fumes: ask the maker, hydrogen may crack it from inside."
            );
        }

        return Of(fiber, chemical, books) switch
        {
            Stands.No => (true, $"{Capital(fiber!)} may meet no {Name(chemical)}."),
            Stands.Fair => (
                false,
                $"{Capital(fiber!)} stands {Name(chemical)} fairly well: still ask the maker for the actual chemical, its strength and temperature."
            ),
            Stands.Unknown => (
                false,
                $"Nothing is known here of {fiber ?? "this fiber"} and {Name(chemical)}: ask the maker."
            ),
            var other => throw new InvalidOperationException($"No such answer: {other}."),
        };
    }

    /// <summary>The chemical in a word.</summary>
    public static string Name(Chemical chemical) => chemical == Chemical.Bleach ? "bleach" : $"{Code.Of(chemical)}s";

    private static Stands Of(string? fiber, Chemical chemical, IReadOnlyList<RuleBook> books) =>
        (fiber, chemical) switch
        {
            ("nylon", Chemical.Acid or Chemical.Phenolic or Chemical.Bleach) => Stands.No,
            ("nylon", Chemical.Caustic) => Stands.Fair,
            ("polyester", Chemical.Caustic) => Stands.No,
            ("polyester", Chemical.Acid or Chemical.Bleach) => Stands.Fair,
            ("polypropylene", Chemical.Solvent) => Stands.No,
            ("polypropylene", Chemical.Caustic) when books.Any(b => b.KeepsPolypropyleneFromCaustics) => Stands.No,
            ("polypropylene", Chemical.Acid) => Stands.Fair,
            _ => Stands.Unknown,
        };

    private static string Capital(string word) => char.ToUpperInvariant(word[0]) + word[1..];
}
