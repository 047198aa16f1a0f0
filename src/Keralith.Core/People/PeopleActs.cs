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

    /// <summary>The most days a token counts before another is made.</summary>
    public const int LongestTokenDays = 366;

    /// <summary>Why somebody can't make a token that acts for them; null when they can.</summary>
    /// <param name="ends">The last day it counts.</param>
    /// <param name="roles">The roles it acts with: none but its person's own.</param>
    public static Refusal? RefusalOfToken(string? name, DateOnly? ends, Roles roles, Signer by) =>
        by.Without(Right.Read)
        ?? (
            string.IsNullOrWhiteSpace(name) || name.Length > LongestName
                ? new Refusal($"Say what the token is for, in up to {LongestName} letters.")
            : ends is not { } day || day < by.Day || day > by.Day.AddDays(LongestTokenDays)
                ? new Refusal($"Name the last day the token counts, at most {LongestTokenDays} days from now.")
            : roles.IsNone ? new Refusal("Choose at least one of your roles for it.")
            : roles.Each.All(by.Roles.Has) ? null
            : Refusal.Forbidden("A token has no larger rights than whoever makes it.")
        );

    /// <summary>Why a token can't be revoked; null when it can: whoever's it is, or an administrator, ends it.</summary>
    /// <param name="owner">For whom the token that was not revoked acts; null: there is none.</param>
    public static Refusal? RefusalToRevoke(Guid? owner, Signer by) =>
        owner is null || (owner != by.Person && !by.Roles.May(Right.ManageTokens))
            ? Refusal.NotFound("There is no such token of yours, or it was revoked before.")
            : null;

    /// <summary>The roles a token acts with; none where it does not count.</summary>
    /// <param name="token">Those it was made with; null: all its person has, as tokens were made before.</param>
    /// <param name="person">Those its person has now.</param>
    /// <param name="lacksFactor">Whether its person must have a second factor and has none.</param>
    public static Roles RolesOfToken(Roles? token, Roles person, bool lacksFactor) =>
        lacksFactor ? Roles.Of([])
        : token is { } made ? Roles.Of(made.Each.Where(person.Has))
        : person;

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
