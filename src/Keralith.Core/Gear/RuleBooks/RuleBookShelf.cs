namespace Keralith.Core.Gear;

/// <summary>The rule books the product knows.</summary>
public static class RuleBookShelf
{
    /// <summary>The book that stands in where another is silent.</summary>
    public static RuleBook Asme => AsmeBook.Book;

    /// <summary>All books.</summary>
    public static IReadOnlyList<RuleBook> All { get; } =
    [
        AsmeBook.Book,
        OshaBook.Book,
        OshaConstructionBook.Book,
        OntarioBook.Book,
        JapanBook.Book,
        AustraliaBook.Book,
        EuropeBook.Book,
    ];

    /// <summary>A book's place on the shelf; -1 where it does not stand there.</summary>
    internal static int PlaceOf(RuleBook book)
    {
        for (var i = 0; i < All.Count; i++)
        {
            if (ReferenceEquals(All[i], book))
                return i;
        }

        return -1;
    }

    /// <summary>Who governs, as people say it: a book's name, the site or the maker.</summary>
    /// <param name="id">A book's id, <c>site</c> or <c>maker</c>.</param>
    public static string NameOf(string id) =>
        Find(id)?.Name
        ?? (
            id == "site" ? "The site's own limit"
            : id == "maker" ? "The maker's limit"
            : id
        );

    /// <summary>The book of an id, or null when there is none.</summary>
    public static RuleBook? Find(string id) => All.FirstOrDefault(b => b.Id == id);
}
