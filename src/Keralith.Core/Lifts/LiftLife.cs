using System.Globalization;
using Keralith.Core.People;
using Keralith.Core.Quantities;

namespace Keralith.Core.Lifts;

/// <summary>How far a lift has come.</summary>
public enum LiftState
{
    /// <summary>Being planned; or planned again after a trial lift that was not good.</summary>
    [Code("planned")]
    Planned,

    /// <summary>Its checklist is answered; a qualified person's signature is waited for.</summary>
    [Code("checked")]
    Checked,

    /// <summary>Checked, and signed where that is wanted.</summary>
    [Code("ready")]
    Ready,

    /// <summary>Its gear is handed out.</summary>
    [Code("out")]
    Out,

    /// <summary>The trial lift was good.</summary>
    [Code("tried")]
    Tried,

    /// <summary>Lifted.</summary>
    [Code("done")]
    Done,

    /// <summary>Given up.</summary>
    [Code("called-off")]
    CalledOff,
}

/// <summary>Something done with a lift. Each kind says what it carries.</summary>
/// <param name="Code">The step's code, in records and the ledger.</param>
/// <param name="Takes">The right it takes.</param>
public abstract record LiftStep(string Code, Right Takes)
{
    /// <summary>What is kept of what was said, by name.</summary>
    public abstract IReadOnlyDictionary<string, string> Said { get; }

    /// <summary>Letters kept of a note.</summary>
    public const int LongestNote = 300;

    private protected static Dictionary<string, string> Words(params (string Name, string? Text)[] said) =>
        said.ToDictionary(s => s.Name, s => s.Text?.Trim() ?? string.Empty);
}

/// <summary>The checklist answered.</summary>
/// <param name="Done">The codes of the items that are so.</param>
public sealed record CheckLift(IReadOnlySet<string> Done, string? Note) : LiftStep("checked", Right.PlanLift)
{
    /// <summary>Why an item does not apply, by code.</summary>
    public IReadOnlyDictionary<string, string> NotApplying { get; init; } = new Dictionary<string, string>();

    public override IReadOnlyDictionary<string, string> Said =>
        Done.Order(StringComparer.Ordinal)
            .Select(d => (Name: d, Text: "yes"))
            .Concat(
                NotApplying
                    .Where(n => !Done.Contains(n.Key) && !string.IsNullOrWhiteSpace(n.Value))
                    .OrderBy(n => n.Key, StringComparer.Ordinal)
                    .Select(n => (Name: n.Key, Text: $"does not apply: {n.Value.Trim()}"))
            )
            .Concat(string.IsNullOrWhiteSpace(Note) ? [] : [("note", Note.Trim())])
            .ToDictionary(s => s.Name, s => s.Text);
}

/// <summary>A qualified person's signature.</summary>
public sealed record SignLift() : LiftStep("signed", Right.SignLift)
{
    public override IReadOnlyDictionary<string, string> Said => Words();
}

/// <summary>The load weighed: what an instrument showed, put on record.</summary>
/// <param name="Weight">All together, over 0.</param>
/// <param name="With">The instrument.</param>
public sealed record WeighLift(Mass Weight, string? With) : LiftStep(Kind, Right.PlanLift)
{
    /// <summary>The code of the step.</summary>
    public const string Kind = "weighed";

    /// <summary>What each support read and where it stood; null where it hung on one cell.</summary>
    public LoadWeighings? Supports { get; init; }

    public override IReadOnlyDictionary<string, string> Said =>
        Words(
            (Kind, Weight.ToString()),
            ("with", With),
            ("supports", Supports is { } on ? string.Join("; ", on.Readings) : string.Empty)
        );

    /// <summary>A weighing as it stands on record; null where it can't be read.</summary>
    internal static RecordedWeighing? Read(LiftRecord record)
    {
        if (Mass.Read(record.Data.GetValueOrDefault(Kind)) is not { Ok: true, Value: { Kilograms: > 0 } weight })
            return null;
        var supports = record
            .Data.GetValueOrDefault("supports", string.Empty)
            .Split("; ", StringSplitOptions.RemoveEmptyEntries)
            .Select(Weighing.Read)
            .ToList();
        return new(
            record.Id,
            weight,
            record.Data.GetValueOrDefault("with") is { Length: > 0 } with ? with : "load cell",
            record.By,
            record.At
        )
        {
            Supports = supports.Count > 1 && supports.All(s => s is not null) ? new([.. supports!]) : null,
        };
    }
}

/// <summary>
/// A source that says the harsher is set aside for this version of the plan: the other counts. A qualified person's act.
/// </summary>
/// <param name="What">A weighing by its name, or the load's own centre of gravity.</param>
/// <param name="Why">Why.</param>
public sealed record SetSourceAside(string? What, string? Why) : LiftStep(Kind, Right.SignLift)
{
    /// <summary>The code of the step.</summary>
    public const string Kind = "set-aside";

    /// <summary>Under which name it stands on record what is set aside.</summary>
    public const string Named = "set aside";

    public override IReadOnlyDictionary<string, string> Said => Words((Named, What), ("why", Why));
}

/// <summary>All its gear handed out.</summary>
/// <param name="Holder">Who takes it.</param>
/// <param name="Back">When it is wanted back; null: nobody said.</param>
public sealed record HandOutLift(string? Holder, DateOnly? Back) : LiftStep("issued", Right.Issue)
{
    public override IReadOnlyDictionary<string, string> Said => Words(("holder", Holder));
}

/// <summary>The trial lift: 12 to 20 in (30 to 50 cm), stop, look, lower, adjust.</summary>
/// <param name="Level">Whether it hung level; null: not said.</param>
/// <param name="Slipped">Whether anything slipped or gave.</param>
public sealed record TryLift(bool? Level, bool Slipped, string? Links, string? Note) : LiftStep(Kind, Right.PlanLift)
{
    /// <summary>The code of the step.</summary>
    public const string Kind = "trial";

    /// <summary>Which end hung low, as <see cref="TrialFinding.Read"/> takes it; null: not said.</summary>
    public string? Low { get; init; }

    /// <summary>How far it hung off level; null: not said.</summary>
    public string? By { get; init; }

    /// <summary>Where it puts the centre of gravity in the frame of the plan it was tried by; null where that is not known.</summary>
    public Point3? Centre { get; init; }

    /// <summary>Where a trial on record puts the centre of gravity; null where it hung level or does not say.</summary>
    internal static Point3? CentreOf(LiftRecord trial) =>
        trial.Data.GetValueOrDefault("level") != "yes"
        && trial.Data.GetValueOrDefault("centre", string.Empty).Split(' ') is { Length: 3 } at
        && at.All(a => double.TryParse(a, NumberStyles.Float, CultureInfo.InvariantCulture, out _))
            ? new(Figure(at[0]), Figure(at[1]), Figure(at[2]))
            : null;

    private static double Figure(string text) => double.Parse(text, NumberStyles.Float, CultureInfo.InvariantCulture);

    /// <summary>Whether the lift may go on as planned.</summary>
    public bool IsGood => Level == true && !Slipped;

    public override IReadOnlyDictionary<string, string> Said =>
        Words(
            ("level", Level == true ? "yes" : "no"),
            ("slipped", Slipped ? "yes" : string.Empty),
            ("low end", Low),
            ("by", By),
            ("links taken up", Links),
            (
                "centre",
                Centre is { } at ? FormattableString.Invariant($"{at.X:0.###} {at.Y:0.###} {at.Z:0.###}") : null
            ),
            ("note", Note)
        );
}

/// <summary>The lift is done.</summary>
public sealed record EndLift(string? Note) : LiftStep("ended", Right.PlanLift)
{
    public override IReadOnlyDictionary<string, string> Said => Words(("note", Note));
}

/// <summary>The lift is given up.</summary>
public sealed record CallOffLift(string? Why) : LiftStep("called-off", Right.PlanLift)
{
    public override IReadOnlyDictionary<string, string> Said => Words(("note", Why));
}

/// <summary>What the rules of a lift's life look at.</summary>
/// <param name="State">How far it has come.</param>
/// <param name="IsTemplate">Whether it is an arrangement to begin from, and no lift.</param>
/// <param name="Verdict">What the plan comes to with its gear as it stands now; null while something typed is at fault.</param>
/// <param name="IsChecked">Whether the checklist was answered on this version of the plan.</param>
/// <param name="IsSigned">Whether it was signed on this version of the plan.</param>
/// <param name="NotReady">Pieces of the plan that are not out for this lift and can't be handed out now, with why.</param>
/// <param name="Pieces">How many pieces the plan names.</param>
public sealed record LiftFacts(
    LiftState State,
    bool IsTemplate,
    PlanVerdict? Verdict,
    bool IsChecked,
    bool IsSigned,
    IReadOnlyList<string> NotReady,
    int Pieces
)
{
    /// <summary>What is on record of it.</summary>
    public LiftKnown Known { get; init; } = LiftKnown.Nothing;

    /// <summary>The marks of pieces of the plan that are not out for this lift.</summary>
    public IReadOnlyList<string> NotOut { get; init; } = [];

    /// <summary>Why a piece that hangs in the lift is not what was checked; null: all of it is out for it, and the plan stands.</summary>
    internal string? NotAsChecked =>
        NotOut.Count > 0 ? $"{string.Join(", ", NotOut)} {(NotOut.Count == 1 ? "is" : "are")} not out for this lift."
        : Verdict is not { MayBeLifted: true } ? "The plan does not stand any more with its gear: see the bench."
        : null;
}

/// <summary>
/// The life of a lift: being planned, checked, signed where something is critical or to be asked, its gear out, a good
/// trial lift, done; or called off.
/// Each step is refused unless what stands before it holds.
/// </summary>
public static class LiftLife
{
    /// <summary>Whether anything is still to come of a lift.</summary>
    public static bool IsOpen(this LiftState state) =>
        state switch
        {
            LiftState.Planned or LiftState.Checked or LiftState.Ready or LiftState.Out or LiftState.Tried => true,
            LiftState.Done or LiftState.CalledOff => false,
        };

    /// <summary>Whether the plan may be changed: until its gear is out.</summary>
    public static bool MayChange(this LiftState state) =>
        state switch
        {
            LiftState.Planned or LiftState.Checked or LiftState.Ready => true,
            LiftState.Out or LiftState.Tried or LiftState.Done or LiftState.CalledOff => false,
        };

    /// <summary>
    /// The state after the plan was changed: what was checked or signed holds for the plan it was done on alone.
    /// </summary>
    public static Checked<LiftState> AfterChange(LiftState state, Signer by) =>
        by.Without(Right.PlanLift) is { } forbidden ? forbidden
        : state.MayChange() ? LiftState.Planned
        : new Refusal("Its gear is handed out: the plan stands as it is. Begin another from it.");

    /// <summary>A step with what follows from the plan it is done on: where a trial lift puts the centre of gravity.</summary>
    public static LiftStep Completed(LiftFacts facts, LiftStep step) =>
        step is TryLift trial
        && TrialFinding.Read(trial.Low, trial.By) is { Ok: true, Value: var found }
        && facts.Verdict?.Planned.Plan.Stand is StandPoints { Geometry: var geometry }
            ? trial with
            {
                Centre = found.Centre(geometry),
            }
            : step;

    /// <summary>The state after a step.</summary>
    public static Checked<LiftState> After(LiftFacts facts, LiftStep step, Signer by)
    {
        if (by.Without(step.Takes) is { } forbidden)
            return forbidden;
        foreach (var (name, said) in step.Said)
        {
            if (FreeText.RefusalOf($"\"{name}\"", said, LiftStep.LongestNote) is { } unkept)
                return unkept;
        }

        if (facts.IsTemplate)
            return new Refusal("This is an arrangement to begin from: begin a lift from it first.");
        if (facts.State == LiftState.Done)
            return new Refusal("This lift is done.");
        if (facts.State == LiftState.CalledOff)
            return new Refusal("This lift was called off.");
        return step switch
        {
            CheckLift check => AfterCheck(facts, check),
            SignLift => AfterSignature(facts),
            WeighLift weighing => AfterWeighing(facts, weighing),
            SetSourceAside aside => AfterSettingAside(facts, aside),
            HandOutLift handOut => AfterHandOut(facts, handOut, by.Day),
            TryLift trial => AfterTrial(facts, trial),
            EndLift end => AfterEnd(facts, end),
            CallOffLift off => string.IsNullOrWhiteSpace(off.Why)
                ? new Refusal("Write why it is called off.")
                : LiftState.CalledOff,
            _ => throw new System.Diagnostics.UnreachableException(),
        };
    }

    private static Checked<LiftState> AfterCheck(LiftFacts facts, CheckLift check)
    {
        if (!facts.State.MayChange())
            return new Refusal("Its gear is handed out: it was checked before that.");
        if (RefusalOfPlan(facts) is { } refused)
            return refused;
        if (LiftChecklist.Open(facts.Verdict!.Checklist, check.Done, check.NotApplying) is { Count: > 0 } open)
            return new Refusal(
                $"Not answered yet: {string.Join("; ", open.Select(o => o.Text.ToLowerInvariant()))}. Nothing was recorded."
            );
        return facts.Verdict!.AsksSignature ? LiftState.Checked : LiftState.Ready;
    }

    /// <summary>A load is weighed while its lift is open, its gear out or not: what is heavier than planned counts at once.</summary>
    private static Checked<LiftState> AfterWeighing(LiftFacts facts, WeighLift weighing) =>
        weighing.Weight.Kilograms <= 0 || weighing.Weight.Kilograms > Mass.Heaviest.Kilograms
            ? new Refusal("A weighing is over 0, and of no more than anything lifted.")
        : string.IsNullOrWhiteSpace(weighing.With)
            ? new Refusal("Name the instrument it was weighed with: a weighing nobody can trace is none.")
        : facts.State;

    /// <summary>What is set aside makes the plan milder: it is checked and signed anew.</summary>
    private static Checked<LiftState> AfterSettingAside(LiftFacts facts, SetSourceAside aside)
    {
        if (!facts.State.MayChange())
            return new Refusal(
                "Its gear is handed out: record the trial lift, or call the lift off, and plan it again."
            );
        if (string.IsNullOrWhiteSpace(aside.Why))
            return new Refusal("Write why it is set aside.");
        var known = facts.Known;
        if (aside.What != LiftKnown.Centre && known.Weighings.All(w => w.Code != aside.What))
            return new Refusal("There is no such source of this plan's figures.");
        return known.SetAside.Contains(aside.What!) ? new Refusal("It is set aside already.") : LiftState.Planned;
    }

    private static Checked<LiftState> AfterSignature(LiftFacts facts)
    {
        if (!facts.State.MayChange())
            return new Refusal("Its gear is handed out: it was signed before that, or needed no signature.");
        if (!facts.IsChecked)
            return new Refusal("The checklist is answered first.");
        return RefusalOfPlan(facts) is { } refused ? refused : LiftState.Ready;
    }

    private static Checked<LiftState> AfterHandOut(LiftFacts facts, HandOutLift handOut, DateOnly today)
    {
        if (facts.State != LiftState.Ready)
            return new Refusal("This lift is not ready: its checklist is answered first.");
        if (RefusalOfPlan(facts) is { } refused)
            return refused;

        // Its gear may have come to something to be asked since it was checked.
        if (facts.Verdict!.AsksSignature && !facts.IsSigned)
            return new Refusal("Something is to be asked: a qualified person signs the lift first.");
        if (string.IsNullOrWhiteSpace(handOut.Holder))
            return new Refusal("Name who takes it.");
        if (handOut.Back < today)
            return new Refusal("The day it is wanted back is past.");
        if (facts.Pieces == 0)
            return new Refusal("The plan names no gear: nothing of it can be handed out.");
        return facts.NotReady.Count > 0 ? new Refusal(string.Join(" ", facts.NotReady)) : LiftState.Out;
    }

    private static Checked<LiftState> AfterTrial(LiftFacts facts, TryLift trial)
    {
        if (facts.State is not (LiftState.Out or LiftState.Tried))
            return new Refusal("The trial lift comes after the gear is handed out.");
        if (trial.Level is null)
            return new Refusal("Say whether it hung level.");
        if (trial.IsGood)
            return facts.NotAsChecked is { } not ? new Refusal($"{not} Nothing is lifted by it.") : LiftState.Tried;
        var hasTilt = !string.IsNullOrWhiteSpace(trial.Low) || !string.IsNullOrWhiteSpace(trial.By);
        if (hasTilt && TrialFinding.Read(trial.Low, trial.By) is { Ok: false } unread)
            return new Refusal($"How it hung: {unread.Fault}.");
        return !hasTilt && string.IsNullOrWhiteSpace(trial.Links) && string.IsNullOrWhiteSpace(trial.Note)
            ? new Refusal("Say which end was low and by how much, or what is rigged otherwise.")
            : LiftState.Planned;
    }

    /// <summary>A lift is done with the gear it was tried with; where that is so no more, somebody says how it came down.</summary>
    private static Checked<LiftState> AfterEnd(LiftFacts facts, EndLift end)
    {
        if (facts.State != LiftState.Tried)
            return new Refusal("A lift is done after a good trial lift: record that first, or call the lift off.");
        return facts.NotAsChecked is { } not && string.IsNullOrWhiteSpace(end.Note)
            ? new Refusal($"{not} Write how it went: was it lifted with it, and how was it landed?")
            : LiftState.Done;
    }

    private static Refusal? RefusalOfPlan(LiftFacts facts) =>
        facts.Verdict is { MayBeLifted: true }
            ? null
            : new Refusal("The plan itself does not stand yet: see the bench.");
}
