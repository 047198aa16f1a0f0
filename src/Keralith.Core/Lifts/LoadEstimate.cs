using Keralith.Core.Quantities;

namespace Keralith.Core.Lifts;

/// <summary>A shape a load, or a part of it, is made of.</summary>
public abstract record LoadShape
{
    private protected LoadShape() { }

    private protected const decimal Pi = 3.1415926535897932384626433833m;

    private protected static decimal M(Length length) => length.Millimetres / 1000;
}

/// <summary>A shape with a volume, filled by its material.</summary>
public abstract record Solid : LoadShape
{
    /// <summary>In cubic metres.</summary>
    public abstract decimal Volume { get; }

    /// <summary>The volume where decimals hold it; else without end.</summary>
    internal double Rough
    {
        get
        {
            try
            {
                return (double)Volume;
            }
            catch (OverflowException)
            {
                return double.PositiveInfinity;
            }
        }
    }
}

/// <summary>A box, slab or plate.</summary>
public sealed record Box(Length Along, Length Across, Length High) : Solid
{
    public override decimal Volume => M(Along) * M(Across) * M(High);
}

/// <summary>A full cylinder.</summary>
public sealed record Cylinder(Length Diameter, Length Along) : Solid
{
    public override decimal Volume => Pi * M(Diameter) * M(Diameter) / 4 * M(Along);
}

/// <summary>A pipe: the wall is at most half the outside diameter.</summary>
public sealed record Pipe(Length Outside, Length Wall, Length Along) : Solid
{
    public override decimal Volume => Pi * M(Wall) * (M(Outside) - M(Wall)) * M(Along);
}

/// <summary>A ball.</summary>
public sealed record Sphere(Length Diameter) : Solid
{
    public override decimal Volume => Pi * M(Diameter) * M(Diameter) * M(Diameter) / 6;
}

/// <summary>Anything of one section along its length.</summary>
public sealed record Prism(Area Section, Length Along) : Solid
{
    public override decimal Volume => Section.SquareMillimetres / 1_000_000 * M(Along);
}

/// <summary>Bar, rail or beam known by its weight for each length.</summary>
public sealed record Linear(LinearMass PerLength, Length Along) : LoadShape
{
    /// <summary>In kilograms.</summary>
    public decimal Kilograms => PerLength.KilogramsPerMetre * M(Along);
}

/// <summary>A part whose weight is known.</summary>
public sealed record Lump(Mass Weight) : LoadShape;

/// <summary>A material, on the heavy side.</summary>
/// <param name="Code">Short fixed name.</param>
/// <param name="Name">What people read.</param>
/// <param name="KilogramsPerCubicMetre">Its density.</param>
public sealed record Material(string Code, string Name, decimal KilogramsPerCubicMetre)
{
    /// <summary>Its name in lift documents; its code where nothing else is said.</summary>
    public string Document { get; init; } = Code;

    /// <summary>The defaults; each can be overwritten where it is used.</summary>
    public static IReadOnlyList<Material> All { get; } =
    [
        new("steel", "Steel", 7850),
        new("cast-iron", "Cast iron", 7200),
        new("aluminium", "Aluminium", 2700),
        new("copper", "Copper", 8940),
        new("brass", "Brass", 8500),
        new("bronze", "Bronze", 8800),
        new("lead", "Lead", 11340),
        new("concrete", "Concrete, plain", 2400) { Document = "concrete-plain" },
        new("reinforced-concrete", "Concrete, reinforced", 2500) { Document = "concrete-reinforced" },
        new("granite", "Granite", 2700),
        new("sandstone", "Sandstone", 2400),
        new("limestone", "Limestone", 2700),
        new("brick", "Brick", 1900),
        new("green-oak", "Green oak", 1070),
        new("oak", "Seasoned oak", 720) { Document = "seasoned-oak" },
        new("pine", "Pine", 550),
        new("water", "Water", 1000),
        new("ice", "Ice", 917),
        new("mud", "Mud", 1900),
        new("dry-sand", "Sand, dry", 1600),
        new("wet-sand", "Sand, wet", 2080),
        new("clay", "Clay", 1800),
        new("glass", "Glass", 2500),
        new("rubber", "Rubber", 1200),
        new("diesel", "Diesel", 850),
    ];

    /// <summary>The material of a code, or null.</summary>
    public static Material? Find(string? code) => All.FirstOrDefault(m => m.Code == code);
}

/// <summary>One part of a load.</summary>
/// <param name="Shape">Its shape.</param>
/// <param name="Density">In kilograms a cubic metre, over 0; not looked at where the shape brings its own weight.</param>
/// <param name="Count">How many, 1 and over.</param>
public sealed record LoadPart(LoadShape Shape, decimal Density, int Count)
{
    /// <summary>Where its middle is, in the load's frame; null where nobody says.</summary>
    public Point3? At { get; init; }

    /// <summary>Whether it comes to no more than anything lifted, 1 000 000 t.</summary>
    internal bool IsLifted
    {
        get
        {
            // Looked at roughly first: exact figures of a slip of the hand can be beyond what decimals hold.
            var rough = Shape switch
            {
                Solid solid => solid.Rough * (double)Density,
                Linear linear => (double)linear.Kilograms,
                Lump lump => (double)lump.Weight.Kilograms,
                _ => throw new System.Diagnostics.UnreachableException(),
            };
            return rough * Count <= (double)Mass.Heaviest.Kilograms;
        }
    }

    /// <summary>In kilograms.</summary>
    public decimal Kilograms =>
        Count
        * Shape switch
        {
            Solid solid => solid.Volume * Density,
            Linear linear => linear.Kilograms,
            Lump lump => lump.Weight.Kilograms,
            _ => throw new System.Diagnostics.UnreachableException(),
        };
}

/// <summary>What a load is made of.</summary>
/// <param name="Parts">At least one.</param>
public sealed record LoadParts(IReadOnlyList<LoadPart> Parts)
{
    /// <summary>All together, bare of any contingency.</summary>
    public Mass Weight => Mass.FromKilograms(Parts.Sum(p => p.Kilograms));

    /// <summary>Where they balance: sum(m r) / sum(m); null where a part has no place.</summary>
    public Point3? Centre
    {
        get
        {
            var whole = Parts.Sum(p => (double)p.Kilograms);
            var sum = default(Point3);
            foreach (var part in Parts)
            {
                if (part.At is not { } at)
                    return null;
                sum += at * (double)part.Kilograms;
            }

            return whole > 0 ? sum * (1 / whole) : null;
        }
    }
}

/// <summary>What a level load weighed on one of its supports.</summary>
/// <param name="X">Where the support stands in plan, in millimetres.</param>
/// <param name="Y">The same across.</param>
/// <param name="Reading">What the scale showed, 0 and over.</param>
public sealed record Weighing(decimal X, decimal Y, Mass Reading)
{
    /// <summary>As it stands on record: <c>1800 lb at 0 0</c>, the place in millimetres.</summary>
    public override string ToString() =>
        $"{Reading} at {QuantityFormat.Number(QuantityFormat.Round(X, 3))} {QuantityFormat.Number(QuantityFormat.Round(Y, 3))}";

    /// <summary>Reads one as it stands on record; null where it can't be.</summary>
    public static Weighing? Read(string text) =>
        text.Split(" at ") is [var reading, var place]
        && Mass.Read(reading) is { Ok: true, Value: var mass }
        && place.Split(' ') is [var x, var y]
        && Length.Read($"{x} mm") is { Ok: true, Value: var across }
        && Length.Read($"{y} mm") is { Ok: true, Value: var along }
            ? new(across.Millimetres, along.Millimetres, mass)
            : null;
}

/// <summary>A load weighed level on two or more supports.</summary>
/// <param name="Readings">Two or more, no two at one place.</param>
public sealed record LoadWeighings(IReadOnlyList<Weighing> Readings)
{
    /// <summary>All together.</summary>
    public Mass Weight => Mass.FromKilograms(Readings.Sum(r => r.Reading.Kilograms));

    /// <summary>Where it balances in plan: the mean of the supports weighted by their readings. Its height is not learnt.</summary>
    public Point3 Centre
    {
        get
        {
            var whole = Weight.Kilograms;
            return new(
                (double)(Readings.Sum(r => r.Reading.Kilograms * r.X) / whole),
                (double)(Readings.Sum(r => r.Reading.Kilograms * r.Y) / whole),
                0
            );
        }
    }
}

/// <summary>Where a load's own figures put its centre of gravity.</summary>
/// <param name="At">The place, in the load's frame.</param>
/// <param name="InPlanOnly">Whether its height is not known, and stands at 0.</param>
public sealed record LoadCentre(Point3 At, bool InPlanOnly);

/// <summary>A weight worked out: parts, a contingency on them, and what clings to or stands in the load.</summary>
/// <param name="Parts">At least one.</param>
/// <param name="Contingency">Share added, 0 and over.</param>
/// <param name="Added">Water, mud, ice and the like, in kilograms.</param>
public sealed record LoadEstimate(IReadOnlyList<LoadPart> Parts, decimal Contingency, decimal Added)
{
    /// <summary>Added where nobody says otherwise.</summary>
    public const decimal UsualContingency = 0.10m;

    /// <summary>A weighing further from the estimate than this share of it asks what is inside.</summary>
    public const decimal Surprise = 0.10m;

    /// <summary>The parts alone.</summary>
    public decimal Bare => Parts.Sum(p => p.Kilograms);

    /// <summary>What the lift is planned with.</summary>
    public Mass Weight => Mass.FromKilograms((Bare * (1 + Contingency)) + Added);

    /// <summary>What it comes to with nothing added for what is not known.</summary>
    public Mass WithoutContingency => Mass.FromKilograms(Bare + Added);

    /// <summary>What a weighing says about the estimate; null where they agree.</summary>
    public string? Against(Mass weighed) =>
        Math.Abs(weighed.Kilograms - Weight.Kilograms) > Surprise * Weight.Kilograms
            ? $"Weighed {weighed} where {QuantityFormat.Rounded(Weight, weighed.Unit)} were estimated, more than a tenth apart: check the centre of gravity again, and what is inside."
            : null;
}
