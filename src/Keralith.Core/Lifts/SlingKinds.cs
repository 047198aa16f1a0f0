using Keralith.Core.Quantities;
using Keralith.Core.Tags;

namespace Keralith.Core.Lifts;

/// <summary>Whether a kind of sling fits a load.</summary>
public enum KindFits
{
    Fits,
    WithCare,
    No,
}

/// <summary>A kind of sling for a load, with why.</summary>
/// <param name="Family">The sling's family.</param>
/// <param name="Fits">Whether it fits.</param>
/// <param name="Reasons">Why, and what to mind.</param>
public sealed record SlingKind(Gear.GearFamily Family, KindFits Fits, IReadOnlyList<string> Reasons);

/// <summary>What a load is like to a sling.</summary>
public sealed record LoadNature
{
    /// <summary>Polished, painted or soft: marks matter.</summary>
    public bool Finish { get; init; }

    public bool SharpEdges { get; init; }

    public bool Rough { get; init; }

    /// <summary>It has points made to lift it by.</summary>
    public bool HasPoints { get; init; }

    /// <summary>A bundle, or anything not of one piece.</summary>
    public bool Loose { get; init; }

    /// <summary>Wet, oiled, painted smooth: slings slide on it.</summary>
    public bool Slick { get; init; }

    /// <summary>It gives where it is pressed.</summary>
    public bool Fragile { get; init; }

    /// <summary>Much longer than it is wide or high.</summary>
    public bool IsLong { get; init; }

    /// <summary>Higher than it is wide.</summary>
    public bool Tall { get; init; }

    public bool Sunlight { get; init; }

    /// <summary>A light load, handled by hand.</summary>
    public bool Light { get; init; }

    /// <summary>Shock or jerks can't be ruled out.</summary>
    public bool Shock { get; init; }

    public Temperature? Temperature { get; init; }

    public IReadOnlyList<Chemical> Chemicals { get; init; } = [];

    /// <summary>The rule books worked to: the strictest temperatures govern.</summary>
    public IReadOnlyList<Gear.RuleBook> Books { get; init; } = [Gear.RuleBookShelf.Asme];

    /// <summary>Whether the site keeps chain from hoisting.</summary>
    public bool NoChain { get; init; }
}

/// <summary>Which kind of sling: chain, wire rope, mesh, web, roundsling or fiber rope.</summary>
public static class SlingKinds
{
    private static readonly ScaledLimit FiberCore = new(180, 82);
    private static readonly ScaledLimit Steel = new(400, 204);

    /// <summary>Each kind, the fitting ones first.</summary>
    public static IReadOnlyList<SlingKind> For(LoadNature load) =>
        [
            .. new[] { Chain(load), WireRope(load), MetalMesh(load), Web(load), Round(load), Rope(load) }.OrderBy(k =>
                k.Fits
            ),
        ];

    private static SlingKind Chain(LoadNature load) =>
        Kind(
            "alloy-chain-sling",
            ["stands heat and abuse; heavy, no shock, gives no warning before it fails"],
            (load.NoChain, KindFits.No, "site policy: chain is not used for hoisting"),
            (load.Shock, KindFits.WithCare, "no shock on chain"),
            (load.Finish, KindFits.WithCare, "it marks the surface: pad it"),
            (load.SharpEdges, KindFits.WithCare, "edges padded"),
            (Over(load, Steel), KindFits.WithCare, "reduced by heat from 400 F (204 C)"),
            (Over(load, new(1000, 538)), KindFits.No, "over 1000 F (538 C)"),
            (
                load.Chemicals.Any(c => c is Chemical.Acid or Chemical.Caustic),
                KindFits.WithCare,
                "acids and caustics: ask the maker, hydrogen cracks alloy steel"
            )
        );

    private static SlingKind WireRope(LoadNature load) =>
        Kind(
            "wire-rope-sling",
            ["strong and stands rubbing; kinks don't come out"],
            (load.SharpEdges, KindFits.WithCare, "corners need a softener at least one lay long"),
            (load.Finish, KindFits.WithCare, "it marks the surface: pad it"),
            (Over(load, FiberCore), KindFits.WithCare, "with a steel core only"),
            Heat(load, "wire-rope-sling", ("core", "iwrc")),
            (
                load.Chemicals.Any(c => c is Chemical.Acid or Chemical.Caustic),
                KindFits.WithCare,
                "acids and caustics: ask the maker"
            )
        );

    private static SlingKind MetalMesh(LoadNature load) =>
        Kind(
            "metal-mesh-sling",
            ["for hot, rough loads gripped on their sides; nicks and corrosion end it"],
            (load.Finish, KindFits.WithCare, "bare mesh marks the surface: coated mesh up to 200 F (93 C)"),
            Heat(load, "metal-mesh-sling", ("coating", "none")),
            (load.Chemicals.Count > 0, KindFits.WithCare, "corrosion: ask the maker")
        );

    private static SlingKind Web(LoadNature load) =>
        Kind(
            "web-sling",
            ["grips and spares the finish"],
            (load.SharpEdges, KindFits.WithCare, "cut at once by an edge: sleeves and corner pads, or another kind"),
            (load.Rough, KindFits.WithCare, "rubbing wears it fast"),
            (load.Sunlight, KindFits.WithCare, "sunlight weakens it: keep its discard date"),
            Heat(load, "web-sling", ("fiber", "polyester")),
            (
                load.Chemicals.Count > 0,
                KindFits.WithCare,
                "which fiber stands which chemical differs: see its tag, ask the maker"
            )
        );

    private static SlingKind Round(LoadNature load) =>
        Kind(
            "roundsling",
            ["gentle on the load; its wear point can be shifted"],
            (load.SharpEdges, KindFits.WithCare, "cut at once by an edge: sleeves and corner pads, or another kind"),
            (load.Rough, KindFits.WithCare, "a worn cover hides its core: hold it when it shows"),
            (load.Sunlight, KindFits.WithCare, "sunlight weakens it: keep its discard date"),
            Heat(load, "roundsling", ("coreFiber", "polyester")),
            (
                load.Chemicals.Count > 0,
                KindFits.WithCare,
                "which fiber stands which chemical differs: see its tag, ask the maker"
            )
        );

    private static SlingKind Rope(LoadNature load) =>
        Kind(
            "fiber-rope-sling",
            ["for light loads by hand"],
            (!load.Light, KindFits.No, "for light loads only"),
            (load.SharpEdges, KindFits.WithCare, "edges padded"),
            (load.Sunlight, KindFits.WithCare, "sunlight weakens it"),
            Heat(load, "fiber-rope-sling", ("fiber", "polyester")),
            (load.Chemicals.Count > 0, KindFits.WithCare, "which fiber stands which chemical differs: ask the maker")
        );

    private static SlingKind Kind(string family, string[] plain, params (bool Is, KindFits Then, string Why)[] against)
    {
        var hits = against.Where(a => a.Is).ToList();
        return new(
            Gear.GearFamilies.Find(family)!,
            hits.Count == 0 ? KindFits.Fits : hits.Max(h => h.Then),
            [.. plain, .. hits.OrderByDescending(h => h.Then).Select(h => h.Why)]
        );
    }

    /// <summary>
    /// Too hot or too cold for the hardiest of a kind, by the strictest book worked to: the same table as for gear on a
    /// lift.
    /// </summary>
    private static (bool Is, KindFits Then, string Why) Heat(
        LoadNature load,
        string family,
        (string Name, string Value) made
    )
    {
        var gear = new Gear.GearPiece(
            Gear.GearFamilies.Find(family)!,
            [new(made.Name, Gear.GearAttributes.Find(made.Name)!.Read(made.Value).Value)]
        );
        var limits = OperatingTemperatures.Of(gear, load.Books)!;
        return (load.Temperature is { } t && limits.Exceeded(t), KindFits.No, $"it works from {limits}");
    }

    private static bool Over(LoadNature load, ScaledLimit limit) =>
        load.Temperature is { } t && t.Degrees > limit.On(t.Scale);
}
