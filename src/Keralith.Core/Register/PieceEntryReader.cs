using Keralith.Core.Custody;
using Keralith.Core.Gear;
using Keralith.Core.Judgement;
using Keralith.Core.Quantities;
using Keralith.Core.Schedule;
using Keralith.Core.Tags;

namespace Keralith.Core.Register;

/// <summary>
/// Reads what was typed of a piece, field by field: the one gate for forms, imports and demo data. Every fault is named
/// with its field.
/// </summary>
public static class PieceEntryReader
{
    /// <summary>The field name of a baseline's figure, its basis and its count of links.</summary>
    public static (string Value, string Basis, string Links) Fields(BaselineKey key) =>
        (
            $"baseline:{key.Part}:{key.Criterion}",
            $"basis:{key.Part}:{key.Criterion}",
            $"links:{key.Part}:{key.Criterion}"
        );

    /// <summary>The field name of a tag entry's tick.</summary>
    public static string TagField(string code) => $"tag:{code}";

    /// <summary>The field name of a chemical's tick.</summary>
    public static string ChemicalField(Chemical chemical) => $"meets:{Code.Of(chemical)}";

    /// <summary>
    /// The measures of a piece that need a figure when new, part by part, whichever books come to be worked to.
    /// </summary>
    public static IEnumerable<(Part Part, Criterion Criterion)> BaselinesOf(GearPiece gear) =>
        from part in Catalogue.Parts(gear, RuleBookShelf.All)
        from criterion in part.Criteria
        where criterion is { Kind: CriterionKind.Measure, BaselineName: not null, IsPair: false }
        select (part, criterion);

    /// <summary>Reads the gear alone: family and attributes, for asking the right questions before all is typed.</summary>
    public static GearPiece Gear(GearFamily family, IReadOnlyDictionary<string, string> fields)
    {
        var reader = new FieldReader(fields);
        return Gear(reader, family);
    }

    /// <summary>The attributes stated of every family, beside its own.</summary>
    public static IReadOnlyList<string> OfEveryFamily { get; } = ["ownWeight"];

    /// <summary>The fields that say the marking has not been read, and the fields of fit sizes.</summary>
    public const string TagUnread = "tagUnread";

    /// <summary>The field of a kit's roster, a line each, and of the ratings a marking gives by hitch.</summary>
    public const string Members = "members";

    /// <summary>The field of the ratings a marking gives by hitch and angle, a line each.</summary>
    public const string Ratings = "tagRatings";

    /// <summary>The fields of the sizes that decide what seats in what, with what each asks for.</summary>
    public static IReadOnlyList<(string Field, string Label)> FitFields { get; } =
    [
        ("fit:throat", "Hook: opening at the throat, latch held back"),
        ("fit:bowl", "Hook: width of the bowl"),
        ("fit:section", "Hook: thickness at the bowl"),
        ("fit:inside", "Eye, link or bow: clear opening"),
        ("fit:stock", "Eye, link or bow: thickness where it rests"),
    ];

    /// <summary>Reads a piece.</summary>
    /// <param name="fields">What was typed, by field name: <c>mark</c>, <c>family</c>, attributes by their names, and
    /// so on.</param>
    /// <param name="mayBeAsked">Attributes the family needs that the source had no place for: left out, they are asked
    /// for later.</param>
    /// <returns>The piece, or the faults by field name.</returns>
    public static (PieceEntry? Entry, IReadOnlyDictionary<string, string> Faults) Read(
        IReadOnlyDictionary<string, string> fields,
        IReadOnlySet<string>? mayBeAsked = null
    )
    {
        var reader = new FieldReader(fields);
        var entry = Entry(reader, mayBeAsked ?? new HashSet<string>());
        return (reader.Faults.Count == 0 ? entry : null, reader.Faults);
    }

    /// <summary>The field of others alike: a line each, mark and serial.</summary>
    public const string Alike = "alike";

    /// <summary>The most pieces one form registers.</summary>
    public const int MostAlike = 50;

    /// <summary>
    /// Reads a piece and those alike it: the same in all but mark and serial. A figure measured on the first when it
    /// was new is, for the others,
    /// that of a twin.
    /// </summary>
    /// <returns>The pieces, the first one first; none when there are faults.</returns>
    public static (IReadOnlyList<PieceEntry> Entries, IReadOnlyDictionary<string, string> Faults) ReadAlike(
        IReadOnlyDictionary<string, string> fields
    )
    {
        var (first, faults) = Read(fields);
        var lines = (fields.GetValueOrDefault(Alike) ?? string.Empty).Split(
            '\n',
            StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries
        );
        var all = new Dictionary<string, string>(faults);
        if (lines.Length >= MostAlike)
            all[Alike] = $"At most {MostAlike} pieces at once, the first included; this names {lines.Length + 1}.";
        var others = new List<PieceEntry>();
        foreach (var line in all.Count == 0 ? lines : [])
        {
            var words = line.Split(
                [' ', ',', ';', '\t'],
                2,
                StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries
            );
            var mark = Mark.Read(words.Length > 0 ? words[0] : null);
            var serial = words.Length > 1 ? words[1] : null;
            if (!mark.Ok)
                all[Alike] = $"\"{line}\": {mark.Fault}";
            else if (serial?.Length > FieldReader.LongestText)
                all[Alike] = $"{mark.Value}: a serial has at most {FieldReader.LongestText} letters.";
            else if (mark.Value == first!.Mark || others.Any(o => o.Mark == mark.Value))
                all[Alike] = $"{mark.Value} stands twice.";
            else
                others.Add(
                    first with
                    {
                        CarriedOver = null,
                        Mark = mark.Value,
                        Serial = serial,
                        Baselines = first.Baselines.ToDictionary(
                            b => b.Key,
                            b =>
                                b.Value.Basis == BaselineBasis.New
                                    ? b.Value with
                                    {
                                        Basis = BaselineBasis.Twin,
                                    }
                                    : b.Value
                        ),
                    }
                );
        }

        return (all.Count == 0 ? [first!, .. others] : [], all);
    }

    private static PieceEntry? Entry(FieldReader r, IReadOnlySet<string> mayBeAsked)
    {
        var mark = Mark.Read(r.Typed("mark"));
        if (!mark.Ok)
            r.Refuse("mark", mark.Fault!);
        if (GearFamilies.Find(r.Typed("family") ?? string.Empty) is not { } family)
        {
            r.Refuse("family", "Choose the family.");
            return null;
        }

        var gear = Gear(r, family);
        foreach (var name in family.Requires)
        {
            if (!gear.Values.ContainsKey(name) && !r.HasFault(name) && !mayBeAsked.Contains(name))
                r.Refuse(name, $"{GearAttributes.Find(name)!.Label} is needed to judge it.");
        }

        var entry = new PieceEntry
        {
            Mark = mark.Ok ? mark.Value : default,
            Gear = gear,
            TagEntries = family.TagEntries.Select(e => e.Code).Where(c => r.Ticked(TagField(c))).ToList(),
            TagRead = !r.Ticked(TagUnread),
            Surroundings = Surroundings.Ordinary with
            {
                Chemicals = Enum.GetValues<Chemical>().Where(c => r.Ticked(ChemicalField(c))).ToList(),
            },
            Baselines = Baselines(r, gear),
            ServiceClass = ServiceClass.Normal,
            Store = 0,
            Peg = string.Empty,
        };
        entry = PieceFields.All.Aggregate(entry, (read, field) => field.Read(r, read));
        if (family.Kind == GearKind.Kit)
            return entry;
        if (entry.Details.Tag.LegTable.Count > 0)
            r.Refuse(Ratings, "Ratings by legs used are a kit's own table: for a sling name hitch and angle.");
        return entry with { Details = entry.Details with { Members = [] } };
    }

    /// <summary>Reads figures when new alone.</summary>
    /// <returns>The figures, and the faults by field name.</returns>
    public static (Dictionary<BaselineKey, BaselineFigure> Figures, IReadOnlyDictionary<string, string> Faults) Figures(
        GearPiece gear,
        IReadOnlyDictionary<string, string> fields
    )
    {
        var reader = new FieldReader(fields);
        return (Baselines(reader, gear), reader.Faults);
    }

    /// <summary>Reads the details alone, from fields that were accepted before: what can't be read there is none.</summary>
    public static PieceDetails Details(IReadOnlyDictionary<string, string> fields)
    {
        var reader = new FieldReader(fields);
        return PieceFields.Details.Aggregate(PieceDetails.None, (read, field) => field.ReadDetail(reader, read));
    }

    private static GearPiece Gear(FieldReader r, GearFamily family)
    {
        var values = new Dictionary<string, AttributeValue>();
        foreach (var name in family.Asks.Union(OfEveryFamily))
        {
            if (r.Typed(name) is not { } typed)
                continue;
            var value = GearAttributes.Find(name)!.Read(typed);
            if (value is { Ok: true, Value: LengthValue length })
                _ = r.Sized(name, length.Length);
            if ((value.Ok ? GearPiece.FaultOf(family, name, value.Value) : value.Fault) is { } fault)
                r.Refuse(name, $"{fault}.");
            else
                values[name] = value.Value;
        }

        return new(family, values);
    }

    private static Dictionary<BaselineKey, BaselineFigure> Baselines(FieldReader r, GearPiece gear)
    {
        var baselines = new Dictionary<BaselineKey, BaselineFigure>();
        foreach (var (part, criterion) in BaselinesOf(gear))
        {
            var key = new BaselineKey(part.Path, criterion.Id);
            var (valueField, basisField, linksField) = Fields(key);
            if (r.Typed(valueField) is null)
                continue;
            var length = r.Value(valueField, Length.Read);
            if (length?.Millimetres <= 0)
            {
                r.Refuse(valueField, PieceEntry.FigureOverNothing);
                length = null;
            }

            var basis = Code.Find<BaselineBasis>(r.Typed(basisField) ?? "new");
            if (basis is null)
                r.Refuse(basisField, "Choose where the figure comes from.");
            int? links = null;
            if (criterion.OverLinks)
            {
                if (
                    int.TryParse(r.Typed(linksField), System.Globalization.NumberStyles.None, null, out var count)
                    && count is >= 1 and <= 1000
                )
                    links = count;
                else
                    r.Refuse(linksField, "Over how many links? Write a whole number.");
            }

            if (length is { } l && basis is { } b)
                baselines[key] = new(l, b, links);
        }

        return baselines;
    }
}
