namespace Keralith.Core.Lifts;

/// <summary>A load between two hoists at one place of its way.</summary>
/// <param name="X">Where the load hangs along the line of the hoists, in millimetres.</param>
/// <param name="First">The first hoist's pull as a share of the load.</param>
/// <param name="Second">The second's.</param>
/// <param name="FirstOffPlumb">How far off plumb the first pulls, in degrees.</param>
/// <param name="SecondOffPlumb">The second.</param>
public sealed record DriftStep(double X, double First, double Second, double FirstOffPlumb, double SecondOffPlumb);

/// <summary>A load passed from one hoist to another: the statics of two legs with the picks exchanged for the hooks.</summary>
public sealed class Drift
{
    private const int Steps = 20;

    private Drift(Point3 first, Point3 second, double from, double to, double height) =>
        (First, Second, From, To, Height) = (first, second, from, to, height);

    /// <summary>The first hoist's hook above, in millimetres; both stand in one vertical plane, y is not looked at.</summary>
    public Point3 First { get; }

    /// <summary>The second hoist's.</summary>
    public Point3 Second { get; }

    /// <summary>Where the load's eye starts, along x.</summary>
    public double From { get; }

    /// <summary>Where it comes to.</summary>
    public double To { get; }

    /// <summary>How high the load's eye is carried.</summary>
    public double Height { get; }

    /// <summary>Places along the way, its ends included.</summary>
    public IReadOnlyList<DriftStep> Way =>
        [.. Enumerable.Range(0, Steps + 1).Select(i => At(From + ((To - From) * i / Steps)))];

    /// <summary>Reads a way between two hoists.</summary>
    /// <returns>The way, or why it has no answer.</returns>
    public static Checked<Drift> Read(Point3 first, Point3 second, double from, double to, double height)
    {
        if (Math.Abs(first.X - second.X) < 1)
            return new Refusal("the two hoists hang over one another, expected them apart");
        if (height >= first.Z || height >= second.Z)
            return new Refusal("the load's eye is not below both hoists, expected it lower");
        var (least, most) = (Math.Min(first.X, second.X), Math.Max(first.X, second.X));
        return from < least || from > most || to < least || to > most
            ? new Refusal(
                "the way leaves the space between the hoists, expected it between them: beyond, a chain would have to push"
            )
            : new Drift(first, second, from, to, height);
    }

    private DriftStep At(double x)
    {
        var (dx1, dz1) = (First.X - x, First.Z - Height);
        var (dx2, dz2) = (Second.X - x, Second.Z - Height);
        var (l1, l2) = (Math.Sqrt((dx1 * dx1) + (dz1 * dz1)), Math.Sqrt((dx2 * dx2) + (dz2 * dz2)));
        var det = (dx1 * dz2) - (dx2 * dz1);
        return new(
            x,
            Math.Max(0, -dx2 * l1 / det),
            Math.Max(0, dx1 * l2 / det),
            LegGeometry.Degrees(Math.Atan2(Math.Abs(dx1), dz1)),
            LegGeometry.Degrees(Math.Atan2(Math.Abs(dx2), dz2))
        );
    }
}

/// <summary>A load passed along a row of hoists, from each to the next.</summary>
/// <param name="Steps">One fewer than the hoists: in each the load goes from one to the next.</param>
/// <param name="Hoists">The pieces at each hoist, from the top down.</param>
public sealed record BetweenHoists(IReadOnlyList<Drift> Steps, IReadOnlyList<IReadOnlyList<LiftComponent>> Hoists)
    : Arrangement
{
    /// <summary>Hoists a row may have.</summary>
    public const int Most = 6;

    /// <summary>Between two.</summary>
    public BetweenHoists(Drift drift, IReadOnlyList<LiftComponent> first, IReadOnlyList<LiftComponent> second)
        : this([drift], [first, second]) { }

    /// <summary>The worst a hoist sees over all steps: its pull as a share of the load, and how far off plumb, in degrees.</summary>
    /// <param name="hoist">Its place in the row, from 0.</param>
    public (double Pull, double OffPlumb) Worst(int hoist)
    {
        var seen = new List<(double Pull, double Off)>();
        if (hoist < Steps.Count)
            seen.AddRange(Steps[hoist].Way.Select(s => (s.First, s.FirstOffPlumb)));
        if (hoist > 0)
            seen.AddRange(Steps[hoist - 1].Way.Select(s => (s.Second, s.SecondOffPlumb)));
        return (seen.Max(s => s.Pull), seen.Max(s => s.Off));
    }
}
