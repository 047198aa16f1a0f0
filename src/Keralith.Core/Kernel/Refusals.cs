namespace Keralith.Core.Kernel;

/// <summary>Refusals that many acts share, each worded once.</summary>
public static class Refusals
{
    public static Refusal NoSuchPiece { get; } = Refusal.NotFound("There is no such piece.");

    public static Refusal NoSuchRecord { get; } = Refusal.NotFound("There is no such record.");

    public static Refusal NoSuchLift { get; } = Refusal.NotFound("There is no such lift.");

    public static Refusal NoSuchStore { get; } = new("Choose the store it hangs in.");

    public static Refusal OtherSite { get; } =
        new(
            "That store belongs to another site, with rules of its own: move the piece there, and it is judged by them."
        );

    public static Refusal NoSuchSite { get; } = Refusal.NotFound("There is no such site.");

    public static Refusal NoSuchRecall { get; } = Refusal.NotFound("There is no such recall.");

    public static Refusal NoSuchPerson { get; } = Refusal.NotFound("There is no such person.");

    /// <summary>An id that a form or a program brought belongs to another act, person, target or content.</summary>
    public static Refusal IdOfAnother { get; } =
        Refusal.Conflict(
            "This was sent under an id that belongs to another record. Nothing of yours was saved, and nothing else was changed: look at it, then send it again."
        );

    /// <summary>A paper named as evidence belongs to something else.</summary>
    public static Refusal PaperOfAnother { get; } = new("That paper is not attached to this piece.");

    /// <summary>Somebody else changed the piece since it was read.</summary>
    public static Refusal PieceChanged { get; } =
        Refusal.Conflict(
            "Somebody else has changed this piece since you opened it. Nothing of yours was saved or lost: look at what it says now, then send it again."
        );

    /// <summary>Somebody else changed how the site works since it was read.</summary>
    public static Refusal SettingsChanged { get; } =
        Refusal.Conflict(
            "Somebody else has changed the settings since you opened them. Nothing of yours was saved: look at what they say now, then send it again."
        );

    /// <summary>Somebody else changed the lift since it was read.</summary>
    public static Refusal LiftChanged { get; } =
        Refusal.Conflict(
            "Somebody else has changed this lift since you opened it. Nothing of theirs was written over: open it again and enter yours."
        );

    /// <summary>Answers of a draft were changed since its verdict was read.</summary>
    public static Refusal DraftChanged { get; } =
        Refusal.Conflict(
            "Answers were changed since you read the verdict. Nothing was signed: read it again, then sign."
        );

    /// <summary>The draft is no longer there.</summary>
    public static Refusal DraftGone { get; } = Refusal.NotFound("This draft was thrown away.");

    /// <summary>The draft takes no more answers.</summary>
    public static Refusal DraftClosed { get; } =
        Refusal.NotFound("This inspection is signed or was thrown away; it takes no more answers.");

    /// <summary>The draft takes no more pictures.</summary>
    public static Refusal DraftTakesNoPictures { get; } =
        Refusal.NotFound("This inspection is signed or was thrown away; it takes no more pictures.");

    /// <summary>The record was corrected or withdrawn by somebody else.</summary>
    public static Refusal CorrectedAlready { get; } =
        Refusal.Conflict("This record was corrected or withdrawn already: look at what stands in its place.");

    /// <summary>The mark was taken in the same moment.</summary>
    public static Refusal MarkTaken { get; } =
        Refusal.Conflict(
            "Somebody else registered one of these marks in the same moment. Nothing was saved: send it again."
        );
}
