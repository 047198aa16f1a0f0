namespace Keralith.Core.Lifts;

/// <summary>What one leg wants for the hook to hang over the centre of gravity.</summary>
/// <param name="Needed">Reach, in millimetres.</param>
/// <param name="Links">Links to take up, 0 and over; null where the leg has no shortener, or is too short.</param>
/// <param name="Left">Reach after taking them up, in millimetres.</param>
public sealed record LevelledLeg(double Needed, int? Links, double Left);

/// <summary>Legs brought to length by links taken up, and the tilt that remains.</summary>
/// <param name="Legs">Of each pick.</param>
/// <param name="Tilt">In degrees; null where the legs as they come out do not meet.</param>
public sealed record Levelling(IReadOnlyList<LevelledLeg> Legs, double? Tilt)
{
    /// <summary>Levels a load: the hook straight over its centre of gravity.</summary>
    /// <param name="geometry">Hook, centre of gravity and picks.</param>
    /// <param name="reaches">Reach of each leg as it hangs, in millimetres, over 0.</param>
    /// <param name="pitch">Of the chain, in millimetres; null where nothing is shortened by links.</param>
    public static Levelling Of(LegGeometry geometry, IReadOnlyList<double> reaches, double? pitch)
    {
        var legs = new List<LevelledLeg>();
        for (var i = 0; i < geometry.Picks.Count; i++)
        {
            var needed = geometry.ReachNeeded(i, geometry.Hook.Z - geometry.Picks[i].Z);
            var over = reaches[i] - needed;
            var links =
                pitch is { } p && over > -p / 2 ? (int)Math.Round(over / p, MidpointRounding.AwayFromZero) : (int?)null;
            legs.Add(
                new(
                    needed,
                    links is null ? null : Math.Max(0, links.Value),
                    reaches[i] - (Math.Max(0, links ?? 0) * (pitch ?? 0))
                )
            );
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
