using Keralith.Core.Custody;
using Keralith.Core.Gear;
using Keralith.Core.Judgement;
using Keralith.Core.Ledger;
using Keralith.Core.People;
using Keralith.Core.Schedule;
using Keralith.Core.Sites;
using Keralith.Core.Tags;

namespace Keralith.Core.Register;

/// <summary>A part that was replaced, as it is entered.</summary>
/// <param name="Part">The part's path.</param>
/// <param name="What">What was replaced: hook, latch, pin.</param>
/// <param name="FittedBy">Who fitted it.</param>
/// <param name="Reason">Why.</param>
/// <param name="Figures">The new part's figures when new.</param>
public sealed record NewPart(
    string Part,
    string? What,
    string? FittedBy,
    string? Reason,
    IReadOnlyDictionary<BaselineKey, BaselineFigure> Figures
);

/// <summary>By what one piece would be taken for another.</summary>
public enum LikenessOf
{
    /// <summary>Its mark looks like another's.</summary>
    Mark,

    /// <summary>Its mark is another's serial or further code.</summary>
    SerialOrCode,

    /// <summary>Its serial is another's mark.</summary>
    OthersMark,

    /// <summary>Another of the same maker has the same serial.</summary>
    MakerAndSerial,
}

/// <summary>A piece on record that one to be entered would be taken for.</summary>
/// <param name="Entered">The mark that is entered.</param>
/// <param name="Mark">The mark of the piece on record.</param>
public sealed record Likeness(string Entered, LikenessOf Of, string Mark);

/// <summary>What accepting the report of gear taken over looks at.</summary>
/// <param name="Piece">The piece.</param>
/// <param name="Site">Where it is judged.</param>
/// <param name="File">The report's file; null: none is attached.</param>
/// <param name="Baselines">Its figures when new.</param>
/// <param name="Authorisations">What whoever accepts is authorised to sign for.</param>
public sealed record TakeOverFacts(
    Piece Piece,
    Site Site,
    Guid? File,
    IReadOnlyDictionary<BaselineKey, BaselineFigure> Baselines,
    IReadOnlyList<Authorisation> Authorisations
);

/// <summary>
/// What is done to the register: gear entered, its figures filled in, a part of it replaced, its report
/// accepted.
/// </summary>
public static class RegisterActs
{
    /// <summary>Why a piece can't be entered; null when it can.</summary>
    public static Refusal? RefusalToEnter(PieceEntry entry, Signer by) =>
        by.Without(Right.Register)
        ?? Invalid(
            PieceEntry.RefusalOf([.. entry.Baselines.Values], by.Roles)
                ?? entry.Surroundings.RefusalOf(Surroundings.Ordinary, by.Roles)
                ?? entry.Details.RefusalToFree(PieceDetails.None, by.Roles)
                ?? entry.RefusalOn(by.Day)
        )
        ?? Plausible.RefusalOf(entry);

    /// <summary>Why a mark can't be given; null when it can.</summary>
    /// <param name="taken">The state of the piece that has it; null: nobody has.</param>
    public static Refusal? RefusalOfMark(string mark, PieceState? taken) =>
        taken is not { } state ? null
        : state.IsRetired()
            ? new Refusal(
                $"{mark} was {Code.Of(state)}. The mark of a retired piece is never used again: choose another."
            )
        : new Refusal($"{mark} is registered already. Every piece has a mark of its own: choose another.");

    /// <summary>Why a piece can't be entered beside one on record that it would be taken for; null when it can.</summary>
    /// <param name="entry">What is entered.</param>
    /// <param name="like">What on record it would be taken for.</param>
    public static Refusal? RefusalOfLikeness(PieceEntry entry, Likeness like, Signer by) =>
        like.Of switch
        {
            LikenessOf.Mark => new Refusal(
                $"{like.Mark} is registered, and {entry.Mark} looks the same: choose a mark nobody takes for it."
            ),
            LikenessOf.SerialOrCode => new Refusal(
                $"{entry.Mark} is a serial or a further code of {like.Mark}: scanned, it would lead there. Choose another mark."
            ),
            LikenessOf.OthersMark => new Refusal(
                $"The serial {entry.Serial} is the mark of {like.Mark}: scanned, it would lead there. Read it again."
            ),
            LikenessOf.MakerAndSerial => by.Without(
                Right.ChangeFigures,
                $"Serial {entry.Serial} of {entry.Maker} is {like.Mark} already: misread, or registered twice? Where both carry it, a qualified person enters it."
            ),
        };

    /// <summary>Records that a part was replaced: new figures begin, and the piece is held until it is inspected.</summary>
    public static Checked<PieceOutcome> ReplacePart(Piece piece, NewPart given, Signer by)
    {
        if (by.Without(Right.Retag) is { } forbidden)
            return forbidden;
        if (string.IsNullOrWhiteSpace(given.What))
            return new Refusal("Write what was replaced: hook, latch, pin.");
        if (string.IsNullOrWhiteSpace(given.FittedBy))
            return new Refusal("Write who fitted it: the maker or a qualified shop. There is no field repair.");
        if (string.IsNullOrWhiteSpace(given.Reason))
            return new Refusal("Write why it was replaced.");
        if (Catalogue.Parts(piece.Gear, RuleBookShelf.All).All(p => p.Path != given.Part))
            return new Refusal("Choose the part.");
        var refused = PieceEntry.RefusalOf([.. given.Figures.Values], by.Roles)
            ?? PieceEntry.RefusalOfNewPart(piece.Gear, given.Part, [.. given.Figures.Keys]);
        if (refused is not null)
            return new Refusal(refused);
        var what = given.What.Trim();
        var figures = given
            .Figures.Select(f => new RecordedFigure(f.Key.Part, f.Key.Criterion, f.Value.Length.ToString()))
            .ToList();
        return Cage.On(
            piece.State,
            new NewHold(
                HoldCause.Event,
                $"Part replaced: {what} ({given.Part}). Proof test where it bears load, and inspect, before it is used"
            ),
            new PartReplaced(given.Part, what, given.FittedBy.Trim(), given.Reason.Trim(), figures)
        );
    }

    /// <summary>
    /// A piece taken out of a lot, as it is entered under its own mark: what was measured new on one of the lot is a
    /// twin's for this one.
    /// </summary>
    /// <param name="figures">The lot's figures when new.</param>
    /// <returns>What is entered, and the provisional figures that go with it: they were accepted for all of the lot.</returns>
    public static (PieceEntry Entry, Dictionary<BaselineKey, BaselineFigure> Provisional) OutOfLot(
        Piece lot,
        Mark mark,
        IReadOnlyDictionary<BaselineKey, BaselineFigure> figures
    )
    {
        var own = figures.ToDictionary(
            f => f.Key,
            f => f.Value.Basis == BaselineBasis.New ? f.Value with { Basis = BaselineBasis.Twin } : f.Value
        );
        var provisional = own.Where(f => f.Value.Basis == BaselineBasis.Provisional).ToDictionary();
        var entry = lot.Entry(own.Where(f => f.Value.Basis != BaselineBasis.Provisional).ToDictionary()) with
        {
            Mark = mark,
            Serial = null,
            LotCount = null,
            CarriedOver = null,
            Surroundings = lot.Surroundings with { MakersWord = null },
        };
        return (entry, provisional);
    }

    /// <summary>
    /// Accepts the report of a piece taken over: in service until the report runs out, or its first inspection here.
    /// </summary>
    /// <param name="facts">The piece and what bears on it.</param>
    public static Checked<PieceOutcome> AcceptReport(TakeOverFacts facts, Signer by)
    {
        var piece = facts.Piece;
        if (by.Without(Right.AcceptReport) is { } forbidden)
            return forbidden;
        if (Authorisation.RefusalToSign(facts.Authorisations, piece.Gear.Family, by.Day) is { } unauthorised)
            return Refusal.Forbidden($"{piece.Mark}: {unauthorised}");
        var after = PieceLife.AfterTakeOver(piece.State, piece.CarriedOver is not null, facts.File is not null);
        if (!after.Ok)
            return after.Refusal! with { Words = $"{piece.Mark}: {after.Fault}" };
        var report = piece.CarriedOver!;
        var until = Intervals
            .Periodic(piece.Gear.Family, piece.ServiceClass, facts.Site.Books)
            .After(report.LastPeriodic);
        if (until < by.Day)
            return new Refusal(
                $"{piece.Mark}: its report of {report.LastPeriodic:yyyy-MM-dd} ran out on {until:yyyy-MM-dd}. Inspect it."
            );
        if (!piece.TagRead)
            return new Refusal($"{piece.Mark}: nobody has read its marking yet. Read it first.");
        if (piece.TagAt(facts.Site).Stopping.FirstOrDefault() is { } against)
            return new Refusal($"{piece.Mark}: {against.Words}");
        var missing = PieceEntryReader
            .BaselinesOf(piece.Gear)
            .FirstOrDefault(b => !facts.Baselines.ContainsKey(new(b.Part.Path, b.Criterion.Id)));
        return missing.Criterion is { } lacking
            ? new Refusal(
                $"{piece.Mark}: the {lacking.BaselineName} of {missing.Part.Name} is not on record. Enter it first."
            )
            : new PieceOutcome(
                after.Value,
                new CarriedOverAccepted(report.LastPeriodic, report.Inspector, report.Evidence, facts.File!.Value)
            );
    }

    /// <summary>Gives a piece the figures when new that it lacks. What has one keeps it.</summary>
    /// <param name="missing">The measures without a figure, and whether each is taken over links.</param>
    /// <param name="figureOf">The figure of one of them; null: nothing was measured.</param>
    public static Checked<IReadOnlyList<KeyValuePair<BaselineKey, BaselineFigure>>> Fill(
        Piece piece,
        IReadOnlyCollection<(BaselineKey Key, bool OverLinks)> missing,
        Func<BaselineKey, BaselineFigure?> figureOf,
        Signer by
    )
    {
        if (by.Without(Right.Register) is { } forbidden)
            return forbidden;
        if (missing.Count == 0)
            return new Refusal($"{piece.Mark} lacks no such figure any more.");
        var set = new List<KeyValuePair<BaselineKey, BaselineFigure>>();
        foreach (var (key, overLinks) in missing)
        {
            if (figureOf(key) is not { } figure)
                return new Refusal($"{piece.Mark}: nothing was measured on {key.Part} yet. Measure it first.");
            if (overLinks && figure.Links is null)
                return new Refusal($"{piece.Mark}: over how many links?");
            set.Add(new(key, figure));
        }

        // A figure of a piece that was inspected bears on what it was found to be.
        if (
            piece.Verdict is not null
            && by.Without(
                Right.ChangeFigures,
                $"{piece.Mark} was inspected: a qualified person enters its figures when new."
            )
                is { } not
        )
            return not;
        return PieceEntry.RefusalOf([.. set.Select(s => s.Value)], by.Roles) is { } refused
            ? new Refusal(refused)
            : set;
    }

    private static Refusal? Invalid(string? words) => words is null ? null : new Refusal(words);
}
