using Keralith.Core.Quantities;

namespace Keralith.Core.Lifts;

/// <summary>What the gear of a plan weighs itself: whatever hangs above sees it.</summary>
/// <param name="Rigging">Of all that hangs in the legs, as far as it is known; what was typed, where that is more.</param>
/// <param name="Above">Of each piece above the legs, from the top; null where it is not known.</param>
/// <param name="Unknown">The pieces whose weight nobody knows, in words.</param>
internal sealed record OwnWeights(Mass Rigging, IReadOnlyList<Mass?> Above, IReadOnlyList<string> Unknown)
{
    /// <summary>Sums up a plan's gear.</summary>
    /// <param name="inLegs">The pieces in the legs, each with how many of it hang there.</param>
    /// <param name="above">The pieces above, from the top.</param>
    /// <param name="typed">The rigging's weight as somebody wrote it: it replaces the sum where it is larger.</param>
    public static OwnWeights Of(
        IEnumerable<(LiftGear Gear, int Count)> inLegs,
        IReadOnlyList<LiftGear> above,
        Mass? typed
    )
    {
        var sum = 0m;
        var unknown = new List<string>();
        foreach (var (gear, count) in inLegs)
        {
            if (Known(gear) is { } own)
                sum += own.Kilograms * count;
            else
                unknown.Add(gear.ToString());
        }

        // Somebody who weighed the rigging knows it as a whole.
        if (typed is { } whole && whole.Kilograms >= sum)
        {
            sum = whole.Kilograms;
            unknown.Clear();
        }

        var weights = above.Select(Known).ToList();

        // The topmost hangs below nothing of the plan.
        unknown.AddRange(above.Zip(weights).Skip(1).Where(a => a.Second is null).Select(a => a.First.ToString()));
        return new(Mass.FromKilograms(sum), weights, unknown);
    }

    private static Mass? Known(LiftGear gear) => gear.Gear.Mass("ownWeight");
}
