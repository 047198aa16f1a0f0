using Keralith.Core.Quantities;

namespace Keralith.Core.Lifts;

/// <summary>How high a centre of gravity lies, learnt by raising one support of a load that was weighed level.</summary>
/// <param name="Apart">Between the two supports, over 0.</param>
/// <param name="Level">What the raised support read while level.</param>
/// <param name="Raised">What it reads raised.</param>
/// <param name="Tilt">How far the line of supports tilts.</param>
/// <param name="Resolution">The smallest step the scale shows, 0 and over.</param>
public sealed record TiltedWeighing(Length Apart, Mass Level, Mass Raised, Angle Tilt, Mass Resolution)
{
    /// <summary>Under this tilt nothing is learnt, in degrees.</summary>
    public const decimal LeastTilt = 3;

    /// <summary>A change in reading of fewer steps of the scale than this is none.</summary>
    public const int LeastSteps = 3;

    /// <summary>The height above the line of supports, in millimetres.</summary>
    /// <param name="weight">The whole load, over 0.</param>
    /// <returns>(level - raised) x apart / (weight x tan tilt), or why nothing is learnt from it.</returns>
    public Checked<decimal> Height(Mass weight)
    {
        if (Tilt.Degrees < LeastTilt)
            return new Refusal($"a tilt of {Tilt} tells nothing: raise it by {LeastTilt:0} deg or more");
        if (Tilt.Degrees >= 45)
            return new Refusal("a tilt of 45 deg and over is no weighing: the load slides");
        var change = Level.Kilograms - Raised.Kilograms;
        if (Math.Abs(change) < LeastSteps * Resolution.Kilograms || change == 0)
            return new Refusal(
                $"the reading changed by less than {LeastSteps} steps of the scale: raise it further, or weigh finer"
            );
        if (change < 0)
            return new Refusal(
                "raised, the support carries more than level: the centre of gravity would lie under the supports. Weigh again"
            );
        return QuantityFormat.Round(
            Figures.Of(
                (double)(change * Apart.Millimetres / weight.Kilograms) / Math.Tan((double)Tilt.Degrees * Math.PI / 180)
            ),
            2
        );
    }
}

/// <summary>What a trial lift that was not level tells: which end was low, and by how much.</summary>
/// <param name="LowX">Which way along was low: 1, -1 or 0.</param>
/// <param name="LowY">Which way across: 1, -1 or 0.</param>
/// <param name="Tilt">How far it hung off level, over 0 to 45 degrees.</param>
public sealed record TrialFinding(int LowX, int LowY, Angle Tilt)
{
    /// <summary>
    /// How far the true centre of gravity lies off the line through the hook, in millimetres: the hook's height over it
    /// times the tangent of the tilt.
    /// </summary>
    /// <param name="hookAbove">The hook over the centre of gravity, in millimetres, over 0.</param>
    public double Off(double hookAbove) => hookAbove * Math.Tan((double)Tilt.Degrees * Math.PI / 180);

    /// <summary>Where the centre of gravity is, by this trial: off the hook's line towards the low end.</summary>
    public Point3 Centre(LegGeometry geometry)
    {
        var off = Off(geometry.Hook.Z - geometry.Centre.Z);
        var share = LowX != 0 && LowY != 0 ? 1 / Math.Sqrt(2) : 1;
        return geometry.Centre with
        {
            X = geometry.Hook.X + (LowX * off * share),
            Y = geometry.Hook.Y + (LowY * off * share),
        };
    }

    /// <summary>Reads what was seen.</summary>
    /// <param name="low">Which end was low: <c>x+</c>, <c>x-</c>, <c>y+</c>, <c>y-</c>, or two of them together.</param>
    /// <param name="by">How far: an angle, or a height over a length such as <c>3 in over 4 ft</c>.</param>
    public static Checked<TrialFinding> Read(string? low, string? by)
    {
        var (x, y) = (Sign('x'), Sign('y'));
        if (x == 0 && y == 0)
            return new Refusal("say which end hung low");
        if (by?.Split(" over ", 2, StringSplitOptions.TrimEntries) is [var high, var along])
        {
            var (rise, run) = (Length.Read(high), Length.Read(along));
            if (!rise.Ok || !run.Ok)
                return new Refusal(rise.Fault ?? run.Fault!);
            if (rise.Value.Millimetres <= 0 || run.Value.Millimetres <= rise.Value.Millimetres)
                return new Refusal("a height over a longer length, such as 3 in over 4 ft");
            by =
                $"{QuantityFormat.Number(QuantityFormat.Round(Figures.Of(LegGeometry.Degrees(Math.Asin((double)(rise.Value.Millimetres / run.Value.Millimetres)))), 3))} deg";
        }

        var tilt = Angle.Read(by is not null && by.Trim().All(c => char.IsDigit(c) || c == '.') ? $"{by} deg" : by);
        if (!tilt.Ok)
            return new Refusal(tilt.Fault!);
        return tilt.Value.Degrees is > 0 and <= 45
            ? new TrialFinding(x, y, tilt.Value)
            : new Refusal("a tilt over 0 and up to 45 deg");

        int Sign(char axis) =>
            low?.Contains($"{axis}+", StringComparison.Ordinal) == true ? 1
            : low?.Contains($"{axis}-", StringComparison.Ordinal) == true ? -1
            : 0;
    }
}
