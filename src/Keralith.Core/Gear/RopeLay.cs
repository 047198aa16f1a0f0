namespace Keralith.Core.Gear;

/// <summary>
/// Where one lay of a rope begins and ends, and how many wires it has: what counts of broken wires are taken over.
/// </summary>
public static class RopeLay
{
    /// <summary>
    /// How to find one lay of a rope by counting strands along a line, with its wires where they are stated; null for
    /// gear that has no rope of stated make.
    /// </summary>
    public static string? Help(GearPiece gear)
    {
        if (gear.Family.Kind != GearKind.WireRope && gear.Medium != "rope")
            return null;
        var size = gear.Size ?? gear.Length("ropeSize");
        if (gear.Flag("rotationResistant"))
            return $"Counted over six rope diameters{(size is { } d ? $", {(d * 6)} here" : string.Empty)}.";
        if (gear.Whole("strands") is not { } strands)
            return "One lay: mark a strand, and count along a line as many strands as the rope has; there the same strand comes round again.";
        var wires = gear.Whole("wiresPerStrand") is { } each
            ? $" It has {strands} x {each} = {strands * each} wires, filler wires left out."
            : string.Empty;
        return $"One lay: mark a strand and count {strands} strands along a line; there the same strand comes round again.{wires}";
    }
}
