namespace Keralith.Core.Lifts;

/// <summary>A rigid load hung plumb at two places: the lever rule, and whether it turns over.</summary>
internal static class DropStatics
{
    /// <summary>The pull of each of two drops, in their order and in kilograms; null where one would have to push.</summary>
    /// <param name="load">In kilograms.</param>
    /// <param name="drops">Two, at two places.</param>
    /// <param name="centre">Of gravity, in millimetres along the same line.</param>
    /// <param name="called">What they are called: "the drops".</param>
    /// <param name="remarks">What is said of it goes here.</param>
    public static decimal[]? Pulls(
        decimal load,
        IReadOnlyList<Drop> drops,
        decimal centre,
        string called,
        List<Remark> remarks
    )
    {
        var (first, second) = (drops[0].At.Millimetres, drops[1].At.Millimetres);
        var (low, high) = (Math.Min(first, second), Math.Max(first, second));
        if (centre <= low || centre >= high)
            remarks.Add(
                new(
                    LiftOutcome.NotPermitted,
                    $"The centre of gravity lies at or outside {called}: one goes slack and the load turns. Hang it between them."
                )
            );
        if (centre < low || centre > high)
            return null;
        var atLow = load * (high - centre) / (high - low);
        return first == low ? [atLow, load - atLow] : [load - atLow, atLow];
    }

    /// <summary>Says whether the load is taken hold of above its centre of gravity, as far as it is known.</summary>
    public static void TurnsOver(IReadOnlyList<Drop> drops, decimal centre, List<Remark> remarks)
    {
        var above = drops.Select(d => d.AboveCentre?.Millimetres).ToList();
        if (above.All(a => a <= 0) || HeightOverCentre(drops, centre) <= 0)
            Say(
                LiftOutcome.NotPermitted,
                "Slung at or below its centre of gravity the load turns over: take hold above it."
            );
        else if (above.Any(a => a is null))
            Say(LiftOutcome.Ok, "How high the picks stand over the centre of gravity is not said: take hold above it.");
        else if (above.Any(a => a <= 0))
            Say(LiftOutcome.Ok, "One pick stands at or below the centre of gravity: watch how the load hangs.");

        void Say(LiftOutcome outcome, string text) => remarks.Add(new(outcome, text));
    }

    /// <summary>
    /// How far the line through both picks runs above the centre of gravity, where it passes it: at or below it the load
    /// turns over about that line. Null where a height is not known, or there is one drop.
    /// </summary>
    private static decimal? HeightOverCentre(IReadOnlyList<Drop> drops, decimal centre)
    {
        if (drops is not [{ AboveCentre: { } first } one, { AboveCentre: { } second } other])
            return null;
        if (one.At > other.At)
            (one, other, first, second) = (other, one, second, first);
        var (low, high) = (one.At.Millimetres, other.At.Millimetres);

        // Outside the drops it is another fault, told where the pulls are.
        var at = Math.Clamp(centre, low, high);
        return first.Millimetres + ((second.Millimetres - first.Millimetres) * ((at - low) / (high - low)));
    }
}
