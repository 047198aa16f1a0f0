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

    public bool Sunlight { get; init; }

    /// <summary>A light load, handled by hand.</summary>
    public bool Light { get; init; }

    /// <summary>Shock or jerks can't be ruled out.</summary>
    public bool Shock { get; init; }

    public Temperature? Temperature { get; init; }

    public IReadOnlyList<Chemical> Chemicals { get; init; } = [];

    /// <summary>Whether the site keeps chain from hoisting.</summary>
    public bool NoChain { get; init; }
}

/// <summary>Which kind of sling: chain, wire rope, mesh, web, roundsling or fiber rope.</summary>
public static class SlingKinds
{
    /// <summary>Above this synthetics are out (ASME B30.9, degrees F and C).</summary>
    private static readonly ScaledLimit Synthetic = new(194, 90);
    private static readonly ScaledLimit FiberRope = new(180, 82);
    private static readonly ScaledLimit Steel = new(400, 204);
    private static readonly ScaledLimit Mesh = new(550, 288);

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
            (Over(load, FiberRope), KindFits.WithCare, "with a steel core only"),
            (Over(load, Steel), KindFits.No, "over 400 F (204 C)"),
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
            (Over(load, Mesh), KindFits.No, "over 550 F (288 C)"),
            (load.Chemicals.Count > 0, KindFits.WithCare, "corrosion: ask the maker")
        );

    private static SlingKind Web(LoadNature load) =>
        Kind(
            "web-sling",
            ["grips and spares the finish"],
            (load.SharpEdges, KindFits.WithCare, "cut at once by an edge: sleeves and corner pads, or another kind"),
            (load.Rough, KindFits.WithCare, "rubbing wears it fast"),
            (load.Sunlight, KindFits.WithCare, "sunlight weakens it: keep its discard date"),
            (Over(load, Synthetic), KindFits.No, "over 194 F (90 C)"),
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
            (Over(load, Synthetic), KindFits.No, "over 194 F (90 C)"),
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
            (Over(load, FiberRope), KindFits.No, "over 180 F (82 C)"),
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

    private static bool Over(LoadNature load, ScaledLimit limit) =>
        load.Temperature is { } t && t.Degrees > limit.On(t.Scale);
}
