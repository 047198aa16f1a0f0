using Keralith.Core.Gear;
using Keralith.Core.Quantities;
using Keralith.Core.Tags;

namespace Keralith.Core.Lifts;

/// <summary>What a sling may carry here in one hitch at one angle.</summary>
/// <param name="Hitch">The hitch.</param>
/// <param name="Angle">The legs' angle from the horizontal.</param>
/// <param name="Load">The load; null where the hitch is not permitted so.</param>
/// <param name="Remark">What bears on it; null where nothing does.</param>
public sealed record HitchRating(Hitch Hitch, Angle Angle, Mass? Load, string? Remark);

/// <summary>The ratings of a sling by hitch and angle, from its marking as it counts here.</summary>
/// <param name="OneLeg">One leg, straight, as it counts here; null where the marking does not let it be worked out.</param>
/// <param name="Rows">By hitch and angle; empty where they can't be worked out.</param>
/// <param name="Why">How, or why not.</param>
public sealed record HitchRatings(Mass? OneLeg, IReadOnlyList<HitchRating> Rows, string Why)
{
    private static readonly Angle[] Angles = [new(60), new(45), new(30)];

    /// <summary>Ratings by hitch and angle. Never above the marking, whichever way the legs stand.</summary>
    /// <param name="gear">A sling or a kit; other gear has none.</param>
    /// <param name="here">Its rated load as it counts here, lasting heat taken off.</param>
    /// <param name="words">What the marking gives it for.</param>
    /// <param name="met">What it meets: heat takes its share while it lasts.</param>
    /// <param name="books">The books worked to.</param>
    public static HitchRatings? Of(
        GearPiece gear,
        RatedLoadHere here,
        TagWords words,
        Surroundings met,
        IReadOnlyList<RuleBook> books
    )
    {
        if (gear.Family.Group != FamilyGroup.Sling && gear.Family.Kind != GearKind.Kit)
            return null;
        var legs = gear.Legs;
        if (Stated(gear, words) is not { } stated)
            return new(
                null,
                [],
                "The marking's hitch or angle is not stated: enter it, and the other hitches are worked out."
            );
        if (stated.Hitch != Hitch.Vertical)
            return new(
                null,
                [],
                $"The marking gives a {Code.Of(stated.Hitch)} rating only: nothing more is worked out from it."
            );
        var share = HitchFactors.Share(legs);
        var one = here.Here.Kilograms / (legs == 1 ? 1 : share * HitchFactors.Sine(stated.Angle));
        var why =
            legs == 1
                ? "From the marking, one leg straight."
                : $"From the marking, {legs} legs at {stated.Angle}{(legs == 4 ? ", counted as three" : string.Empty)}.";
        if (gear.Family.Kind == GearKind.Chain && met.Hottest is { } hottest)
        {
            if (ChainHeat.At(gear, hottest) is not { } heat)
                return new(null, [], $"At {hottest} chain carries nothing: over 1000 F it is removed.");
            if (books.Any(b => b.HasChainHeat) && hottest.Degrees > new ScaledLimit(392, 200).On(hottest.Scale))
                return new(
                    null,
                    [],
                    $"At {hottest} a chosen book takes a share of its own: ask the maker or a qualified person."
                );
            var lasting = met.HasMet is { } hasMet ? ChainHeat.At(gear, hasMet)?.Lasting ?? 0 : 0;
            if (heat.WhileHot > lasting)
            {
                one = one * (1 - heat.WhileHot) / (1 - lasting);
                why += $" At {hottest} heat takes {QuantityFormat.Number(heat.WhileHot * 100)} % while it lasts.";
            }
        }

        var table = new Table(
            gear,
            Mass.FromKilograms(one).In(here.Marked.Unit),
            here.Here,
            stated.Angle,
            words,
            here,
            books
        );
        return new(table.One, table.Rows(), why);
    }

    /// <summary>
    /// What a kit carries by legs used, its weakest bearing member in each leg. The set's own rating is a ceiling at
    /// every angle: legs that hang flatter carry no more.
    /// </summary>
    /// <param name="oneLeg">One leg straight, as it counts here.</param>
    /// <param name="legs">Legs the kit can be made up with.</param>
    /// <param name="set">The set's own rating; null where it has none.</param>
    /// <param name="table">Its maker's own table, re-rated like a leg; it governs for the legs it names.</param>
    public static HitchRatings OfKit(Mass oneLeg, int legs, Mass? set, IReadOnlyList<LegTableRow>? table = null)
    {
        var rows = new List<HitchRating> { new(Hitch.Vertical, new(90), Ceiling(oneLeg), "1 leg") };
        if (table is { Count: > 0 })
        {
            rows.Clear();
            foreach (var row in table.Where(r => r.Legs <= legs).OrderBy(r => r.Legs).ThenByDescending(r => r.Angle))
            {
                // The legs share alike as the maker counts them; none of them carries more than its weakest member.
                var least = oneLeg * (row.Legs * HitchFactors.Sine(row.Angle));
                var load = row.Load < least ? row.Load : least;
                rows.Add(new(Hitch.Vertical, row.Angle, Ceiling(load), $"{row.Legs} legs, by {row.Source}"));
            }

            return new(oneLeg, rows, $"By its maker's table, {table[0].Source}: flatter than it names it is not used.");
        }

        for (var used = 2; used <= legs; used++)
        {
            foreach (var angle in Angles)
                rows.Add(
                    new(
                        Hitch.Vertical,
                        angle,
                        Ceiling(oneLeg * (HitchFactors.Share(used) * HitchFactors.Sine(angle))),
                        $"{used} legs{(used == 4 ? ", counted as three" : string.Empty)}"
                    )
                );
        }

        return new(oneLeg, rows, "From the weakest member of a leg that bears load.");

        Mass Ceiling(Mass load) => (set is { } most && most < load ? most : load).In(oneLeg.Unit);
    }

    /// <summary>
    /// The hitch and angle the rated load is marked for: stated, or plain where there is only one way to read it.
    /// </summary>
    internal static (Hitch Hitch, Angle Angle)? Stated(GearPiece gear, TagWords words) =>
        gear switch
        {
            { Family.Code: "metal-mesh-sling" } when words.Hitch is null => (Hitch.Basket, new(90)),
            { Legs: 1 } when words.Hitch is { } hitch => (hitch, words.Angle ?? new(90)),
            { Legs: > 1 } when words.Angle is { } angle && angle.Degrees >= HitchFactors.LeastAngle => (
                words.Hitch ?? Hitch.Vertical,
                angle
            ),
            _ => null,
        };

    private sealed record Table(
        GearPiece Gear,
        Mass One,
        Mass Cap,
        Angle CapAngle,
        TagWords Words,
        RatedLoadHere Here,
        IReadOnlyList<RuleBook> Books
    )
    {
        public List<HitchRating> Rows()
        {
            var rows = new List<HitchRating>();
            if (Gear.Legs == 1)
            {
                rows.Add(Row(Hitch.Vertical, new(90), One, null));
                if (HitchFactors.Choker(Gear.Family, Books) is { } choker)
                    rows.Add(Row(Hitch.Choker, new(90), One * choker, "angle of choke over 120 deg"));
                foreach (var angle in Angles.Prepend(new(90)))
                {
                    var times = HitchFactors.BasketBand(angle.Degrees, Books) is { } band
                        ? Math.Min(band, 2 * HitchFactors.Sine(angle))
                        : 2 * HitchFactors.Sine(angle);
                    rows.Add(Row(Hitch.Basket, angle, One * times, Bend()));
                }

                return rows;
            }

            rows.AddRange(Angles.Select(a => Row(Hitch.Vertical, a, Legs(a, 1), null)));
            if (HitchFactors.Choker(Gear.Family, Books) is { } choked)
            {
                rows.AddRange(
                    Angles.Select(a =>
                        a.Degrees < HitchFactors.LeastAngleOfChokedLegs
                            ? new HitchRating(
                                Hitch.Choker,
                                a,
                                null,
                                $"choked legs hang no flatter than {HitchFactors.LeastAngleOfChokedLegs:0} deg here"
                            )
                            : Row(Hitch.Choker, a, Legs(a, choked), "angle of choke over 120 deg")
                    )
                );
            }

            return rows;
        }

        private Mass Legs(Angle angle, decimal factor)
        {
            var times = HitchFactors.Share(Gear.Legs) * HitchFactors.Sine(angle);
            if (HitchFactors.Band(Gear.Legs, angle.Degrees, Books) is { } band && band < times)
                times = band;
            var load = One * (times * factor);
            return angle.Degrees >= CapAngle.Degrees && Cap * factor < load ? Cap * factor : load;
        }

        /// <summary>
        /// What is worked out, or what the marking itself gives for the hitch where that is less, re-rated like the
        /// rest.
        /// </summary>
        private HitchRating Row(Hitch hitch, Angle angle, Mass worked, string? remark)
        {
            var given = Words.Ratings.Where(r => r.Legs is null && r.Hitch == hitch).ToList();
            var row = given.Where(r => r.Angle is not { } least || least <= angle).MaxBy(r => r.Angle?.Degrees ?? 0);
            if (given.Count > 0 && row is null)
                return new(hitch, angle, null, "the marking gives no rating this flat");
            var least =
                row is { } marked
                && marked.Load * (Here.Here.Kilograms / Here.Marked.Kilograms) is var re
                && re < worked
                    ? re
                    : worked;
            return new(hitch, angle, least.In(Here.Marked.Unit), remark);
        }

        private string? Bend() =>
            Gear.Family.Kind switch
            {
                GearKind.WireRope => "round a bend of 25 rope diameters and over",
                GearKind.Chain => "round a bend of 6 chain diameters and over",
                GearKind.FiberRope => "round a bend of 8 rope diameters and over",
                _ => null,
            };
    }
}
