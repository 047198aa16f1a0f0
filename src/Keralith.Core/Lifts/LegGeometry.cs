namespace Keralith.Core.Lifts;

/// <summary>A point or a direction, in millimetres, z up.</summary>
public readonly record struct Point3(double X, double Y, double Z)
{
    public double Norm => Math.Sqrt(Dot(this));

    public Point3 Unit => this * (1 / Norm);

    public double Dot(Point3 other) => (X * other.X) + (Y * other.Y) + (Z * other.Z);

    public Point3 Cross(Point3 other) =>
        new((Y * other.Z) - (Z * other.Y), (Z * other.X) - (X * other.Z), (X * other.Y) - (Y * other.X));

    public static Point3 operator +(Point3 a, Point3 b) => new(a.X + b.X, a.Y + b.Y, a.Z + b.Z);

    public static Point3 operator -(Point3 a, Point3 b) => new(a.X - b.X, a.Y - b.Y, a.Z - b.Z);

    public static Point3 operator *(Point3 a, double factor) => new(a.X * factor, a.Y * factor, a.Z * factor);
}

/// <summary>
/// A rigid load hung by 1 to 4 straight legs from one hook to known points, at rest with its centre of gravity under the hook.
/// Pulls are shares of the load: the weight does not change them.
/// </summary>
public sealed class LegGeometry
{
    /// <summary>How far a two-leg hook may stand off the vertical plane through its picks, in millimetres.</summary>
    public const double PlaneTolerance = 1;

    /// <summary>A pull within this share of the load counts as none.</summary>
    private const double Slack = 1e-9;

    /// <summary>Legs whose directions span less than this lie in one plane, or in one line.</summary>
    private const double Flat = 1e-9;

    private LegGeometry(Point3 hook, Point3 centre, IReadOnlyList<Point3> picks)
    {
        (Hook, Centre, Picks) = (hook, centre, picks);
        Directions = [.. picks.Select(p => (hook - p).Unit)];
        Angles = [.. Directions.Select(u => Degrees(Math.Asin(Clamp(u.Z))))];
        Hang = centre;
    }

    public Point3 Hook { get; }

    /// <summary>The centre of gravity, as drawn.</summary>
    public Point3 Centre { get; }

    public IReadOnlyList<Point3> Picks { get; }

    /// <summary>From each pick to the hook, of length 1.</summary>
    public IReadOnlyList<Point3> Directions { get; }

    /// <summary>Where the centre of gravity comes to rest as seen from the load: two legs let it turn into their plane.</summary>
    private Point3 Hang { get; set; }

    /// <summary>The angle between two legs where they meet, in degrees.</summary>
    public double Between(int leg, int other) => Degrees(Math.Acos(Clamp(Directions[leg].Dot(Directions[other]))));

    /// <summary>The widest straight distance of two picks, in millimetres; 0 with one.</summary>
    public double WidestPicks =>
        Picks.SelectMany((one, i) => Picks.Skip(i + 1).Select(other => (one - other).Norm)).DefaultIfEmpty(0).Max();

    /// <summary>The way the load pulls the hook, as seen from the load at rest.</summary>
    private Point3 Down => (Hook - Hang).Unit;

    /// <summary>Angle of each leg from the horizontal as drawn, in degrees.</summary>
    public IReadOnlyList<double> Angles { get; }

    /// <summary>The smaller of each leg's angle as drawn and at rest, in degrees; one leg hangs plumb.</summary>
    public IReadOnlyList<double> LeastAngles =>
        Picks.Count == 1
            ? Angles
            : [.. Directions.Zip(Angles, (u, drawn) => Math.Min(drawn, Degrees(Math.Asin(Clamp(u.Dot(Down))))))];

    /// <summary>How far the load tilts, in degrees; null for one leg.</summary>
    public double? Tilt => Picks.Count == 1 ? null : Degrees(Math.Acos(Clamp(Down.Z)));

    /// <summary>How far it turns about its one pick or the line of its two, in degrees; null for more legs.</summary>
    public double? Turn { get; private set; }

    /// <summary>Horizontal distance from the hook to the centre of gravity as drawn, in millimetres.</summary>
    public double Offset => new Point3(Hook.X - Centre.X, Hook.Y - Centre.Y, 0).Norm;

    /// <summary>The foot of the centre of gravity on the line of two picks, or the one pick; null for more legs.</summary>
    private Point3? Foot { get; set; }

    /// <summary>How picks and centre of gravity stand to one another: whether the load would turn over.</summary>
    public LiftOutcome Stability =>
        Foot is { } foot
            ? foot.Z <= Centre.Z
                ? LiftOutcome.NotPermitted
                : LiftOutcome.Ok
            : Picks.All(p => p.Z <= Centre.Z)
                ? LiftOutcome.Ask
                : Picks.Any(p => p.Z <= Centre.Z)
                    ? LiftOutcome.Caution
                    : LiftOutcome.Ok;

    /// <summary>Reads a geometry.</summary>
    /// <param name="hook">Above every pick.</param>
    /// <param name="centre">The centre of gravity, not at the hook.</param>
    /// <param name="picks">1 to 4 points.</param>
    /// <returns>The geometry, or why it has no answer.</returns>
    public static Checked<LegGeometry> Read(Point3 hook, Point3 centre, IReadOnlyList<Point3> picks)
    {
        if (picks.Count is < 1 or > 4)
            return new Refusal($"found {picks.Count} legs, expected 1 to 4");
        if (picks.Any(p => p.Z >= hook.Z))
            return new Refusal("the hook is not above every pick, expected it higher than each");
        if ((hook - centre).Norm < Slack)
            return new Refusal("the centre of gravity is at the hook, expected it elsewhere");
        var geometry = new LegGeometry(hook, centre, picks);
        switch (picks.Count)
        {
            case 1:
                geometry.Foot = picks[0];
                geometry.Turn =
                    (picks[0] - centre).Norm < Slack ? 0 : Degrees(Math.Acos(Clamp((picks[0] - centre).Unit.Z)));
                return geometry;
            case 2:
                return geometry.TurnedIntoPlane() is { } fault ? new Refusal(fault) : geometry;
            case 3 when Math.Abs(Volume(geometry.Directions)) < Flat:
                return new Refusal(
                    "the three legs lie in one plane, expected picks that span a triangle under the hook"
                );
            default:
                return geometry;
        }
    }

    /// <summary>The pull of each leg as a share of the load.</summary>
    /// <param name="four">How four legs count.</param>
    /// <returns>The pulls; null when a leg would have to push: the centre of gravity lies outside the picks.</returns>
    public IReadOnlyList<double>? Pulls(FourLegs four) =>
        Picks.Count switch
        {
            1 => [1.0],
            2 => Pulling(InPlane()),
            3 => Pulling(Three([0, 1, 2])),
            _ => Floor(
                four,
                four == FourLegs.ThreeShare && Pulling(LeastNorm()) is { } shared ? shared : WorstOfThrees()
            ),
        };

    /// <summary>The inverse question: what length a leg needs for the hook to hang plumb over the centre of gravity.</summary>
    /// <param name="leg">From 0.</param>
    /// <param name="height">Of the hook over the leg's pick, in millimetres, over 0.</param>
    public double ReachNeeded(int leg, double height)
    {
        var (dx, dy) = (Picks[leg].X - Centre.X, Picks[leg].Y - Centre.Y);
        return Math.Sqrt((height * height) + (dx * dx) + (dy * dy));
    }

    /// <summary>An angle's degrees.</summary>
    internal static double Degrees(double radians) => radians * 180 / Math.PI;

    /// <summary>
    /// The load turns about the line of its two picks until the centre of gravity lies in the plane of the legs, below.
    /// </summary>
    private string? TurnedIntoPlane()
    {
        var along = Picks[1] - Picks[0];
        var level = new Point3(along.X, along.Y, 0);
        if (level.Norm < Slack)
            return "the two picks stand over one another, expected them apart";
        var across = level.Unit.Cross(new(0, 0, 1));
        if (Math.Abs((Hook - Picks[0]).Dot(across)) > PlaneTolerance)
            return "the hook is off the vertical plane through the two picks, expected it within 1 mm";
        if (Directions[0].Cross(Directions[1]).Norm < Flat)
            return "the two legs lie in one line, expected the hook off it";
        var line = along.Unit;
        var foot = Picks[0] + (line * (Centre - Picks[0]).Dot(line));
        var normal = line.Cross(across).Unit;
        if (normal.Dot(Hook - foot) > 0)
            normal *= -1;
        var off = Centre - foot;
        Foot = foot;
        Turn = off.Norm < Slack ? 0 : Degrees(Math.Acos(Clamp(off.Unit.Dot(normal))));
        Hang = foot + (normal * off.Norm);
        return null;
    }

    private double[] InPlane()
    {
        var across = (Picks[1] - Picks[0]) is var a ? new Point3(a.X, a.Y, 0).Unit : default;
        var (x1, x2, xd) = (Directions[0].Dot(across), Directions[1].Dot(across), Down.Dot(across));
        var det = (x1 * Directions[1].Z) - (x2 * Directions[0].Z);
        return [((xd * Directions[1].Z) - (x2 * Down.Z)) / det, ((x1 * Down.Z) - (xd * Directions[0].Z)) / det];
    }

    /// <summary>The pulls of three legs; null when they lie in one plane.</summary>
    private double[]? Three(int[] of)
    {
        Point3[] u = [Directions[of[0]], Directions[of[1]], Directions[of[2]]];
        var det = Volume(u);
        if (Math.Abs(det) < Flat)
            return null;
        var d = Down;
        return [d.Dot(u[1].Cross(u[2])) / det, u[0].Dot(d.Cross(u[2])) / det, u[0].Dot(u[1].Cross(d)) / det];
    }

    /// <summary>Each leg's worst pull over the threes that hold the load; null when none does.</summary>
    private double[]? WorstOfThrees()
    {
        double[]? worst = null;
        for (var left = 0; left < 4; left++)
        {
            int[] of = [.. Enumerable.Range(0, 4).Where(i => i != left)];
            if (Pulling(Three(of)) is not { } pulls)
                continue;
            worst ??= new double[4];
            for (var i = 0; i < 3; i++)
                worst[of[i]] = Math.Max(worst[of[i]], pulls[i]);
        }

        return worst;
    }

    /// <summary>The smallest pulls that hold the load together: U'(UU')^-1 d; null when the legs lie in one plane.</summary>
    private double[]? LeastNorm()
    {
        Point3[] rows = new Point3[3];
        foreach (var u in Directions)
        {
            rows[0] += u * u.X;
            rows[1] += u * u.Y;
            rows[2] += u * u.Z;
        }

        var det = rows[0].Dot(rows[1].Cross(rows[2]));
        if (Math.Abs(det) < Flat)
            return null;
        var d = Down;
        var y =
            ((rows[1].Cross(rows[2]) * d.X) + (rows[2].Cross(rows[0]) * d.Y) + (rows[0].Cross(rows[1]) * d.Z))
            * (1 / det);
        return [.. Directions.Select(u => u.Dot(y))];
    }

    /// <summary>Where three of four are counted on, none carries less than a third of the load at its angle.</summary>
    private double[]? Floor(FourLegs four, double[]? pulls) =>
        pulls is null || four == FourLegs.TwoCarry
            ? pulls
            : [.. pulls.Zip(Directions, (pull, u) => Math.Max(pull, 1 / (3 * u.Z)))];

    private static double[]? Pulling(double[]? pulls)
    {
        if (pulls is null || pulls.Any(p => p < -Slack))
            return null;
        return [.. pulls.Select(p => Math.Abs(p) <= Slack ? 0 : p)];
    }

    private static double Volume(IReadOnlyList<Point3> u) => u[0].Dot(u[1].Cross(u[2]));

    private static double Clamp(double cosine) => Math.Clamp(cosine, -1, 1);
}
