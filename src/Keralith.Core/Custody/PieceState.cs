using Keralith.Core.Judgement;

namespace Keralith.Core.Custody;

/// <summary>The state of a piece: exactly one at a time.</summary>
public enum PieceState
{
    /// <summary>Registered, not yet inspected.</summary>
    [Code("new")]
    New,

    /// <summary>Accepted.</summary>
    [Code("in-service")]
    InService,

    /// <summary>In the cage with one or more open holds.</summary>
    [Code("held")]
    Held,

    /// <summary>Will never lift again.</summary>
    [Code("condemned")]
    Condemned,

    /// <summary>Cut or crushed.</summary>
    [Code("destroyed")]
    Destroyed,

    /// <summary>Can't be found. Found again, it goes to the cage.</summary>
    [Code("missing")]
    Missing,

    /// <summary>Gone to its maker or a shop. It comes back into the cage.</summary>
    [Code("at-repair")]
    AtRepair,

    /// <summary>Gone to a test bed to settle a doubt. It comes back into the cage.</summary>
    [Code("at-test")]
    AtTest,
}

/// <summary>What may become of a piece, and what may not.</summary>
public static class PieceLife
{
    private static readonly Refusal Lost = new("This piece is missing; say that it is found first.");

    private static readonly Refusal Gone = new("This piece is away; take it back first.");

    private static readonly Refusal Retired = new("This piece is retired; nothing more can be recorded on it.");

    /// <summary>Whether a piece is out for good: its mark can never be registered, inspected, issued or used again.</summary>
    public static bool IsRetired(this PieceState state) => state is PieceState.Condemned or PieceState.Destroyed;

    /// <summary>Whether a piece is with a shop or on a test bed.</summary>
    public static bool IsAway(this PieceState state) => state is PieceState.AtRepair or PieceState.AtTest;

    /// <summary>Why a piece can't be inspected; null when it can.</summary>
    public static Refusal? RefusalToInspect(PieceState state) =>
        state.IsRetired() ? Retired
        : state.IsAway() ? Gone
        : null;

    /// <summary>The kind of inspection due: a piece never accepted gets its initial one, whatever was wished.</summary>
    public static InspectionKind KindDue(PieceState state, bool everAccepted, InspectionKind wished) =>
        state == PieceState.New || (!everAccepted && wished == InspectionKind.Periodic)
            ? InspectionKind.Initial
            : wished;

    /// <summary>The state after a signed inspection. A hold or remove verdict puts the piece in the cage at once.</summary>
    /// <param name="state">The state before.</param>
    /// <param name="kind">The kind of inspection.</param>
    /// <param name="verdict">The verdict signed; an incomplete inspection can't be signed.</param>
    /// <param name="openHolds">Open holds before this inspection.</param>
    public static Checked<PieceState> AfterInspection(
        PieceState state,
        InspectionKind kind,
        VerdictKind verdict,
        int openHolds
    )
    {
        if (state.IsRetired())
            return Retired;
        if (state == PieceState.Missing)
            return Lost;
        if (state.IsAway())
            return Gone;
        if (verdict == VerdictKind.Incomplete)
            return new Refusal(
                "The inspection is not complete: every question needs an answer before it can be signed."
            );
        if (verdict.Stops())
            return PieceState.Held;
        if (openHolds > 0)
            return PieceState.Held;
        return state switch
        {
            PieceState.Condemned or PieceState.Destroyed => Retired,
            PieceState.New when kind is InspectionKind.Initial => PieceState.InService,
            PieceState.New => new Refusal("New gear needs its initial inspection before any other."),
            PieceState.InService => PieceState.InService,
            PieceState.Held => PieceState.InService,
            PieceState.Missing => Lost,
            PieceState.AtRepair or PieceState.AtTest => Gone,
        };
    }

    /// <summary>
    /// The state that the records of a piece come to, whatever state is kept: what no act may ever get out of step with.
    /// </summary>
    /// <param name="condemned">Whether it was condemned.</param>
    /// <param name="destroyed">Whether its destruction is on record.</param>
    /// <param name="missing">Whether it was lost and not found since.</param>
    /// <param name="away">Where it was sent and did not come back from; null: nowhere.</param>
    /// <param name="openHolds">Holds that are open.</param>
    /// <param name="everAccepted">Whether a full inspection that counts accepted it, or its report when it was taken
    /// over.</param>
    public static PieceState Of(
        bool condemned,
        bool destroyed,
        bool missing,
        AwayFor? away,
        int openHolds,
        bool everAccepted
    ) =>
        destroyed ? PieceState.Destroyed
        : condemned ? PieceState.Condemned
        : missing ? PieceState.Missing
        : away is { } where ? AfterSending(where)
        : openHolds > 0 ? PieceState.Held
        : everAccepted ? PieceState.InService
        : PieceState.New;

    /// <summary>The state after anybody has put a hold on it.</summary>
    public static Checked<PieceState> AfterHold(PieceState state) =>
        state.IsRetired() ? new Refusal("This piece is retired already; it can't come back into use.")
        : state == PieceState.Missing ? new Refusal("This piece is missing; say that it is found, and it is on hold.")
        : state.IsAway() ? state
        : PieceState.Held;

    /// <summary>The state after it was sent away.</summary>
    public static PieceState AfterSending(AwayFor away) =>
        away switch
        {
            AwayFor.Repair => PieceState.AtRepair,
            AwayFor.Test => PieceState.AtTest,
        };

    /// <summary>The state after a hold was closed.</summary>
    /// <param name="state">The state before.</param>
    /// <param name="stillOpen">Holds still open.</param>
    /// <param name="everAccepted">Whether an initial inspection was ever passed: a piece held while new goes back to new.</param>
    public static Checked<PieceState> AfterRelease(PieceState state, int stillOpen, bool everAccepted) =>
        state != PieceState.Held ? new Refusal("This piece is not on hold.")
        : stillOpen > 0 ? PieceState.Held
        : everAccepted ? PieceState.InService
        : PieceState.New;

    /// <summary>The state after condemning.</summary>
    public static Checked<PieceState> AfterCondemning(PieceState state) =>
        state switch
        {
            PieceState.New or PieceState.InService or PieceState.Held or PieceState.Missing => PieceState.Condemned,
            PieceState.Condemned or PieceState.Destroyed => new Refusal("This piece is condemned already."),
            PieceState.AtRepair or PieceState.AtTest => Gone,
        };

    /// <summary>
    /// The state after destruction: only what is condemned is destroyed, so that the decision stands on record first.
    /// </summary>
    public static Checked<PieceState> AfterDestruction(PieceState state) =>
        state switch
        {
            PieceState.Condemned => PieceState.Destroyed,
            PieceState.Destroyed => new Refusal("This piece is destroyed already."),
            PieceState.New
            or PieceState.InService
            or PieceState.Held
            or PieceState.Missing
            or PieceState.AtRepair
            or PieceState.AtTest => new Refusal("Only a condemned piece is destroyed; condemn it first."),
        };

    /// <summary>The state after a destruction was found not to have been: condemned as it was, and never more.</summary>
    public static Checked<PieceState> AfterNoDestruction(PieceState state) =>
        state == PieceState.Destroyed ? PieceState.Condemned : new Refusal("This piece is not destroyed.");

    /// <summary>The state after nobody could find it.</summary>
    public static Checked<PieceState> AfterLoss(PieceState state) =>
        state.IsRetired() ? Retired
        : state == PieceState.Missing ? new Refusal("It is missing already.")
        : state.IsAway() ? Gone
        : PieceState.Missing;

    /// <summary>The state after it was found: held, for nobody knows where it has been.</summary>
    public static Checked<PieceState> AfterFinding(PieceState state) =>
        state == PieceState.Missing ? PieceState.Held : new Refusal("This piece is not missing.");

    /// <summary>The state after the last report of gear taken over was accepted: in service until it runs out.</summary>
    /// <param name="hasReport">Whether date, inspector and name of the report are on record.</param>
    /// <param name="hasFile">Whether its file is attached.</param>
    public static Checked<PieceState> AfterTakeOver(PieceState state, bool hasReport, bool hasFile) =>
        state != PieceState.New ? new Refusal("Only what is new here is taken over with a report.")
        : !hasReport ? new Refusal("No report is on record: its date, who inspected, and its name.")
        : !hasFile ? new Refusal("The report's file is not attached.")
        : PieceState.InService;
}
