using Keralith.Core.Quantities;

namespace Keralith.Core.Register;

/// <summary>
/// How far off plumb the maker of a hung hoist states that it may pull, with the paper that says so. It frees a hoist
/// from a rule, and so is a fact of the piece that a qualified person enters, never a field of a plan.
/// </summary>
/// <param name="Angle">Off plumb, over 0 and at most 90 degrees.</param>
/// <param name="Paper">The maker's paper, by name or number.</param>
public sealed record MakersAngle(Angle Angle, string Paper)
{
    private const int LongestPaper = 80;

    /// <summary>As it is typed: <c>35 deg; manual K-7, p. 12</c>.</summary>
    public override string ToString() => $"{Angle}; {Paper}";

    /// <summary>Reads one as typed.</summary>
    public static Checked<MakersAngle> Read(string text)
    {
        const string Example =
            "write the angle and the maker's paper that states it, such as 10 deg; manual K-7, p. 12";
        if (
            text.Split(';', 2, StringSplitOptions.TrimEntries)
            is not [var said, { Length: > 0 and <= LongestPaper } paper]
        )
            return new Refusal($"\"{text}\": {Example}");
        var angle = Angle.Read(said);
        return !angle.Ok ? new Refusal($"{angle.Fault}: {Example}")
            : angle.Value.Degrees is <= 0 or > 90 ? new Refusal("An angle off plumb lies over 0 and up to 90 deg.")
            : new MakersAngle(angle.Value, paper);
    }
}
