namespace Keralith.Core.People;

/// <summary>Something a role does early, and how the record tells that it was done.</summary>
/// <param name="Words">What is done.</param>
/// <param name="Path">The page it is done on.</param>
/// <param name="Kinds">The kinds of ledger entry any of which shows that the person did it.</param>
public sealed record FirstStep(string Words, string Path, params string[] Kinds);

/// <summary>What a person new to a role does first: a strip of steps, gone when they are done.</summary>
public static class FirstSteps
{
    /// <summary>The steps of a role; none for who only reads.</summary>
    public static IReadOnlyList<FirstStep> Of(Role role) =>
        role switch
        {
            Role.Crew =>
            [
                new("Look a piece over before use: scan it, then Frequent check", "/register", "inspection.signed"),
                new("Plan a lift with gear from the rack", "/lift", "lift.checked", "lift.trial"),
            ],
            Role.Stores =>
            [
                new("Register a piece and print its label", "/register/new", "piece.registered"),
                new("Hand a piece out by scanning", "/desk", "piece.issued"),
                new("Take it back", "/desk", "piece.returned"),
                new("Walk a store: what hangs there, what should", "/round", "round.begun"),
            ],
            Role.Trainee => [new("Inspect a piece and offer it for countersignature", "/due", "inspection.offered")],
            Role.Inspector =>
            [
                new("Say what you measure with", "/instruments", "instrument.entered"),
                new("Inspect a piece whole, and sign", "/due", "inspection.signed"),
                new("See what each rule asks, and why", "/rules", "inspection.signed"),
            ],
            Role.Qualified =>
            [
                new(
                    "Look through the cage and close a hold, with a reason",
                    "/cage",
                    "hold.released",
                    "piece.condemned"
                ),
                new("Set the site's own limits where the maker is stricter", "/settings", "rules.limit-set"),
                new("Sign a lift", "/lift", "lift.signed"),
            ],
            Role.Admin =>
            [
                new("Set the books and policies of the site", "/settings", "rules.site"),
                new("Add the stores", "/settings/stores", "store.kept"),
                new("Invite the people", "/settings/people", "person.invited"),
                new("Set the season's colours", "/season", "season.scheme"),
            ],
            Role.Auditor => [],
        };

    /// <summary>The kinds of ledger entry that tell of the steps of all roles held.</summary>
    public static IReadOnlyCollection<string> Kinds(Roles roles) =>
        [.. roles.Each.SelectMany(Of).SelectMany(s => s.Kinds).Distinct()];

    /// <summary>The steps of all roles held, each once, with whether it was done.</summary>
    /// <param name="done">The kinds of entry the person has in the ledger.</param>
    /// <returns>Empty where nothing is left to do.</returns>
    public static IReadOnlyList<(FirstStep Step, bool Done)> Of(Roles roles, IReadOnlySet<string> done)
    {
        var steps = roles
            .Each.SelectMany(Of)
            .DistinctBy(s => s.Words)
            .Select(s => (Step: s, Done: s.Kinds.Any(done.Contains)))
            .ToList();
        return steps.All(s => s.Done) ? [] : steps;
    }
}
