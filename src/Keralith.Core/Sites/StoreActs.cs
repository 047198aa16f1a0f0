using Keralith.Core.Gear;
using Keralith.Core.People;

namespace Keralith.Core.Sites;

/// <summary>What a store is.</summary>
public enum StoreKind
{
    /// <summary>A rack or a room on land.</summary>
    [Code("rack")]
    Rack,

    /// <summary>A container that travels to a job.</summary>
    [Code("container")]
    Container,

    /// <summary>A boat.</summary>
    [Code("boat")]
    Boat,
}

/// <summary>A store as it is entered.</summary>
/// <param name="Name">Its name.</param>
/// <param name="About">A few words on it; may be empty.</param>
/// <param name="Kind">What it is.</param>
/// <param name="OftenOffline">Whether it is often without network.</param>
public sealed record StoreEntry(string Name, string About, StoreKind Kind, bool OftenOffline)
{
    /// <summary>The number of the site it belongs to.</summary>
    public int Site { get; init; } = Sites.Site.First;
}

/// <summary>A site as it is added: its limits, policies and season are set at it afterwards.</summary>
/// <param name="Name">Its name.</param>
/// <param name="Books">At least one.</param>
/// <param name="Zone">Its time zone.</param>
public sealed record SiteEntry(string Name, IReadOnlyList<RuleBook> Books, TimeZoneInfo Zone);

/// <summary>What is decided about sites and their stores.</summary>
public static class StoreActs
{
    private const int LongestName = 60;
    private const int LongestAbout = 120;
    private const int LongestSite = 80;

    /// <summary>Reads a site that is added.</summary>
    /// <param name="book">The ids of the chosen books.</param>
    public static Checked<SiteEntry> ReadSite(string? name, IReadOnlyList<string> book, string? zone)
    {
        var (named, place) = (ReadSiteName(name), Site.ZoneOf(zone));
        if (!named.Ok)
            return named.Refusal!;
        var books = RuleBookShelf.All.Where(b => book.Contains(b.Id)).ToList();
        if (books.Count == 0 || book.Any(b => RuleBookShelf.Find(b) is null))
            return new Refusal("Choose the rule books the site works to; one at the least.");
        return place.Ok ? new SiteEntry(named.Value, books, place.Value) : place.Refusal!;
    }

    /// <summary>Reads a site's name.</summary>
    public static Checked<string> ReadSiteName(string? name) =>
        name?.Trim() is { Length: > 0 and <= LongestSite } text
            ? text
            : new Refusal($"Write the site's name, in up to {LongestSite} letters.");

    /// <summary>Why a site can't be kept under a name; null when it can.</summary>
    /// <param name="isTaken">Whether another site has the name.</param>
    public static Refusal? RefusalToKeepSite(string name, bool isTaken, Signer by) =>
        by.Without(Right.ManageStores, "Only an administrator keeps the sites.")
        ?? (isTaken ? new Refusal($"There is a site {name} already.") : null);

    /// <summary>Reads a store's name.</summary>
    public static Checked<string> ReadName(string? name) =>
        name?.Trim() is { Length: > 0 and <= LongestName } text
            ? text
            : new Refusal($"Write the store's name, in up to {LongestName} letters.");

    /// <summary>Reads a store.</summary>
    public static Checked<StoreEntry> Read(string? name, string? about, string? kind, bool oftenOffline)
    {
        var named = ReadName(name);
        if (!named.Ok)
            return named.Refusal!;
        var words = about?.Trim() ?? string.Empty;
        if (words.Length > LongestAbout)
            return new Refusal($"A few words on the store: at most {LongestAbout} letters.");
        return Code.Find<StoreKind>(kind) is { } known
            ? new StoreEntry(named.Value, words, known, oftenOffline)
            : new Refusal("Choose what the store is: a rack, a container or a boat.");
    }

    /// <summary>Why a store can't be kept under its name; null when it can.</summary>
    /// <param name="isTaken">Whether another store, open or closed, has the name.</param>
    /// <param name="isKnown">Whether there is the site it is to belong to.</param>
    /// <param name="carries">Pieces that would come under another site's rules with it.</param>
    public static Refusal? RefusalToKeep(
        StoreEntry store,
        bool isTaken,
        Signer by,
        bool isKnown = true,
        int carries = 0
    ) =>
        NotByAdministrator(by)
        ?? (
            isTaken ? new Refusal($"There is a store {store.Name} already, open or closed.")
            : !isKnown ? Refusals.NoSuchSite
            : carries > 0
                ? new Refusal(
                    $"{carries} {(carries == 1 ? "piece hangs" : "pieces hang")} in it, the cage and the lost counted: "
                        + "a store goes to another site empty, its pieces one by one, judged by the rules there."
                )
            : null
        );

    /// <summary>Why a store can't be closed; null when it can: nothing hangs in it, and another stays open.</summary>
    /// <param name="pieces">The pieces that hang in it and are not destroyed.</param>
    /// <param name="others">Other open stores.</param>
    public static Refusal? RefusalToClose(int pieces, int others, Signer by) =>
        NotByAdministrator(by)
        ?? (
            pieces > 0
                ? new Refusal(
                    $"{pieces} {(pieces == 1 ? "piece hangs" : "pieces hang")} in it, the cage and the lost counted. Move them first."
                )
            : others == 0 ? new Refusal("It is the last store that is open; a works has one at the least.")
            : null
        );

    /// <summary>Why the order of the stores can't be changed, or a store opened again; null when it can.</summary>
    public static Refusal? NotByAdministrator(Signer by) =>
        by.Without(Right.ManageStores, "Only an administrator keeps the stores.");
}
