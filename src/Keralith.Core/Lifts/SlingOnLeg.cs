using Keralith.Core.Gear;
using Keralith.Core.Quantities;
using Keralith.Core.Tags;

namespace Keralith.Core.Lifts;

/// <summary>Where a leg stands.</summary>
/// <param name="Legs">How many legs there are.</param>
/// <param name="Angle">Its angle from the horizontal, over 0 to 90 degrees.</param>
/// <param name="Share">How many legs count; null on a geometry, where each leg has its own pull.</param>
/// <param name="Banded">Whether a book of bands rates it by them; drops below a beam hang each by itself.</param>
internal sealed record LegStand(int Legs, Angle Angle, int? Share, bool Banded = true);

/// <summary>
/// What one leg's sling may carry (ASME B30.9): its rated load re-rated by the books, less what heat takes, in its
/// hitch, within its tag's own table.
/// </summary>
internal static class SlingOnLeg
{
    /// <param name="rigging">How the leg is rigged.</param>
    /// <param name="demand">What is asked of it, in kilograms; null where a leg would have to push.</param>
    /// <param name="stand">Where it stands.</param>
    /// <param name="temperature">At the load end; null: ordinary.</param>
    /// <param name="books">The books worked to.</param>
    public static PieceOnLift Judge(
        LegRigging rigging,
        decimal? demand,
        LegStand stand,
        Temperature? temperature,
        IReadOnlyList<RuleBook> books
    )
    {
        var (sling, family) = (rigging.Sling, rigging.Sling.Gear.Family);
        var piece = new PieceJudgement(family.Code, rigging.Crossed ? demand * 2 : demand);
        if (rigging.Crossed)
            piece.Note(LiftOutcome.Ok, "slings cross under the load: twice the tension is taken");
        piece.Rated(sling.RatedLoad, sling.WhyUnrated);
        Made(piece, sling.Gear, books);
        Usual(piece, sling);
        var before = piece.Allowed;
        Rerated(piece, sling, books);
        Heat(piece, sling, temperature, books);

        // Wire rope loses to the sharper of bend and edge, not to both.
        var edge = rigging.Edge is { } met ? EdgeOnSling.Factor(piece, sling, met) : 1;
        var bend =
            family.Kind == GearKind.WireRope && rigging is { Hitch: Hitch.Basket, BendRatio: { } round }
                ? HitchFactors.Bend(family, round)
                : null;

        // Section by section the tag's own ratings are reduced like the straight one.
        var kept = before is > 0 && piece.Allowed is { } now ? now / before.Value : 1;
        switch (rigging.Hitch)
        {
            case Hitch.Choker or Hitch.Basket when family.Kind == GearKind.Net:
                piece.Forbid("a net carries its load once, hung by all its loops: never choked, never doubled");
                break;
            case Hitch.Vertical:
                break;
            case Hitch.Choker:
                Choked(piece, rigging, kept, books);
                break;
            case Hitch.Basket:
                Basket(piece, rigging, kept, stand, books, bendCounts: !(edge < bend));
                break;
            default:
                throw new ArgumentOutOfRangeException(nameof(rigging), rigging.Hitch, "No such hitch.");
        }

        if (sling.LegTable.Count > 0)
            ByMakersTable(piece, rigging, kept, stand);
        if (stand.Share is { } share)
            AsSeveral(piece, rigging, kept, stand, share, books);
        if (edge is { } left && !(bend <= left))
            piece.Reduce("edge", left);
        if (rigging.Reeved)
            piece.Note(
                LiftOutcome.NotPermitted,
                "one sling passed through two points pulls them together and runs: a sling of its own for each"
            );
        return piece.Done();
    }

    /// <summary>What rules a sling out as it is made.</summary>
    private static void Made(PieceJudgement piece, GearPiece gear, IReadOnlyList<RuleBook> books)
    {
        if (gear.Family.NotForLifting)
            piece.Forbid("it is not made for lifting");
        if (gear.IsLangLay)
            piece.Forbid("lang-lay rope is not for slings");
        if (gear.Family.Kind == GearKind.Chain)
            Graded(piece, gear);
        if (gear.Text("termination") == "clips")
            ComponentOnLift.ClipEye(piece, books);
    }

    /// <summary>Chain is alloy by its mark or it is not lifted with; a mark that names no grade is asked about.</summary>
    private static void Graded(PieceJudgement piece, GearPiece gear)
    {
        switch (gear.ChainGrade?.Kind)
        {
            case ChainKind.Alloy:
                break;
            case ChainKind.NotForLifting or ChainKind.Unreadable:
                piece.Forbid($"only alloy chain of grade {ChainGrade.Least} and over is for overhead lifting");
                break;
            case ChainKind.AlloyOfUnknownGrade:
                piece.Note(
                    LiftOutcome.Ask,
                    $"the mark {gear.Text("grade")} says alloy and not which grade: ask the maker"
                );
                break;
            case null:
                piece.Note(LiftOutcome.Ask, "its grade is not stated: look for the mark along the chain");
                break;
        }
    }

    /// <summary>One leg's rated load against what its size usually carries: chain and wire rope have a figure for it.</summary>
    private static void Usual(PieceJudgement piece, LiftSling sling)
    {
        if (sling.RatedLoad is not { } marked || UsualRating.OneLeg(sling.Gear) is not { } usual || !usual.Asks(marked))
            return;
        var words =
            $"marked {marked}, where one leg of this size usually carries {QuantityFormat.Rounded(usual.Load, marked.Unit)}: tag or size misread?";
        if (usual.Refuses(marked))
            piece.Forbid(words);
        else if (sling.RatingPaper is { } paper)
            piece.Note(LiftOutcome.Ok, $"{words} Its maker's paper states it: {paper}");
        else
            piece.Note(LiftOutcome.Ask, words);
    }

    private static void Rerated(PieceJudgement piece, LiftSling sling, IReadOnlyList<RuleBook> books)
    {
        if (sling.RatedLoad is not { } marked)
            return;
        var here = RatedLoadHere.For(sling.Gear.Family, marked, sling.DesignFactor, books);
        if (here.FactorAssumed)
            piece.Note(
                LiftOutcome.Ok,
                $"its marking names no design factor: {QuantityFormat.Number(here.MarkedFactor!.Value)}:1 is assumed"
            );
        if (here is not { IsReduced: true, MarkedFactor: { } at, RequiredFactor: { } required })
            return;
        piece.Note(
            LiftOutcome.Ok,
            $"marked {marked} at {QuantityFormat.Number(at)}:1, {QuantityFormat.Rounded(here.Here, marked.Unit)} here at {QuantityFormat.Number(required)}:1 ({RuleBookShelf.NameOf(here.Book!)})"
        );
        piece.Reduce("design factor", at / required);
    }

    private static void Heat(
        PieceJudgement piece,
        LiftSling sling,
        Temperature? temperature,
        IReadOnlyList<RuleBook> books
    )
    {
        var gear = sling.Gear;
        if (gear.Family.Kind == GearKind.Chain)
        {
            if (ChainHeat.Loss(gear, temperature, sling.Hottest, books) is not { } loss)
            {
                piece.Forbid(
                    sling.Hottest is { } met && ChainHeat.At(gear, met) is null
                        ? $"it has met {met}: chain heated over 1000 F (538 C) is out for good"
                        : $"at {temperature} chain carries nothing"
                );
                return;
            }

            piece.Reduce("temperature", 1 - loss);
            foreach (
                var hot in new[] { temperature, sling.Hottest }
                    .OfType<Temperature>()
                    .Where(t => ChainHeat.AsksGrade(gear, t))
                    .Take(1)
            )
            {
                piece.Note(
                    LiftOutcome.Ask,
                    $"at {hot} its grade has no row of its own: taken as grade 100, ask the maker"
                );
            }

            if (temperature is { } cold && OperatingTemperatures.IsBelow(gear, books, cold))
                piece.Note(LiftOutcome.Ask, $"{cold} is below its limit: ask the maker or a qualified person");
            return;
        }

        if (sling.Hottest is { } hottest && OperatingTemperatures.IsOutForGood(gear, hottest, books))
            piece.Forbid($"it has met {hottest}: fiber-core rope heated above 200 F (93 C) is out for good");
        foreach (var (met, when) in new[] { (temperature, "the load's"), (sling.Hottest, "once met:") })
        {
            if (met is { } degrees)
                ComponentOnLift.Works(piece, gear, degrees, when, books);
        }
    }

    private static void Choked(PieceJudgement piece, LegRigging rigging, decimal kept, IReadOnlyList<RuleBook> books)
    {
        var (family, sling) = (rigging.Sling.Gear.Family, rigging.Sling);
        if (HitchFactors.Choker(family, books, rigging.Contact) is not { } share)
        {
            piece.Forbid("this kind is not choked");
            return;
        }

        if (piece.Allowed is { } straight)
        {
            var choked = straight * share;
            if (sling.ChokerRating is { } marked)
            {
                choked = books.Min(b =>
                    HitchFactors.OwnChoker(b, family, rigging.Contact) is { } own
                        ? Math.Min(marked.Kilograms * kept, straight * own)
                        : marked.Kilograms * kept
                );
                choked = Math.Min(choked, straight);
            }

            piece.Bring("choker", choked);
        }

        if (rigging.ChokeAngle is null)
            piece.Note(LiftOutcome.Ask, "the angle of choke is not known: computed with the lowest row; measure it");
        if (HitchFactors.AngleOfChoke(family, rigging.ChokeAngle) is { } tight)
            piece.Reduce("angle of choke", tight);
        else if (rigging.ChokeAngle is { } angle)
            piece.Note(
                LiftOutcome.Ask,
                $"no table says what an angle of choke of {angle} takes from this kind: ask the maker"
            );
        piece.Note(LiftOutcome.Ok, "choke on the body of the sling, pulled tight before the lift, not hammered");
    }

    /// <summary>What a bend brings with it, round a pin or load, or over an edge.</summary>
    /// <param name="piece">What the remarks go on.</param>
    /// <param name="family">The sling's family.</param>
    /// <param name="ratio">What it is bent round over its own diameter.</param>
    /// <returns>What the table leaves of it; null where it must not be used.</returns>
    internal static decimal? Bent(PieceJudgement piece, GearFamily family, decimal ratio)
    {
        var said = $"{QuantityFormat.Number(QuantityFormat.Round(ratio, 4))} of its own diameters";
        if (HitchFactors.Bend(family, ratio) is not { } left)
        {
            piece.Forbid($"bent round {said} it must not be used: a larger pin or a softener");
            return null;
        }

        var asks = family.Kind switch
        {
            GearKind.WireRope => ratio < 5,
            GearKind.FiberRope => ratio < 8,
            _ => false,
        };
        if (asks)
            piece.Note(LiftOutcome.Ask, $"a bend round {said}: ask the maker");
        else if (family.Kind == GearKind.WireRope && ratio < 25)
            piece.Note(LiftOutcome.Caution, $"a bend round {said} shortens the rope's life");
        return left;
    }

    /// <param name="bendCounts">Whether the bend takes its share: an edge may take more.</param>
    private static void Basket(
        PieceJudgement piece,
        LegRigging rigging,
        decimal kept,
        LegStand stand,
        IReadOnlyList<RuleBook> books,
        bool bendCounts
    )
    {
        var family = rigging.Sling.Gear.Family;
        if (rigging.BendRatio is not { } ratio)
        {
            if (HitchFactors.AsksBend(family))
                piece.Note(
                    LiftOutcome.Ask,
                    "what it is bent round (D/d) is not known: nothing is taken off for it; measure it"
                );
        }
        else if (Bent(piece, family, ratio) is { } left && bendCounts)
            piece.Reduce("bend", left);

        if (piece.Allowed is not { } straight)
            return;
        var sine = HitchFactors.Sine(stand.Angle);
        var bent =
            rigging.Sling.RatedLoad is { } rated && rated.Kilograms > 0 ? straight / (rated.Kilograms * kept) : 1;
        var both = 2 * straight * sine;
        if (rigging.Sling.BasketRating is { } marked)
        {
            // A basket never carries more than both its parts hanging straight, whatever is marked.
            var most = marked.Kilograms * kept * bent * sine;
            if (most > both)
                piece.Note(
                    LiftOutcome.Ok,
                    $"its marking gives {marked} in a basket, over twice its straight rating: twice is taken"
                );
            both = Math.Min(both, most);
        }

        // One basket under a book of bands carries the band; of several books the least counts.
        if (stand is { Legs: 1, Banded: true } && HitchFactors.BasketBand(stand.Angle.Degrees, books) is { } band)
        {
            both =
                books.All(b => b.HasBands) && rigging.Sling.BasketRating is null
                    ? straight * band
                    : Math.Min(both, straight * band);
        }

        piece.Bring("basket", both);
    }

    /// <summary>What several legs at one angle carry: a book's bands, and the tag's own table.</summary>
    private static void AsSeveral(
        PieceJudgement piece,
        LegRigging rigging,
        decimal kept,
        LegStand stand,
        int share,
        IReadOnlyList<RuleBook> books
    )
    {
        var sine = HitchFactors.Sine(stand.Angle);
        if (HitchFactors.Band(stand.Legs, stand.Angle.Degrees, books) is { } band)
            piece.Reduce("band", Math.Min(1, Figures.Ratio(band, share * sine)));
        if (rigging.Sling.Ceiling is { } whole && whole.Hitch == rigging.Hitch && whole.Angle <= stand.Angle)
            Cap(piece, rigging, kept, share, sine, whole);
        var table = rigging.Sling.TagTable;
        if (table.Count == 0)
            return;
        if (
            table.Where(r => r.Hitch == rigging.Hitch && r.Angle <= stand.Angle).MaxBy(r => r.Angle.Degrees)
            is not { } row
        )
        {
            piece.Forbid($"its tag's table gives no {Code.Of(rigging.Hitch)} rating at {stand.Angle}");
            return;
        }

        Cap(piece, rigging, kept, share, sine, row);
    }

    /// <summary>
    /// A kit whose maker rates it by legs used: the table governs in place of counting four legs as three; no leg
    /// carries more than its weakest member.
    /// </summary>
    private static void ByMakersTable(PieceJudgement piece, LegRigging rigging, decimal kept, LegStand stand)
    {
        var table = rigging.Sling.LegTable;
        if (rigging.Hitch != Hitch.Vertical)
        {
            piece.Forbid($"its maker's table, {table[0].Source}, rates it straight only");
            return;
        }

        if (table.Where(r => r.Legs == stand.Legs && r.Angle <= stand.Angle).MaxBy(r => r.Angle) is not { } row)
        {
            var legs = stand.Legs == 1 ? "1 leg" : $"{stand.Legs} legs";
            piece.Forbid($"its maker's table, {table[0].Source}, gives nothing for {legs} at {stand.Angle}");
            return;
        }

        if (piece.Allowed is not { } member)
            return;
        var sine = HitchFactors.Sine(stand.Angle);

        // Each leg's part of the load, along the leg; four legs counted as three are pulled as if one were slack.
        var counted = stand.Share ?? stand.Legs;
        var most = stand is { Legs: 4, Share: 3 } ? Figures.Ratio(member * stand.Legs, counted) : member;
        piece.Bring("maker's table", Math.Min(most, Figures.Ratio(row.Load.Kilograms * kept, counted * sine)));
        piece.Note(
            LiftOutcome.Ok,
            $"by its maker's table, {row.Source}: {row.Load} by {row.Legs} legs at {row.Angle} and over"
        );
    }

    private static void Cap(
        PieceJudgement piece,
        LegRigging rigging,
        decimal kept,
        int share,
        decimal sine,
        TagTableRow row
    )
    {
        var cap = Figures.Ratio(row.Load.Kilograms * kept, rigging.Hitch == Hitch.Basket ? share : share * sine);
        if (piece.Allowed is not { } allowed || cap >= allowed)
            return;
        piece.Note(LiftOutcome.Ok, $"its tag's own figure for {row.Angle} and over is a ceiling");
        piece.Bring("tag table", cap);
    }
}
