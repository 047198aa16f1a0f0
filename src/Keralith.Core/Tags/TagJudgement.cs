using Keralith.Core.Gear;
using Keralith.Core.Quantities;

namespace Keralith.Core.Tags;

/// <summary>One thing a marking's transcription comes to.</summary>
/// <param name="Check">What was checked, in a word or two.</param>
/// <param name="Outcome">Clear, hold or remove.</param>
/// <param name="Words">In words.</param>
/// <param name="Criterion">The question it bears on: it can't be answered "no fault" while this is against it.</param>
/// <param name="StopsUse">Whether gear accepted before is stopped by it at once, or only its next inspection.</param>
public sealed record TagRemark(
    string Check,
    Outcome Outcome,
    string Words,
    string Criterion = TagVerdict.Complete,
    bool StopsUse = true
);

/// <summary>The judgement of a marking's transcription.</summary>
/// <param name="Here">The rated load as it counts here; null when none is marked.</param>
/// <param name="Remarks">Everything checked, in order.</param>
public sealed record TagVerdict(RatedLoadHere? Here, IReadOnlyList<TagRemark> Remarks)
{
    /// <summary>The question most of it bears on.</summary>
    public const string Complete = "id.tag-complete";

    /// <summary>An answer, never better than the transcription allows.</summary>
    /// <param name="criterion">The id of the question.</param>
    /// <param name="given">What the inspector answered.</param>
    public Found AtBest(string criterion, Found given) =>
        given == Found.No && Remarks.Any(r => r.Criterion == criterion && r.Outcome > Outcome.Watch)
            ? Found.Yes
            : given;

    /// <summary>The worst of the remarks.</summary>
    public Outcome Outcome => Remarks.Count == 0 ? Outcome.Clear : Remarks.Max(r => r.Outcome);

    /// <summary>What is against it, in words.</summary>
    public IEnumerable<string> Against => Remarks.Where(r => r.Outcome > Outcome.Watch).Select(r => r.Words);

    /// <summary>What of it stops gear that was accepted before, beside a rated load that is not known.</summary>
    public IEnumerable<string> AgainstUse =>
        Stopping.Where(r => r.Check != TagJudgement.RatedLoadCheck).Select(r => r.Words);

    /// <summary>What of it stops gear that was accepted before.</summary>
    public IEnumerable<TagRemark> Stopping => Remarks.Where(r => r is { Outcome: > Outcome.Watch, StopsUse: true });
}

/// <summary>
/// Judges what a marking says: whether it is complete, what its rated load counts for here, whether rating, size and
/// colour agree,
/// and whether the material stands what it meets. Whatever can't be decided is held.
/// </summary>
public static class TagJudgement
{
    /// <summary>The check of a rated load that can't be read.</summary>
    public const string RatedLoadCheck = "rated load";

    public static TagVerdict Of(TagTranscription tag, Surroundings met, IReadOnlyList<RuleBook> books)
    {
        var remarks = new List<TagRemark>();
        var missing = tag.Missing.Select(e => e.Name).ToList();
        remarks.Add(
            !tag.IsRead
                ? new(
                    "entries",
                    Outcome.Hold,
                    "Nobody has read the marking yet: enter what it says before it is inspected.",
                    StopsUse: false
                )
            : missing.Count == 0 ? new("entries", Outcome.Clear, "The marking carries every entry it must.")
            : new("entries", Outcome.Hold, $"The marking does not carry: {string.Join(", ", missing)}.")
        );

        if (tag.Legibility == Legibility.Unreadable)
            remarks.Add(new("legibility", Outcome.Hold, "The marking can't be read in full.", "id.marking"));

        var here = Rated(tag, met, books, remarks);
        if (tag.RatedLoad is { } marked)
        {
            SizeGuide(tag, marked, remarks);
            if (UsualRating.Above(tag.Gear, marked) is { } above)
                remarks.Add(Papered(tag, "rating and size", $"It is {above.Words}", above.Refused));
            if (RatingByHitch.Against(tag.Gear, tag.Words, marked) is { } never)
                remarks.Add(new("rating by hitch", Outcome.Hold, never));
            Colour(tag.Gear, marked, remarks);
        }

        if (Grade(tag.Gear) is { } unclear)
            remarks.Add(new("grade", Outcome.Hold, unclear));

        if (RopeClips.Against(tag.Gear) is { } fewer)
            remarks.Add(new("clips", Outcome.Hold, fewer));

        foreach (var chemical in met.Chemicals)
        {
            var (ruledOut, words) = Materials.Against(tag.Gear, chemical, books);
            remarks.Add(ruledOut ? new("chemicals", Outcome.Hold, words) : Asked("chemicals", words, met));
        }

        Works(tag.Gear, met, books, remarks);
        HasMet(tag.Gear, met, books, remarks);
        return new(here, remarks);
    }

    private static RatedLoadHere? Rated(
        TagTranscription tag,
        Surroundings met,
        IReadOnlyList<RuleBook> books,
        List<TagRemark> remarks
    )
    {
        if (tag.RatedLoad is not { } marked)
        {
            remarks.Add(new(RatedLoadCheck, Outcome.Hold, "No rated load can be read: no rated load, no use."));
            return null;
        }

        var here = RatedLoadHere.For(tag.Gear.Family, marked, tag.DesignFactor, books);
        var assumed = here.FactorAssumed
            ? " The marking names no design factor; the family's usual one is taken."
            : string.Empty;
        remarks.Add(
            new(
                "design factor",
                Outcome.Clear,
                here.IsReduced
                    ? $"Marked {Load(marked, marked.Unit)} at {Number(here.MarkedFactor)}:1, {Load(here.Here, marked.Unit)} here at {Number(here.RequiredFactor)}:1 ({RuleBookShelf.NameOf(here.Book!)}).{assumed}"
                    : $"{Load(marked, marked.Unit)} counts here as marked.{assumed}"
            )
        );
        if (
            tag.Gear.Family.Kind != GearKind.Chain
            || met.HasMet is not { } hottest
            || ChainHeat.At(tag.Gear, hottest) is not { Lasting: > 0 } heat
        )
            return here;

        // Heat takes its share of the load as it counts here, for good.
        var left = Mass.FromKilograms(here.Here.Kilograms * (1 - heat.Lasting)).In(marked.Unit);
        remarks.Add(
            new(
                "heat",
                Outcome.Clear,
                $"It has met {hottest}, which takes {Number(heat.Lasting * 100)} % for good: {Load(left, marked.Unit)} is left."
            )
        );
        return here with { Here = left };
    }

    /// <summary>What of a chain's grade mark is not known; null where it is, or nobody has stated it.</summary>
    private static string? Grade(GearPiece gear) =>
        gear.ChainGrade?.Kind switch
        {
            ChainKind.AlloyOfUnknownGrade =>
                $"The mark \"{gear.Text("grade")}\" says alloy and not which grade: ask the maker, and enter the grade.",
            ChainKind.Unreadable =>
                $"\"{gear.Text("grade")}\" is no grade mark of chain: read it again, and enter the mark alone.",
            _ => null,
        };

    /// <summary>Held, unless a maker's paper states it; what no gear of the size carries is held whatever a paper says.</summary>
    private static TagRemark Papered(TagTranscription tag, string check, string words, bool never = false) =>
        tag.RatingPaper is { } paper && !never
            ? new(check, Outcome.Watch, $"{words} Its maker's paper states it: {paper}.")
            : new(check, Outcome.Hold, words);

    private static void SizeGuide(TagTranscription tag, Mass marked, List<TagRemark> remarks)
    {
        var gear = tag.Gear;
        if (gear.Family.Kind != GearKind.Chain || gear.Size is not { } size)
            return;
        const string Check = "size and grade";
        if (gear.Legs > 1)
            remarks.Add(
                new(
                    Check,
                    Outcome.Clear,
                    "Rating against size not checked: a sling of several legs is rated at an angle."
                )
            );
        else if (ChainSizeGuide.Of(size, gear.ChainGrade) is not { } usual)
            remarks.Add(
                new(
                    Check,
                    Outcome.Clear,
                    "Rating against size not checked: the guide has no row for this size and grade."
                )
            );
        else if (ChainSizeGuide.IsOver(marked, usual))
            remarks.Add(
                Papered(
                    tag,
                    Check,
                    $"Marked {Load(marked, marked.Unit)}, where one leg of {size} grade {gear.ChainGrade?.Number} chain usually carries {Load(usual, marked.Unit)}: tag or size misread?"
                )
            );
        else
            remarks.Add(
                new(
                    Check,
                    Outcome.Clear,
                    $"Agrees with what one leg of this size and grade usually carries, {Load(usual, marked.Unit)}."
                )
            );
    }

    private static void Colour(GearPiece gear, Mass marked, List<TagRemark> remarks)
    {
        if (gear.Family.Kind is not (GearKind.Web or GearKind.Roundsling) || gear.Text("colour") is not { } colour)
            return;
        remarks.Add(
            CapacityColours.Agrees(colour, marked) switch
            {
                true => new(
                    "capacity colour",
                    Outcome.Clear,
                    $"The colour {colour} agrees with the tag. The tag governs."
                ),
                false => new(
                    "capacity colour",
                    Outcome.Hold,
                    $"The colour {colour} stands for {Number(CapacityColours.TonnesOf(colour))} t; the tag says {Load(marked, marked.Unit)}. The tag governs, and somebody must say which is wrong."
                ),
                null => new(
                    "capacity colour",
                    Outcome.Clear,
                    $"The colour {colour} stands for no capacity; only the tag counts."
                ),
            }
        );
    }

    private static void Works(GearPiece gear, Surroundings met, IReadOnlyList<RuleBook> books, List<TagRemark> remarks)
    {
        foreach (var temperature in new[] { met.Coldest, met.Hottest }.OfType<Temperature>())
        {
            const string Check = "temperature";
            if (OperatingTemperatures.Of(gear, books) is not { } limits)
                remarks.Add(
                    Asked(
                        Check,
                        $"It works at {temperature}, and no table has a row for this gear as stated: ask the maker.",
                        met
                    )
                );
            else if (limits.Exceeded(temperature))
                remarks.Add(
                    Asked(
                        Check,
                        $"It works at {temperature}, outside {limits}: ask the maker or a qualified person.",
                        met
                    )
                );
            else
                remarks.Add(new(Check, Outcome.Clear, $"{temperature} lies within {limits}."));
        }
    }

    private static void HasMet(GearPiece gear, Surroundings met, IReadOnlyList<RuleBook> books, List<TagRemark> remarks)
    {
        if (met.HasMet is not { } hottest)
            return;
        const string Check = "hottest met";
        if (gear.Family.Kind == GearKind.Chain)
        {
            if (ChainHeat.At(gear, hottest) is null)
                remarks.Add(
                    new(
                        Check,
                        Outcome.Remove,
                        $"It has met {hottest}: chain heated over 1000 F (538 C) is out for good.",
                        "chain.heat"
                    )
                );
        }
        else if (OperatingTemperatures.IsOutForGood(gear, hottest, books))
        {
            remarks.Add(
                new(
                    Check,
                    Outcome.Remove,
                    $"It has met {hottest}: fiber-core rope heated above 200 F (93 C) is out for good{(gear.Text("core") is null ? "; its core isn't stated" : string.Empty)}.",
                    "rope.heat"
                )
            );
        }
        else if (OperatingTemperatures.Of(gear, books) is not { } limits || limits.Exceeded(hottest))
        {
            remarks.Add(
                Asked(Check, $"It has met {hottest}: ask the maker or a qualified person before it is used.", met)
            );
        }
    }

    /// <summary>Held until the maker has been asked; watched once a qualified person has entered what the maker said.</summary>
    private static TagRemark Asked(string check, string words, Surroundings met) =>
        met.MakersWord is { } word
            ? new(check, Outcome.Watch, $"{words} The maker, asked: {word.TrimEnd('.')}.")
            : new(check, Outcome.Hold, words);

    private static string Load(Mass mass, MassUnit unit) => QuantityFormat.Rounded(mass, unit);

    private static string Number(decimal? number) => QuantityFormat.Number(number ?? 0);
}
