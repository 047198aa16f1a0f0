using Keralith.Core.Gear;
using Keralith.Core.People;

namespace Keralith.Core.Sites;

/// <summary>A works as it begins: what set-up asks, and nothing more.</summary>
/// <param name="Name">The works' name.</param>
/// <param name="Unit">The unit a bare figure is taken in: <c>in</c> or <c>mm</c>.</param>
/// <param name="Store">The name of the first store.</param>
/// <param name="Books">The rule books it works to; one at the least.</param>
/// <param name="Zone">Its time zone.</param>
/// <param name="Administrator">Who administers first.</param>
public sealed record NewWorks(
    string Name,
    string Unit,
    string Store,
    IReadOnlyList<RuleBook> Books,
    TimeZoneInfo Zone,
    NewPerson Administrator
);

/// <summary>What is decided about setting a works up, which is done once.</summary>
public static class SetUp
{
    private const int LongestName = 80;

    /// <summary>Reads what set-up asks.</summary>
    /// <param name="book">The ids of the chosen books.</param>
    public static Checked<NewWorks> Read(
        string? works,
        string? unit,
        string? store,
        IReadOnlyList<string> book,
        string? zone,
        Checked<NewPerson> administrator
    )
    {
        if (works?.Trim() is not { Length: > 0 and <= LongestName } name)
            return new Refusal($"Write the works' name, in up to {LongestName} letters.");
        if (unit is not ("in" or "mm"))
            return new Refusal("Choose inch or millimetre.");
        var first = StoreActs.ReadName(store);
        if (!first.Ok)
            return first.Refusal!;
        var books = RuleBookShelf.All.Where(b => book.Contains(b.Id)).ToList();
        if (books.Count == 0 || book.Any(b => RuleBookShelf.Find(b) is null))
            return new Refusal("Choose the rule books the works works to; one at the least.");
        var place = Site.ZoneOf(zone);
        if (!place.Ok)
            return place.Refusal!;
        return administrator.Ok
            ? new NewWorks(name, unit, first.Value, books, place.Value, administrator.Value)
            : administrator.Refusal!;
    }

    /// <summary>Why the works can't be set up; null when it can: it is not yet, and the address was given out for it.</summary>
    /// <param name="isSetUp">Whether it was set up.</param>
    /// <param name="link">The address it is set up by, as it was made; null: there is none of that secret.</param>
    public static Refusal? RefusalOf(bool isSetUp, OneTimeLink? link, DateTimeOffset now) =>
        isSetUp ? Refusal.Conflict("This works was set up already. Sign in, or ask an administrator to invite you.")
        : Accounts.RefusalOfLink(link, now) is { } refusal
            ? refusal with
            {
                Words = $"{refusal.Words} The server prints one each time it starts.",
            }
        : null;
}
