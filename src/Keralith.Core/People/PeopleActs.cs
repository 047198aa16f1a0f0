using Keralith.Core.Gear;

namespace Keralith.Core.People;

/// <summary>What is decided about people, their authorisations, their tokens and the instruments they measure with.</summary>
public static class PeopleActs
{
    private const int LongestName = 80;

    /// <summary>Why somebody can't be authorised; null when they can.</summary>
    /// <param name="group">For which group of gear.</param>
    /// <param name="roles">The role of whoever is to sign; null: there is no such person.</param>
    public static Refusal? RefusalToAuthorise(FamilyGroup group, Roles? roles, Signer by)
    {
        if (by.Without(Right.Authorise, "Only an administrator says who may sign.") is { } forbidden)
            return forbidden;
        if (!Authorisation.Groups.Contains(group))
            return new Refusal("Choose the group.");
        if (roles is not { } whose)
            return Refusals.NoSuchPerson;
        return whose.May(Right.SignInspection)
            ? null
            : new Refusal(
                "This person's role signs no inspections; only an inspector or qualified person is authorised."
            );
    }

    /// <summary>Why a token can't be made; null when it can.</summary>
    public static Refusal? RefusalOfToken(string? name, Signer by) =>
        by.Without(Right.ManageTokens, "Only an administrator makes tokens.")
        ?? (
            string.IsNullOrWhiteSpace(name) || name.Length > LongestName
                ? new Refusal($"Say what the token is for, in up to {LongestName} letters.")
                : null
        );

    /// <summary>Why a token can't be revoked; null when it can.</summary>
    /// <param name="stands">Whether there is one that was not revoked.</param>
    public static Refusal? RefusalToRevoke(bool stands, Signer by) =>
        by.Without(Right.ManageTokens, "Only an administrator revokes tokens.")
        ?? (stands ? null : Refusal.NotFound("There is no such token, or it was revoked before."));

    /// <summary>Why an instrument can't be entered; null when it can.</summary>
    /// <param name="uncertainty">Why its uncertainty can't be read; null: it can.</param>
    public static Refusal? RefusalOfInstrument(
        string? name,
        string? uncertainty,
        DateOnly? calibrationDue,
        Signer by
    ) =>
        by.Without(Right.KeepInstruments)
        ?? (
            string.IsNullOrWhiteSpace(name) || name.Length > LongestName
                ? new Refusal($"Write the name or number engraved on it, in up to {LongestName} letters.")
            : uncertainty is not null ? new Refusal($"Uncertainty: {uncertainty}")
            : calibrationDue is null ? new Refusal("Write the day its calibration runs out.")
            : null
        );

    private const int LongestView = 60;
    private const int LongestQuery = 1000;

    /// <summary>Most searches one person keeps.</summary>
    public const int MostViews = 30;

    /// <summary>Why a search can't be kept under a name; null when it can.</summary>
    /// <param name="kept">How many are kept already, this one not counted.</param>
    public static Refusal? RefusalOfView(string? name, string query, int kept) =>
        string.IsNullOrWhiteSpace(name) || name.Trim().Length > LongestView
            ? new Refusal($"Name the view in at most {LongestView} letters.")
        : query.Length > LongestQuery ? new Refusal("This search is too long to keep.")
        : kept >= MostViews ? new Refusal($"You keep {MostViews} views already; let one go first.")
        : null;
}
