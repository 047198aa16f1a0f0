namespace Keralith.Core.Lifts;

/// <summary>What one leg wants for the hook to hang over the centre of gravity.</summary>
/// <param name="Needed">Reach, in millimetres.</param>
/// <param name="Links">Links to take up, 0 and over; null where the leg has no shortener, or is too short.</param>
/// <param name="Left">Reach after taking them up and turning its turnbuckle, in millimetres.</param>
public sealed record LevelledLeg(double Needed, int? Links, double Left)
{
    /// <summary>How its turnbuckle is turned for what the links leave; null where the leg has none of known thread.</summary>
    public ScrewTurn? Turned { get; init; }
}

/// <summary>How long a leg hangs and what brings it to length.</summary>
/// <param name="Reach">In millimetres, over 0.</param>
/// <param name="Link">Pitch of the chain a shortener takes up, in millimetres; null where it has none.</param>
/// <param name="Screw">Of its turnbuckle; null where it has none of known thread.</param>
public readonly record struct LegLength(double Reach, double? Link = null, Screw? Screw = null);

/// <summary>Legs brought to length by links taken up, and the tilt that remains.</summary>
/// <param name="Legs">Of each pick.</param>
/// <param name="Tilt">In degrees; null where the legs as they come out do not meet.</param>
public sealed record Levelling(IReadOnlyList<LevelledLeg> Legs, double? Tilt)
{
    /// <summary>Levels a load: the hook straight over its centre of gravity.</summary>
    /// <param name="geometry">Hook, centre of gravity and picks.</param>
    /// <param name="lengths">Of each leg as it hangs.</param>
    public static Levelling Of(LegGeometry geometry, IReadOnlyList<LegLength> lengths)
    {
        var legs = new List<LevelledLeg>();
        for (var i = 0; i < geometry.Picks.Count; i++)
        {
            var needed = geometry.ReachNeeded(i, geometry.Hook.Z - geometry.Picks[i].Z);
            var (reach, link, screw) = (lengths[i].Reach, lengths[i].Link, lengths[i].Screw);
            int? links =
                link is { } pitch && reach - needed > -pitch / 2
                    ? Math.Max(0, (int)Math.Round((reach - needed) / pitch, MidpointRounding.AwayFromZero))
                    : null;
            var left = reach - ((links ?? 0) * (link ?? 0));
            var turned = screw?.Turn(left - needed);
            legs.Add(new(needed, links, left - (turned?.By ?? 0)) { Turned = turned });
        }

        return new(legs, TiltOf(geometry, [.. legs.Select(l => l.Left)]));
    }

    /// <summary>How the load tilts hung by legs of these lengths; of four legs, hung by the three that tilt it most.</summary>
    private static double? TiltOf(LegGeometry geometry, double[] lengths)
    {
        var picks = geometry.Picks;
        int[][] sets = picks.Count switch
        {
            1 => [],
            2 =>
            [
                [0, 1],
            ],
            3 =>
            [
                [0, 1, 2],
            ],
            _ =>
            [
                [0, 1, 2],
                [0, 1, 3],
                [0, 2, 3],
                [1, 2, 3],
            ],
        };
        double? worst = null;
        foreach (var set in sets)
        {
            if (Meet([.. set.Select(i => picks[i])], [.. set.Select(i => lengths[i])]) is not { } hook)
                continue;
            var hung = LegGeometry.Read(hook, geometry.Centre, [.. set.Select(i => picks[i])]);
            if (hung is { Ok: true, Value.Tilt: { } tilt } && (worst is null || tilt > worst))
                worst = tilt;
        }

        return worst;
    }

    /// <summary>Where ends of two or three legs of given lengths meet above their picks; null where they do not.</summary>
    private static Point3? Meet(Point3[] picks, double[] lengths)
    {
        var along = picks[1] - picks[0];
        var apart = along.Norm;
        if (apart < 1e-9)
            return null;
        var ex = along.Unit;
        var x = ((lengths[0] * lengths[0]) - (lengths[1] * lengths[1]) + (apart * apart)) / (2 * apart);
        if (picks.Length == 2)
        {
            var up = new Point3(0, 0, 1) - (ex * ex.Z);
            var high = (lengths[0] * lengths[0]) - (x * x);
            return up.Norm < 1e-9 || high <= 0 ? null : picks[0] + (ex * x) + (up.Unit * Math.Sqrt(high));
        }

        var to = picks[2] - picks[0];
        var i = ex.Dot(to);
        var across = to - (ex * i);
        if (across.Norm < 1e-9)
            return null;
        var ey = across.Unit;
        var ez = ex.Cross(ey);
        if (ez.Z < 0)
            ez *= -1;
        var j = ey.Dot(to);
        var y = ((lengths[0] * lengths[0]) - (lengths[2] * lengths[2]) + (i * i) + (j * j) - (2 * i * x)) / (2 * j);
        var square = (lengths[0] * lengths[0]) - (x * x) - (y * y);
        return square <= 0 ? null : picks[0] + (ex * x) + (ey * y) + (ez * Math.Sqrt(square));
    }
}
