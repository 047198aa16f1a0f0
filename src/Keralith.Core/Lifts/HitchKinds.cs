using Keralith.Core.Tags;

namespace Keralith.Core.Lifts;

/// <summary>A hitch for a load, with why.</summary>
/// <param name="Hitch">The hitch.</param>
/// <param name="Legs">What fits best, in words: one leg, two and more.</param>
/// <param name="Fits">Whether it fits.</param>
/// <param name="Reasons">Why, and what to mind.</param>
public sealed record HitchKind(Hitch Hitch, string Legs, KindFits Fits, IReadOnlyList<string> Reasons);

/// <summary>Which hitch holds a load: from what it is like, before any gear is chosen.</summary>
public static class HitchKinds
{
    /// <summary>A load longer than so many times its next size is long: it wants two places to be held.</summary>
    public const double LongFrom = 4;

    /// <summary>Each hitch, the fitting ones first.</summary>
    public static IReadOnlyList<HitchKind> For(LoadNature load) =>
        [.. new[] { Straight(load), Choker(load), Basket(load) }.OrderBy(h => h.Fits)];

    /// <summary>The longest and the next size of a load put together from shapes, in millimetres; null where it has none.</summary>
    public static (double Longest, double Next)? Sizes(LoadEstimate? estimate)
    {
        if (estimate?.Parts.Select(p => p.Shape).ToList() is not [var shape])
            return null;
        double[] sizes = shape switch
        {
            Box box => [Mm(box.Along), Mm(box.Across), Mm(box.High)],
            Cylinder cylinder => [Mm(cylinder.Diameter), Mm(cylinder.Diameter), Mm(cylinder.Along)],
            Pipe pipe => [Mm(pipe.Outside), Mm(pipe.Outside), Mm(pipe.Along)],
            Sphere ball => [Mm(ball.Diameter), Mm(ball.Diameter), Mm(ball.Diameter)],
            Prism or Linear or Lump => [],
            _ => throw new System.Diagnostics.UnreachableException(),
        };
        Array.Sort(sizes);
        return sizes.Length == 0 ? null : (sizes[2], sizes[1]);

        static double Mm(Quantities.Length length) => (double)length.Millimetres;
    }

    private static HitchKind Straight(LoadNature load) =>
        Kind(
            Hitch.Vertical,
            load.IsLong ? "two legs or more, or under a beam" : "two legs or more; one turns",
            load.HasPoints
                ? ["it has points made to lift it by: each leg straight to one"]
                : ["full rating, nothing pressed or rubbed"],
            (!load.HasPoints, KindFits.No, "nothing on it to hang from: hold it round"),
            (load.Loose, KindFits.No, "what is loose is not held together")
        );

    private static HitchKind Choker(LoadNature load) =>
        Kind(
            Hitch.Choker,
            load.IsLong
                ? "two, far enough apart to balance, wrapped twice where it is loose"
                : "two; one only on what is short and simple",
            ["grips as it lifts; carries less than straight, the less the tighter the choke"],
            (load.Loose && !load.IsLong, KindFits.WithCare, "a bundle is wrapped twice, wraps not crossed"),
            (load.Slick, KindFits.WithCare, "slick: two wraps, or something that grips between"),
            (load.Finish, KindFits.WithCare, "it presses where it chokes: pad it"),
            (load.SharpEdges, KindFits.WithCare, "edges cut at the choke: rounded or padded, the choke clear of them"),
            (load.Fragile, KindFits.No, "it crushes what gives")
        );

    private static HitchKind Basket(LoadNature load) =>
        Kind(
            Hitch.Basket,
            load.IsLong
                ? "two, legs at 60 deg or steeper, so that neither slides"
                : "one only where it can't slide; two else",
            ["carries twice with both legs plumb; bends round the load, so mind its diameter"],
            (load.Loose, KindFits.No, "what is loose slides out of it, wrapped twice it still gives: choke it"),
            (
                load.Slick,
                KindFits.WithCare,
                "slick: it slides along; wrapped twice, wraps not crossed, it is held all round"
            ),
            (
                load.Tall,
                KindFits.WithCare,
                "held under its centre of gravity it turns over: take hold above, or tie it"
            ),
            (load.SharpEdges, KindFits.WithCare, "edges bend and cut it: rounded or padded")
        );

    private static HitchKind Kind(
        Hitch hitch,
        string legs,
        IReadOnlyList<string> says,
        params (bool Is, KindFits Then, string Why)[] rules
    )
    {
        var met = rules.Where(r => r.Is).ToList();
        return new(
            hitch,
            legs,
            met.Select(r => r.Then).DefaultIfEmpty(KindFits.Fits).Max(),
            [.. met.OrderByDescending(r => r.Then).Select(r => r.Why), .. says]
        );
    }
}
