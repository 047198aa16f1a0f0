using Keralith.Core.Quantities;

namespace Keralith.Core.Lifts;

/// <summary>A place the load passes.</summary>
/// <param name="Along">How far along the way, from where it is picked up.</param>
/// <param name="Clear">How high what stands there is, over the same level as the load's bottom at the start; 0 and over.</param>
/// <param name="Note">What it is; may be empty.</param>
public sealed record PathPoint(Length Along, Length Clear, string Note)
{
    /// <summary>Places a way may have.</summary>
    public const int Most = 20;

    /// <summary>Letters a note may have.</summary>
    public const int LongestNote = 60;
}

/// <summary>
/// The room above a lift: what the hook must come up to for the load to pass over what stands in its way, against what
/// it can come up to.
/// </summary>
/// <param name="Load">From the load's bottom to the lowest pick, over 0.</param>
public sealed record Headroom(Length Load)
{
    /// <summary>Free height kept over what is passed where the site says nothing else: 6 in, 150 mm.</summary>
    public static readonly Length UsualMargin = Length.FromMillimetres(150);

    /// <summary>The highest the hook, or the underside it hangs from, comes to; null where nobody measured it.</summary>
    public Length? Highest { get; init; }

    /// <summary>How far the hoist lifts; null where it is not asked.</summary>
    public Length? Travel { get; init; }

    /// <summary>Height of everything between the legs' top and the hook, the legs' own hardware with it; null: not measured.</summary>
    public Length? Above { get; init; }

    /// <summary>Height of the legs from the lowest pick up; null: worked out from their reach and angle.</summary>
    public Length? Legs { get; init; }

    /// <summary>Free height kept over what is passed.</summary>
    public Length Margin { get; init; } = UsualMargin;

    /// <summary>The way, in its order; empty: straight up and down where it stands.</summary>
    public IReadOnlyList<PathPoint> Path { get; init; } = [];
}

/// <summary>How a lift fits under what it hangs from, in millimetres.</summary>
/// <param name="Bottom">How high the load's bottom comes when highest.</param>
/// <param name="Governing">The place that asks for it; null where none does.</param>
/// <param name="Legs">Height of the legs; null where it is not known.</param>
/// <param name="Needed">How high the hook must come; null where a part of it is not known.</param>
public sealed record HeadroomFit(decimal Bottom, PathPoint? Governing, decimal? Legs, decimal? Needed)
{
    /// <summary>What bears on it.</summary>
    public required IReadOnlyList<Remark> Remarks { get; init; }

    private const decimal MillimetresPerFoot = 304.8m;

    /// <summary>Works it out.</summary>
    /// <param name="room">What was measured.</param>
    /// <param name="legs">The legs' height by reach and angle, in millimetres; null where it is not known.</param>
    public static HeadroomFit Of(Headroom room, double? legs)
    {
        var remarks = new List<Remark>();
        var governing = room.Path.MaxBy(p => p.Clear.Millimetres);
        var bottom = governing is null ? 0 : governing.Clear.Millimetres + room.Margin.Millimetres;
        var height = room.Legs?.Millimetres ?? (legs is { } worked ? Math.Ceiling((decimal)worked) : null);
        if (height is null)
            Say(
                LiftOutcome.Ask,
                "How high the legs stand is not known: measure it, or choose slings with their reach on record."
            );
        if (room.Above is null)
            Say(
                LiftOutcome.Ask,
                "The height of what hangs between the legs and the hook is not said: measure it, with the load hung."
            );
        if (room.Highest is null)
            Say(LiftOutcome.Ask, "How high the hook comes is not said: whether it fits is not known.");
        if (room.Travel is { } travel && bottom > travel.Millimetres)
            Say(
                LiftOutcome.NotPermitted,
                $"The load must come {Figure(bottom)} up and the hoist lifts {Figure(travel.Millimetres)}: it does not clear{Over(governing)}."
            );
        decimal? needed =
            height is { } h && room.Above is { } above ? bottom + room.Load.Millimetres + h + above.Millimetres : null;
        if (needed is { } wanted && room.Highest is { } highest)
            Say(
                wanted > highest.Millimetres ? LiftOutcome.NotPermitted : LiftOutcome.Ok,
                wanted > highest.Millimetres
                    ? $"The hook must come up to {Figure(wanted)} and comes to {Figure(highest.Millimetres)}: {Figure(wanted - highest.Millimetres)} too low{Over(governing)}. Shorter slings, a beam, or another way."
                    : $"The hook must come up to {Figure(wanted)} and comes to {Figure(highest.Millimetres)}."
            );
        return new(bottom, governing, height, needed) { Remarks = remarks };

        void Say(LiftOutcome outcome, string text) => remarks.Add(new(outcome, text));

        // In the unit the load was measured in.
        string Figure(decimal millimetres) =>
            room.Load.IsInchNamed == true
                ? $"{QuantityFormat.Number(QuantityFormat.Round(millimetres / MillimetresPerFoot, 2))} ft"
                : $"{QuantityFormat.Number(QuantityFormat.Round(millimetres, 0))} mm";
    }

    private static string Over(PathPoint? point) =>
        point is null
            ? string.Empty
            : $" over {(point.Note.Length > 0 ? point.Note : $"what stands at {point.Along}")}";
}
