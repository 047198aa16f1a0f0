using Keralith.Core.Gear;

namespace Keralith.Core.Register;

/// <summary>Stores by number and name: files name them, records number them.</summary>
public sealed class StoreNames(IEnumerable<(int Id, string Name)> stores)
{
    private readonly List<(int Id, string Name)> _all = stores.ToList();

    public int? IdOf(string name) =>
        _all.Where(s => string.Equals(s.Name, name.Trim(), StringComparison.OrdinalIgnoreCase))
            .Select(s => (int?)s.Id)
            .FirstOrDefault();

    public string NameOf(int id) => _all.Where(s => s.Id == id).Select(s => s.Name).FirstOrDefault() ?? string.Empty;

    public override string ToString() => string.Join(", ", _all.Select(s => s.Name));
}

/// <summary>
/// The register as rows and columns: the fixed columns every file has, and further ones for what those can't carry.
/// One row is one piece; a cell is read and written as a form's field is.
/// </summary>
public static class RegisterColumns
{
    private const string BaselineColumn = "baseline_";
    private const string Throat = "baseline_throat";
    private const string Section = "baseline_section";
    private const string Gauge = "baseline_gauge_length";
    private const string GaugeLinks = "baseline_gauge_links";
    private const string Body = "baseline_body";
    private const string Pin = "baseline_pin";
    private const string Basis = "baseline_basis";
    private const string TagCarries = "tag_carries";
    private const string Meets = "meets";
    private const string BaselineStart = "baseline:";

    /// <summary>The fixed columns, in their fixed order.</summary>
    public static IReadOnlyList<string> Fixed { get; } =
    [
        "mark",
        "serial",
        "family",
        "maker",
        "model",
        "batch",
        "size",
        "grade",
        "legs",
        "reach",
        "rated_load",
        "design_factor",
        "fiber",
        "construction",
        "core",
        "shoulder",
        "pin_type",
        "body",
        "termination",
        "end_fitting",
        "width",
        "falls",
        "medium",
        "power",
        "latch",
        "own_weight",
        Throat,
        Section,
        Gauge,
        GaugeLinks,
        Body,
        Pin,
        Basis,
        "calibration_due",
        "lot_count",
        "store",
        "peg",
        "service_class",
        "in_service_since",
        "last_periodic",
        "last_inspector",
        "evidence",
        "colour",
        "notes",
    ];

    /// <summary>Fields with a column of their name, other than attributes; a store is named in files, and numbered in records.</summary>
    private static readonly HashSet<string> Plain =
    [
        .. PieceFields.All.Select(f => f.Name).Where(name => name != "store"),
    ];

    private static readonly Dictionary<string, string> FieldOf = Plain
        .Concat(GearAttributes.All.Select(a => a.Name))
        .Distinct()
        .ToDictionary(Column, StringComparer.OrdinalIgnoreCase);

    private static readonly HashSet<string> Attributes = GearAttributes
        .All.Select(a => a.Name)
        .Except(Plain)
        .ToHashSet();

    /// <summary>All columns: the fixed ones, then those that carry the rest.</summary>
    public static IReadOnlyList<string> All { get; } =
    [
        .. Fixed,
        .. PieceFields.All.Select(f => Column(f.Name)).Except(Fixed),
        TagCarries,
        Meets,
        .. GearFamilies.All.SelectMany(f => f.Asks).Distinct().Select(Column).Except(Fixed),
    ];

    /// <summary>
    /// Whether a heading names a column: one of <see cref="All"/>, or <c>baseline:part:criterion</c> for one figure on
    /// one part.
    /// </summary>
    public static bool Knows(string heading) =>
        All.Contains(heading)
        || (
            heading.StartsWith(BaselineStart, StringComparison.Ordinal)
            && heading.Split(':') is { Length: 3 } words
            && Catalogue.Find(words[2]) is { BaselineName: not null }
        );

    /// <summary>
    /// The column a strange heading most likely means: the same letters, whatever stands between them; null when none.
    /// </summary>
    public static string? Guess(string heading)
    {
        var plain = Bare(heading);
        return plain.Length == 0
            ? null
            : Fixed.FirstOrDefault(c => Bare(c) == plain)
                ?? Aliases.GetValueOrDefault(plain)
                ?? All.FirstOrDefault(c => Bare(c) == plain);
    }

    private static readonly Dictionary<string, string> Aliases = new()
    {
        ["id"] = "mark",
        ["assetnumber"] = "mark",
        ["tagnumber"] = "mark",
        ["serialnumber"] = "serial",
        ["serialno"] = "serial",
        ["manufacturer"] = "maker",
        ["type"] = "family",
        ["wll"] = "rated_load",
        ["swl"] = "rated_load",
        ["workingloadlimit"] = "rated_load",
        ["capacity"] = "rated_load",
        ["length"] = "reach",
        ["location"] = "store",
        ["hook"] = "peg",
        ["lastinspection"] = "last_periodic",
        ["lastinspected"] = "last_periodic",
        ["inspectedby"] = "last_inspector",
        ["inspector"] = "last_inspector",
        ["report"] = "evidence",
        ["certificate"] = "evidence",
        ["remarks"] = "notes",
        ["color"] = "colour",
        ["quantity"] = "lot_count",
    };

    /// <summary>Reads a row.</summary>
    /// <param name="cells">Cells by column; blank where the piece has none.</param>
    /// <param name="stores">The stores there are.</param>
    /// <returns>The piece, the faults by column, and the columns filled in that this family is not asked for.</returns>
    public static (
        PieceEntry? Entry,
        IReadOnlyDictionary<string, string> Faults,
        IReadOnlyList<string> PassedOver
    ) Read(IReadOnlyDictionary<string, string> cells, StoreNames stores)
    {
        var faults = new Dictionary<string, string>();
        var passedOver = new List<string>();
        var fields = new Dictionary<string, string>();
        var family = GearFamilies.Find(Cell("family").ToLowerInvariant());
        if (family is null)
            faults["family"] =
                Cell("family").Length == 0
                    ? "Write the family's code, such as alloy-chain-sling."
                    : $"\"{Cell("family")}\" is no family; write its code, such as alloy-chain-sling.";
        foreach (var (column, text) in cells)
        {
            if (string.IsNullOrWhiteSpace(text))
                continue;
            var cell = text.Trim();
            if (column == "store")
                Store(cell);
            else if (column == TagCarries)
                foreach (var code in cell.Split(' ', StringSplitOptions.RemoveEmptyEntries))
                    fields[PieceEntryReader.TagField(code)] = "true";
            else if (column == Meets)
                foreach (var code in cell.Split(' ', StringSplitOptions.RemoveEmptyEntries))
                    fields[$"meets:{code}"] = "true";
            else if (column == "latch")
                Attribute("hookLatch", column, cell.ToLowerInvariant());
            else if (FieldOf.TryGetValue(column, out var field) && Attributes.Contains(field))
                Attribute(field, column, Plainly(field, cell));
            else if (FieldOf.TryGetValue(column, out field))
                fields[field] = column is "family" or "service_class"
                    ? cell.ToLowerInvariant()
                    : cell.Replace(" | ", "\n", StringComparison.Ordinal);
        }

        if (Cell("store").Length == 0)
            faults["store"] = $"Write the store it hangs in: {stores}.";
        if (Cell(TagCarries).Length == 0)
            fields[PieceEntryReader.TagUnread] = "true";
        if (family is null)
            return (null, faults, passedOver);
        Baselines(PieceEntryReader.Gear(family, fields));
        var without = family
            .Requires.Where(name => !cells.ContainsKey(name == "hookLatch" ? "latch" : Column(name)))
            .ToHashSet();
        var (entry, found) = PieceEntryReader.Read(fields, without);
        foreach (var (field, fault) in found)
        {
            var column =
                field.StartsWith(BaselineStart, StringComparison.Ordinal)
                || field.StartsWith("links:", StringComparison.Ordinal)
                || field.StartsWith("basis:", StringComparison.Ordinal)
                    ? ColumnOfBaseline(field)
                : field == "hookLatch" ? "latch"
                : Column(field);
            faults.TryAdd(column, fault);
        }

        return (faults.Count == 0 ? entry : null, faults, passedOver);

        string Cell(string column) => cells.GetValueOrDefault(column)?.Trim() ?? string.Empty;

        void Store(string name)
        {
            if (stores.IdOf(name) is { } id)
                fields["store"] = id.ToString();
            else
                faults["store"] = $"\"{name}\" is no store; write one of {stores}.";
        }

        void Attribute(string field, string column, string value)
        {
            if (family is null || family.Asks.Contains(field) || PieceEntryReader.OfEveryFamily.Contains(field))
                fields[field] = value;
            else
                passedOver.Add(column);
        }

        void Baselines(GearPiece gear)
        {
            var basis = Cell(Basis).Length == 0 ? "new" : Cell(Basis).ToLowerInvariant();
            var used = new HashSet<string>();
            foreach (var (part, criterion) in PieceEntryReader.BaselinesOf(gear))
            {
                var (value, basisField, links) = PieceEntryReader.Fields(new(part.Path, criterion.Id));
                var own = Cell(value);
                var column = own.Length > 0 ? value : ColumnOf(gear, part.Path, criterion);
                if (column is null || Cell(column).Length == 0)
                    continue;
                used.Add(column);

                // One figure on one part is written 11.25 in over 10 links, catalogue.
                var (figure, over, from) = own.Length > 0 ? Whole(own, basis) : (Cell(column), Cell(GaugeLinks), basis);
                fields[value] = figure;
                fields[basisField] = from;
                if (criterion.OverLinks)
                    fields[links] = over;
            }

            // Gear in use for years was measured today or when new: which of the two is never guessed.
            if (
                used.Any(c => c is Throat or Section or Gauge or Body or Pin)
                && Cell(Basis).Length == 0
                && Cell("last_periodic").Length > 0
            )
                faults[Basis] =
                    "This is gear taken over: say where its figures come from, new, catalogue, twin or provisional.";
            passedOver.AddRange(
                cells
                    .Where(c =>
                        !string.IsNullOrWhiteSpace(c.Value)
                        && (
                            c.Key is Throat or Section or Gauge or Body or Pin
                            || c.Key.StartsWith(BaselineStart, StringComparison.Ordinal)
                        )
                        && !used.Contains(c.Key)
                    )
                    .Select(c => c.Key)
            );
        }
    }

    /// <summary>Writes a piece as a row.</summary>
    /// <param name="entry">The piece.</param>
    /// <param name="stores">The stores there are.</param>
    /// <returns>Cells by column, those with something in them; figures that differ from part to part stand under
    /// columns of their own.</returns>
    public static Dictionary<string, string> Write(PieceEntry entry, StoreNames stores)
    {
        var fields = PieceEntryFields.Of(entry);
        var cells = new Dictionary<string, string>();
        foreach (var (field, value) in fields)
        {
            if (value.Length > 0 && (Plain.Contains(field) || Attributes.Contains(field)))
                cells[field == "hookLatch" ? "latch" : Column(field)] = field is "shoulder" or "hookLatch"
                    ? (value == "true" ? "yes" : "no")
                    : value.Replace("\n", " | ", StringComparison.Ordinal);
        }

        cells["store"] = stores.NameOf(entry.Store);
        if (entry.TagRead && entry.TagEntries.Count > 0)
            cells[TagCarries] = string.Join(' ', entry.TagEntries);
        if (entry.Surroundings.Chemicals.Count > 0)
            cells[Meets] = string.Join(' ', entry.Surroundings.Chemicals.Select(Code.Of));
        var shared = entry
            .Baselines.GroupBy(b => ColumnOf(entry.Gear, b.Key.Part, Catalogue.Find(b.Key.Criterion)!))
            .ToList();
        var basis = entry.Baselines.Values.Select(b => b.Basis).Distinct().ToList();
        if (basis.Count == 1)
            cells[Basis] = Code.Of(basis[0]);
        foreach (var group in shared)
        {
            if (group.Key is { } column && basis.Count == 1 && group.Select(b => b.Value).Distinct().Count() == 1)
            {
                cells[column] = group.First().Value.Length.ToString();
                if (group.First().Value.Links is { } links)
                    cells[GaugeLinks] = links.ToString();
                continue;
            }

            foreach (var (key, figure) in group)
            {
                cells[PieceEntryReader.Fields(key).Value] =
                    $"{figure.Length}{(figure.Links is { } n ? $" over {n} links" : string.Empty)}, {Code.Of(figure.Basis)}";
            }
        }

        return cells;
    }

    /// <summary>A field's column: <c>ratedLoad</c> stands under <c>rated_load</c>.</summary>
    public static string Column(string field) =>
        string.Concat(
            field.Select(c =>
                char.IsUpper(c) ? $"_{char.ToLowerInvariant(c)}"
                : c == ':' ? "_"
                : c.ToString()
            )
        );

    /// <summary>
    /// The fixed column of a measure's figure when new. None where parts of one piece have figures of different kinds:
    /// a coupling is not a top link.
    /// </summary>
    private static string? ColumnOf(GearPiece gear, string part, Criterion criterion) =>
        criterion.FileName is { } named ? BaselineColumn + named
        : part == "body" && PieceEntryReader.BaselinesOf(gear).Count(b => b.Part.Path == part) == 1 ? Body
        : null;

    private static string ColumnOfBaseline(string field) =>
        field.StartsWith("basis:", StringComparison.Ordinal) ? Basis
        : field.StartsWith("links:", StringComparison.Ordinal) ? GaugeLinks
        : Catalogue.Find(field.Split(':')[^1])?.FileName is { } named ? BaselineColumn + named
        : Body;

    /// <summary>A figure with what it stands over and where it comes from: <c>11.25 in over 10 links, catalogue</c>.</summary>
    private static (string Figure, string Links, string Basis) Whole(string cell, string basis)
    {
        var comma = cell.LastIndexOf(',');
        var (figure, from) = comma < 0 ? (cell, basis) : (cell[..comma], cell[(comma + 1)..].Trim());
        var over = figure.IndexOf(" over ", StringComparison.Ordinal);
        return over < 0
            ? (figure, string.Empty, from)
            : (
                figure[..over],
                figure[(over + 6)..].Replace("links", string.Empty, StringComparison.Ordinal).Trim(),
                from
            );
    }

    /// <summary>Choices and yes or no are written in small letters in the records; a spreadsheet may shout.</summary>
    private static string Plainly(string field, string cell) =>
        GearAttributes.Find(field)!.Kind is AttributeKind.Choice or AttributeKind.Flag ? cell.ToLowerInvariant() : cell;

    private static string Bare(string heading) => string.Concat(heading.Where(char.IsLetterOrDigit)).ToLowerInvariant();
}
