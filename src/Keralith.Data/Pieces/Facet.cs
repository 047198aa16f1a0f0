using System.Globalization;

namespace Keralith.Data;

/// <summary>What the register is narrowed by: a column to group by, and the words its values are known under.</summary>
/// <param name="Name">Its name in addresses.</param>
/// <param name="Column">What is grouped by, of <c>piece p</c>.</param>
/// <param name="Type">The column's type in PostgreSQL.</param>
/// <param name="Known">The column's values with their words, where they are not the same; null: the words are the value.</param>
/// <param name="Unknown">The word for no value.</param>
internal sealed record Facet(
    string Name,
    string Column,
    string Type = "text",
    IReadOnlyList<(string Value, string Words)>? Known = null,
    string Unknown = "none"
)
{
    /// <summary>The facets, in the order they are shown.</summary>
    /// <param name="today">The parameter of the day due dates are seen from.</param>
    /// <param name="notice">The parameter of the last day of notice.</param>
    /// <param name="stores">The stores by number.</param>
    public static IReadOnlyList<Facet> All(
        string today,
        string notice,
        IReadOnlyList<(string Value, string Words)> stores
    ) =>
        [
            new("family", "p.family"),
            new("store", "p.store_id", "integer", stores),
            new("state", "p.state"),
            new("verdict", "p.verdict"),
            new(
                "due",
                $"case when p.periodic_due < {today}::date then 1 when p.periodic_due <= {notice}::date then 2 when p.periodic_due is not null then 3 end",
                "integer",
                [("1", "overdue"), ("2", "soon"), ("3", "later")],
                "never inspected"
            ),
            new("service", "p.service_class"),
            new("season", "p.season_for", "date"),
            new("maker", "p.maker", Unknown: "not known"),
            new("colour", "p.colour"),
            new(
                "rated",
                "p.rated_band",
                "smallint",
                [("0", "under 1 t"), ("1", "1 to 3 t"), ("2", "3 to 10 t"), ("3", "10 t and over")],
                "not known"
            ),
        ];

    /// <summary>The names, in the order they are shown.</summary>
    public static IReadOnlyList<string> Names { get; } =
        All(string.Empty, string.Empty, []).Select(f => f.Name).ToList();

    /// <summary>A value's words.</summary>
    public string Said(string? value) =>
        value is null ? Unknown : Known?.FirstOrDefault(k => k.Value == value).Words ?? value;

    /// <summary>That a column holds the value of some words; nothing does when no value has them.</summary>
    /// <param name="column">The facet's column, or where it was grouped to.</param>
    /// <param name="bound">The parameter the value is bound to.</param>
    public string Holds(string column, string words, string bound) =>
        words == Unknown ? $"({column} is null or {column} = {bound}::{Type})" : $"{column} = {bound}::{Type}";

    /// <summary>The value of some words; null where none has them.</summary>
    public object? ValueOf(string words)
    {
        var text = Known is null ? words : Known.FirstOrDefault(k => k.Words == words).Value;
        return Type switch
        {
            "text" => text,
            "date" => DateOnly.TryParseExact(
                text,
                "yyyy-MM-dd",
                CultureInfo.InvariantCulture,
                DateTimeStyles.None,
                out var day
            )
                ? day
                : null,
            _ => text is null ? null : int.Parse(text, CultureInfo.InvariantCulture),
        };
    }
}
