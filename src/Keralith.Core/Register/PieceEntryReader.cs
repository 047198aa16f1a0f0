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
public sealed class PieceEntryReader
{
    private const int LongestText = 120;
    private const int LongestNotes = 2000;

    /// <summary>A design factor as it is typed or as it is marked: <c>4</c> or <c>4:1</c>.</summary>
    private static Checked<decimal> Factor(string text) =>
        QuantityText.Bare(
            text.Replace(" ", string.Empty, StringComparison.Ordinal) is var plain
            && plain.EndsWith(":1", StringComparison.Ordinal)
                ? plain[..^2]
                : text,
            "4"
        );

    private static readonly Length LargestSize = Length.FromMillimetres(2000);
    private static readonly Length LongestReach = Length.FromMillimetres(1_000_000);

    private readonly IReadOnlyDictionary<string, string> _fields;
    private readonly Dictionary<string, string> _faults = [];

    private PieceEntryReader(IReadOnlyDictionary<string, string> fields) => _fields = fields;

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
        var reader = new PieceEntryReader(fields);
        return reader.Gear(family);
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
        var reader = new PieceEntryReader(fields);
        var entry = reader.Entry(mayBeAsked ?? new HashSet<string>());
        return (reader._faults.Count == 0 ? entry : null, reader._faults);
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
            else if (serial?.Length > LongestText)
                all[Alike] = $"{mark.Value}: a serial has at most {LongestText} letters.";
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

    private PieceEntry? Entry(IReadOnlySet<string> mayBeAsked)
    {
        var mark = Mark.Read(Typed("mark"));
        if (!mark.Ok)
            Refuse("mark", mark.Fault!);
        if (GearFamilies.Find(Typed("family") ?? string.Empty) is not { } family)
        {
            Refuse("family", "Choose the family.");
            return null;
        }

        var gear = Gear(family);
        foreach (var name in family.Requires)
        {
            if (!gear.Values.ContainsKey(name) && !_faults.ContainsKey(name) && !mayBeAsked.Contains(name))
                Refuse(name, $"{GearAttributes.Find(name)!.Label} is needed to judge it.");
        }

        var ratedLoad = Read("ratedLoad", Mass.Read);
        if (ratedLoad?.Kilograms <= 0)
            Refuse("ratedLoad", "A rated load is over 0.");
        var factor = Read("designFactor", Factor);
        if (factor is <= 0 or > 20)
            Refuse("designFactor", "A design factor lies between 1 and 20, such as 4.");
        var service = Code.Find<ServiceClass>(Typed("serviceClass") ?? "normal");
        if (service is null)
            Refuse("serviceClass", "Choose normal, heavy or severe.");
        var since = Date("inServiceSince");
        var store = int.TryParse(Typed("store"), out var id) ? id : 0;
        if (store <= 0)
            Refuse("store", "Choose the store it hangs in.");
        var baselines = Baselines(gear);
        var details = Details();
        if (family.Kind != GearKind.Kit && details.Tag.LegTable.Count > 0)
            Refuse(Ratings, "Ratings by legs used are a kit's own table: for a sling name hitch and angle.");
        var entry = new PieceEntry
        {
            Mark = mark.Ok ? mark.Value : default,
            Gear = gear,
            Serial = Text("serial"),
            Maker = Text("maker"),
            Model = Text("model"),
            RatedLoad = ratedLoad,
            DesignFactor = factor,
            RatedFor = Text("ratedFor"),
            Surroundings = new(
                Read("coldest", Temperature.Read),
                Read("hottest", Temperature.Read),
                Read("hasMet", Temperature.Read),
                Enum.GetValues<Chemical>().Where(c => Ticked(ChemicalField(c))).ToList()
            )
            {
                MakersWord = Text("makersWord"),
            },
            TagEntries = family.TagEntries.Select(e => e.Code).Where(c => Ticked(TagField(c))).ToList(),
            ServiceClass = service ?? ServiceClass.Normal,
            InServiceSince = since,
            Store = store,
            Peg = Text("peg") ?? string.Empty,
            Baselines = baselines,
            TagRead = !Ticked(TagUnread),
            TagWords = details.Tag,
            Batch = Text("batch"),
            CalibrationDue = Date("calibrationDue"),
            LotCount = Lot(family),
            Fit = details.Fit,
            Members = family.Kind == GearKind.Kit ? details.Members : [],
            CarriedOver = Carried(),
            Notes = details.Notes,
            DiscardOn = details.DiscardOn,
            ProofTestDue = details.ProofTestDue,
        };
        return entry;
    }

    private PieceDetails Details()
    {
        return new(
            Marked(),
            new(Fit(0), Fit(1), Fit(3), Fit(4), Fit(2)),
            Lines(Members, KitMember.Most, KitMember.Read),
            Text("notes", LongestNotes)
        )
        {
            DiscardOn = Date("discardOn"),
            ProofTestDue = Date("proofTestDue"),
        };

        Length? Fit(int i) =>
            Read(FitFields[i].Field, Length.Read) is { } size ? Sized(FitFields[i].Field, size) : null;
    }

    /// <summary>Reads figures when new alone.</summary>
    /// <returns>The figures, and the faults by field name.</returns>
    public static (Dictionary<BaselineKey, BaselineFigure> Figures, IReadOnlyDictionary<string, string> Faults) Figures(
        GearPiece gear,
        IReadOnlyDictionary<string, string> fields
    )
    {
        var reader = new PieceEntryReader(fields);
        return (reader.Baselines(gear), reader._faults);
    }

    /// <summary>Reads the details alone, from fields that were accepted before.</summary>
    public static PieceDetails Details(IReadOnlyDictionary<string, string> fields) =>
        new PieceEntryReader(fields).Details();

    private TagWords Marked()
    {
        var rated = Choice("ratedAs", RatedAs.RatedLoad);
        var legibility = Choice("legibility", Legibility.Clear);
        Hitch? hitch = Typed("ratedHitch") is null ? null : Choice("ratedHitch", Hitch.Vertical);
        MarkingPlace? place = Typed("markingAt") is null ? null : Choice("markingAt", MarkingPlace.Tag);
        var angle = Read("ratedAngle", Angle.ReadHorizontal);
        if (angle?.Degrees is <= 0 or > 90)
            Refuse(
                "ratedAngle",
                "An angle from the horizontal lies over 0 and up to 90 deg; 60 deg from the horizontal is 30 deg from the vertical."
            );
        return new(rated, hitch, angle, Lines(Ratings, MarkedRating.Most, MarkedRating.Read), legibility, place);
    }

    private int? Lot(GearFamily family)
    {
        if (Typed("lotCount") is not { } typed)
            return null;
        if (family.Group != FamilyGroup.Hardware)
            Refuse("lotCount", "Only small hardware is kept as a lot; every other piece has a mark of its own.");
        else if (int.TryParse(typed, System.Globalization.NumberStyles.None, null, out var count) && count <= 100_000)
            return count;
        else
            Refuse("lotCount", $"\"{typed}\" should be a whole number up to 100000.");
        return null;
    }

    private CarriedOver? Carried()
    {
        var (on, by, evidence) = (Date("lastPeriodic"), Text("lastInspector"), Text("evidence"));
        if (on is null && by is null && evidence is null)
            return null;
        if (on is null && !_faults.ContainsKey("lastPeriodic"))
            Refuse(
                "lastPeriodic",
                "A report is taken over with its date, inspector and name: write the date of the last periodic inspection."
            );
        if (by is null)
            Refuse(
                "lastInspector",
                "A report is taken over with its date, inspector and name: write who inspected it."
            );
        if (evidence is null)
            Refuse(
                "evidence",
                "A report is taken over with its date, inspector and name: write the report's name or number."
            );
        return on is { } day && by is not null && evidence is not null ? new(day, by, evidence) : null;
    }

    private List<T> Lines<T>(string field, int most, Func<string, Checked<T>> read)
    {
        var lines = (Typed(field) ?? string.Empty).Split(
            '\n',
            StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries
        );
        if (lines.Length > most)
            Refuse(field, $"At most {most} lines.");
        var values = new List<T>();
        foreach (var line in lines.Take(most))
        {
            var value = read(line);
            if (value.Ok)
                values.Add(value.Value);
            else
                Refuse(field, $"{value.Fault}.");
        }

        return values;
    }

    private T Choice<T>(string field, T usual)
        where T : struct, Enum
    {
        if (Typed(field) is not { } typed)
            return usual;
        if (Code.Find<T>(typed) is { } chosen)
            return chosen;
        Refuse(field, $"\"{typed}\" should be one of {string.Join(", ", Enum.GetValues<T>().Select(Code.Of))}.");
        return usual;
    }

    /// <summary>Sizes no rigging gear has are a slip of the unit.</summary>
    private Length? Sized(string field, Length size)
    {
        var most = field is "reach" or "width" or "lift" or "circumference" or "span" ? LongestReach : LargestSize;
        if (size.Millimetres > 0 && size <= most)
            return size;
        Refuse(
            field,
            size.Millimetres <= 0
                ? "A size is over 0."
                : $"{size} is larger than any gear of this kind; check the figure and its unit."
        );
        return null;
    }

    private GearPiece Gear(GearFamily family)
    {
        var values = new Dictionary<string, AttributeValue>();
        foreach (var name in family.Asks.Union(OfEveryFamily))
        {
            if (Typed(name) is not { } typed)
                continue;
            var value = GearAttributes.Find(name)!.Read(typed);
            if (value is { Ok: true, Value: LengthValue length })
                _ = Sized(name, length.Length);
            if (value.Ok)
                values[name] = value.Value;
            else
                Refuse(name, $"{value.Fault}.");
        }

        return new(family, values);
    }

    private Dictionary<BaselineKey, BaselineFigure> Baselines(GearPiece gear)
    {
        var baselines = new Dictionary<BaselineKey, BaselineFigure>();
        foreach (var (part, criterion) in BaselinesOf(gear))
        {
            var key = new BaselineKey(part.Path, criterion.Id);
            var (valueField, basisField, linksField) = Fields(key);
            if (Typed(valueField) is null)
                continue;
            var length = Read(valueField, Length.Read);
            if (length?.Millimetres <= 0)
            {
                Refuse(valueField, "A figure when new is over 0.");
                length = null;
            }

            var basis = Code.Find<BaselineBasis>(Typed(basisField) ?? "new");
            if (basis is null)
                Refuse(basisField, "Choose where the figure comes from.");
            int? links = null;
            if (criterion.OverLinks)
            {
                if (
                    int.TryParse(Typed(linksField), System.Globalization.NumberStyles.None, null, out var count)
                    && count is >= 1 and <= 1000
                )
                    links = count;
                else
                    Refuse(linksField, "Over how many links? Write a whole number.");
            }

            if (length is { } l && basis is { } b)
                baselines[key] = new(l, b, links);
        }

        return baselines;
    }

    private bool Ticked(string name) => Typed(name) is "true" or "on" or "yes";

    private string? Typed(string name)
    {
        if (!_fields.TryGetValue(name, out var text) || string.IsNullOrWhiteSpace(text))
            return null;
        if (FreeText.FaultOf(text) is not { } fault)
            return text.Trim();
        Refuse(name, $"{fault}; write it again.");
        return null;
    }

    private string? Text(string name, int most = LongestText)
    {
        var text = Typed(name);
        if (text is not null && FreeText.Letters(text) is var letters && letters > most)
            Refuse(name, $"At most {most} letters; this has {letters}.");
        return text;
    }

    private T? Read<T>(string name, Func<string, Checked<T>> read)
        where T : struct
    {
        if (Typed(name) is not { } typed)
            return null;
        var value = read(typed);
        if (value.Ok)
            return value.Value;
        Refuse(name, $"{value.Fault}.");
        return null;
    }

    private DateOnly? Date(string name)
    {
        var day = DayReader.Read(Typed(name));
        if (!day.Ok)
            Refuse(name, day.Fault!);
        return day.Ok ? day.Value : null;
    }

    private void Refuse(string field, string fault) =>
        _faults.TryAdd(field, char.ToUpperInvariant(fault[0]) + fault[1..]);
}
