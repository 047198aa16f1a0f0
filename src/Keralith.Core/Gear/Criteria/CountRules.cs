using Keralith.Core.Quantities;

namespace Keralith.Core.Gear;

/// <summary>A count that may not be reached.</summary>
/// <param name="FirstFailing">The first count that fails.</param>
public sealed record CountLimit(int FirstFailing) : LimitRule
{
    public override string Words => $"{FirstFailing} remove";

    public override Resolved Resolve(LimitContext context) => Of(FirstFailing);

    /// <summary>The figure of a first failing count: counted from none.</summary>
    internal static Figure Of(int firstFailing) => new(firstFailing, 0, Comparator.AtOrAbove);
}

/// <summary>Broken wires of a sling's rope in one lay (braided: one braid), by how its body is laid (ASME B30.9).</summary>
public sealed record BrokenWiresByBody(int StrandLaid, int CableLaid, int BraidedUnder8, int Braided8OrMore) : LimitRule
{
    public override string Words =>
        $"{StrandLaid} in a lay remove (cable-laid {CableLaid}; braided of under 8 parts {BraidedUnder8}, of 8 or more {Braided8OrMore})";

    public override Resolved Resolve(LimitContext context) =>
        CountLimit.Of(
            context.Gear.Text("body") switch
            {
                null or "strand-laid" => StrandLaid,
                "cable-laid" => CableLaid,
                "braided-under-8" => BraidedUnder8,
                "braided-8-or-more" => Braided8OrMore,
                var body => throw new InvalidOperationException($"No such body: {body}."),
            }
        );
}

/// <summary>A count for strand-laid rope; of other bodies the book says nothing.</summary>
/// <param name="FirstFailing">The first count that fails.</param>
public sealed record StrandLaidCount(int FirstFailing) : LimitRule
{
    public override string Words => $"{FirstFailing} remove, strand-laid rope";

    public override Resolved Resolve(LimitContext context) =>
        context.Gear.IsStrandLaid ? CountLimit.Of(FirstFailing) : NotStrandLaid;

    internal static NoRow NotStrandLaid { get; } = new("the book counts strand-laid rope only");
}

/// <summary>Broken wires as a share of all wires of a strand-laid rope, filler wires left out.</summary>
/// <param name="Hundredths">The share in hundredths, 1 to 100.</param>
/// <param name="AtShare">Whether the share itself fails already.</param>
/// <param name="Over">What length they are counted over, in words.</param>
public sealed record ShareOfWires(int Hundredths, bool AtShare, string Over = "in a lay") : LimitRule
{
    public override string Words =>
        $"{(AtShare ? string.Empty : "more than ")}{Hundredths} % of the wires {Over} remove{(AtShare ? ", from that share on" : string.Empty)}";

    public override Resolved Resolve(LimitContext context)
    {
        if (!context.Gear.IsStrandLaid)
            return StrandLaidCount.NotStrandLaid;
        if (context.Gear.Whole("strands") is not { } strands || context.Gear.Whole("wiresPerStrand") is not { } wires)
            return new Missing("the number of strands and of wires in a strand");
        var share = (decimal)strands * wires * Hundredths / 100;
        return new Figure(AtShare ? Math.Ceiling(share) : Math.Floor(share) + 1, 0, Comparator.AtOrAbove);
    }
}

/// <summary>Broken wires in one strand as a share of the wires of one strand, filler wires left out, never later than a count.</summary>
/// <param name="Hundredths">The share in hundredths, 1 to 100; the share itself fails.</param>
/// <param name="Latest">The count that fails however many wires a strand has.</param>
public sealed record ShareOfStrand(int Hundredths, int Latest) : LimitRule
{
    public override string Words => $"{Hundredths} % of the wires of one strand remove, {Latest} at the latest";

    public override Resolved Resolve(LimitContext context) =>
        !context.Gear.IsStrandLaid ? StrandLaidCount.NotStrandLaid
        : context.Gear.Whole("wiresPerStrand") is { } wires
            ? CountLimit.Of((int)Math.Min(Math.Ceiling((decimal)wires * Hundredths / 100), Latest))
        : new Missing("the number of wires in a strand");
}

/// <summary>A count of running rope that is not rotation-resistant; of rotation-resistant rope the book says nothing.</summary>
/// <param name="FirstFailing">The first count that fails.</param>
public sealed record RunningRopeCount(int FirstFailing) : LimitRule
{
    public override string Words => $"{FirstFailing} remove, rope that is not rotation-resistant";

    public override Resolved Resolve(LimitContext context) =>
        context.Gear.Flag("rotationResistant") ? RotationResistant : CountLimit.Of(FirstFailing);

    private static NoRow RotationResistant { get; } = new("the book does not count rotation-resistant rope");
}

/// <summary>Broken wires of hoist rope in one lay; rotation-resistant rope is counted over six diameters.</summary>
public sealed record HoistRopeBrokenWires(int FirstFailing, int RotationResistant) : LimitRule
{
    public override string Words =>
        $"{FirstFailing} in a lay remove (rotation-resistant rope: {RotationResistant} in six diameters)";

    public override Resolved Resolve(LimitContext context) =>
        CountLimit.Of(context.Gear.Flag("rotationResistant") ? RotationResistant : FirstFailing);
}

/// <summary>
/// Growth of a hoist's load chain: hand-operated hoists may grow more than powered ones (or as the maker states).
/// </summary>
public sealed record HoistChainGrowth : LimitRule
{
    private static readonly GrowthLimit Powered = new(0.015m, Comparator.Above);
    private static readonly GrowthLimit ByHand = new(0.025m, Comparator.Above);

    public override string Words =>
        "more than 1.5 % removes on powered hoists, more than 2.5 % on hand-operated ones, or as the maker states";

    public override Resolved Resolve(LimitContext context) =>
        (context.Gear.Family.Kind == GearKind.PoweredHoist ? Powered : ByHand).Resolve(context);
}

/// <summary>Loss of diameter a hoist rope may have, by bands of its nominal diameter; the bands of its own unit count.</summary>
public sealed record HoistRopeDiameter : LimitRule
{
    private static readonly (Length From, Length To, Length Loss)[] InchBands =
    [
        (Length.FromInches(0), Length.Parse("5/16 in"), Length.Parse("1/64 in")),
        (Length.Parse("3/8 in"), Length.Parse("1/2 in"), Length.Parse("1/32 in")),
        (Length.Parse("9/16 in"), Length.Parse("3/4 in"), Length.Parse("3/64 in")),
        (Length.Parse("7/8 in"), Length.Parse("1-1/8 in"), Length.Parse("1/16 in")),
        (Length.Parse("1-1/4 in"), Length.Parse("1-1/2 in"), Length.Parse("3/32 in")),
    ];

    private static readonly (decimal To, decimal Loss)[] MetricBands =
    [
        (8, 0.4m),
        (13, 0.8m),
        (19, 1.2m),
        (29, 1.6m),
        (38, 2.4m),
    ];

    public override string Words =>
        "loss of more than 1/64 in up to 5/16 in, 1/32 in up to 1/2 in, 3/64 in up to 3/4 in, 1/16 in up to 1-1/8 in, 3/32 in up to 1-1/2 in "
        + "(0.4 mm up to 8 mm, 0.8 up to 13, 1.2 up to 19, 1.6 up to 29, 2.4 up to 38) removes";

    public override Resolved Resolve(LimitContext context)
    {
        if (context.Baseline is not { } nominal)
            return NoBaseline;
        decimal? loss = nominal.IsInchNamed
            ? InchBands
                .Where(b => nominal >= b.From && nominal <= b.To)
                .Select(b => (decimal?)b.Loss.Millimetres)
                .FirstOrDefault()
            : MetricBands.Where(b => nominal.Millimetres <= b.To).Select(b => (decimal?)b.Loss).FirstOrDefault();
        return loss is { } allowed
            ? new Figure(nominal.Millimetres - allowed, nominal.Millimetres, Comparator.Below)
            : new NoRow($"the table has no band for {nominal} rope");
    }
}

/// <summary>
/// Loss of diameter of sling rope: the smaller of a share and an amount by bands of its nominal diameter (Ontario).
/// </summary>
/// <param name="Share">Such as 0.05.</param>
public sealed record ShareOrBandLoss(decimal Share) : LimitRule
{
    public override string Words =>
        $"loss of {Percent(Share)}, or of 0.4 mm up to 8 mm, 1 mm under 20 mm, 2 mm under 30 mm, 3 mm from 30 mm, whichever is less, is the most allowed";

    public override Resolved Resolve(LimitContext context) =>
        context.Baseline?.Millimetres is { } nominal
            ? new Figure(nominal - Math.Min(Band(nominal), nominal * Share), nominal, Comparator.Below)
            : NoBaseline;

    /// <summary>The loss the bands allow, in millimetres.</summary>
    /// <param name="nominal">The nominal diameter, in millimetres, over 0.</param>
    internal static decimal Band(decimal nominal) =>
        nominal switch
        {
            <= 8 => 0.4m,
            < 20 => 1m,
            < 30 => 2m,
            _ => 3m,
        };
}

/// <summary>Loss of diameter of running rope: the smaller of ASME's figure and the bands of sling rope (Ontario).</summary>
public sealed record HoistRopeBandLoss : LimitRule
{
    private static readonly HoistRopeDiameter Asme = new();

    public override string Words =>
        "loss of more than ASME's figure, or of 0.4 mm up to 8 mm, 1 mm under 20 mm, 2 mm under 30 mm, 3 mm from 30 mm, whichever is less, removes";

    public override Resolved Resolve(LimitContext context)
    {
        if (context.Baseline?.Millimetres is not { } nominal)
            return NoBaseline;
        var band = new Figure(nominal - ShareOrBandLoss.Band(nominal), nominal, Comparator.Below);
        return Asme.Resolve(context) is Figure asme && asme.Limit > band.Limit ? asme : band;
    }
}

/// <summary>Members counted against a kit's roster: fewer hold, none remove.</summary>
public sealed record RosterMembers : LimitRule
{
    public override bool IsOnRecord => true;

    public override string Words => "fewer than the roster names hold";

    public override Resolved Resolve(LimitContext context) =>
        context.Gear.Roster?.Members is { } members
            ? new Within(members, null, $"the roster's {members} members")
            : new Missing("the kit's roster");
}

/// <summary>Links counted against a kit's roster: outside its range holds, none remove.</summary>
public sealed record RosterLinks : LimitRule
{
    public override bool IsOnRecord => true;

    public override string Words => "a count outside the roster's range holds";

    public override Resolved Resolve(LimitContext context) =>
        context.Gear.Roster is { LeastLinks: { } least, MostLinks: { } most }
            ? new Within(least, most, $"the roster's range of {least} to {most} links")
            : new Missing("the range of links in the kit's roster");
}
