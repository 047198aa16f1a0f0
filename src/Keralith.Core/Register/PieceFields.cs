using Keralith.Core.Gear;
using Keralith.Core.People;
using Keralith.Core.Quantities;
using Keralith.Core.Schedule;
using Keralith.Core.Tags;
using static Keralith.Core.Register.ChangeMeaning;

namespace Keralith.Core.Register;

/// <summary>
/// The fields of a piece, in the order they are told: the one table that form, file, document, record and history share.
/// What a family asks (attributes), what a marking carries, what a piece meets and figures when new are as many as the gear
/// has, and stand beside it by the start of their names.
/// </summary>
public static class PieceFields
{
    private const int LongestNotes = 2000;

    /// <summary>Marked for a hitch: slings, and what is put together as one.</summary>
    private static readonly Func<GearFamily, bool> Hitched = f =>
        f.Group == FamilyGroup.Sling || f.Kind == GearKind.Kit;

    /// <summary>Synthetics age, and their makers may set a day.</summary>
    private static readonly Func<GearFamily, bool> Synthetic = f =>
        f.Kind is GearKind.Web or GearKind.Roundsling or GearKind.FiberRope or GearKind.Net;

    private static readonly Func<PieceEntry, PieceEntry, (ChangeMeaning, Right)> Slip = Always(
        SlipOfThePen,
        Right.Register
    );

    /// <summary>Judged again; who may change facts.</summary>
    private static readonly Func<PieceEntry, PieceEntry, (ChangeMeaning, Right)> Fact = Always(
        JudgedAgain,
        Right.ChangeFacts
    );

    /// <summary>Judged again; who may change figures.</summary>
    private static readonly Func<PieceEntry, PieceEntry, (ChangeMeaning, Right)> Figure = Always(
        JudgedAgain,
        Right.ChangeFigures
    );

    /// <summary>Every field.</summary>
    public static IReadOnlyList<PieceField> All { get; } =
    [
        // The mark and the family are read before anything else can be.
        new("mark", "mark")
        {
            IsOwn = true,
            IsApart = true,
            Write = e => e.Mark.Text,
            Change = Fact,
        },
        new("family", "family")
        {
            Form = FieldForm.Apart,
            Write = e => e.Gear.Family.Code,
            Change = Fact,
        },
        Text("serial", "serial", Slip, e => e.Serial, (e, v) => e with { Serial = v }) with
        {
            IsOwn = true,
        },
        Text("maker", "maker", (a, b) => Respelled(a.Maker, b.Maker), e => e.Maker, (e, v) => e with { Maker = v }),
        Text("model", "model", (a, b) => Respelled(a.Model, b.Model), e => e.Model, (e, v) => e with { Model = v }),
        Text("batch", "batch", Slip, e => e.Batch, (e, v) => e with { Batch = v }),
        new("ratedLoad", "rated load")
        {
            Write = e => e.RatedLoad?.ToString() ?? string.Empty,
            Read = (r, e) => e with { RatedLoad = RatedLoadOf(r) },
            Change = RatedLoad,
        },
        new("designFactor", "design factor")
        {
            Form = FieldForm.Number,
            Write = e => e.DesignFactor is { } factor ? QuantityFormat.Number(factor) : string.Empty,
            Read = (r, e) => e with { DesignFactor = DesignFactorOf(r) },
            Change = Fact,
        },
        Text("ratedFor", "what it is rated for", Fact, e => e.RatedFor, (e, v) => e with { RatedFor = v }),
        PieceField.Detail(
            "ratedAs",
            "how the marking names the load",
            Fact,
            d => d.Tag.RatedAs == default ? null : Code.Of(d.Tag.RatedAs),
            (r, d) => d with { Tag = d.Tag with { RatedAs = r.Choice("ratedAs", RatedAs.RatedLoad) } }
        ),
        PieceField.Detail(
            "ratedHitch",
            "hitch of the rating",
            Fact,
            d => d.Tag.Hitch is { } hitch ? Code.Of(hitch) : null,
            (r, d) => d with { Tag = d.Tag with { Hitch = r.ChoiceOrNone<Hitch>("ratedHitch") } }
        ) with
        {
            IsAskedOf = Hitched,
        },
        PieceField.Detail(
            "ratedAngle",
            "angle of the rating",
            Fact,
            d => d.Tag.Angle?.ToString(),
            (r, d) => d with { Tag = d.Tag with { Angle = RatedAngleOf(r) } }
        ) with
        {
            IsAskedOf = Hitched,
        },
        PieceField.Detail(
            PieceEntryReader.Ratings,
            "ratings by hitch and angle",
            Fact,
            d => string.Join('\n', d.Tag.Ratings),
            (r, d) =>
                d with
                {
                    Tag = d.Tag with
                    {
                        Ratings = r.Lines(PieceEntryReader.Ratings, MarkedRating.Most, MarkedRating.Read),
                    },
                }
        ) with
        {
            Form = FieldForm.Lines,
            IsAskedOf = Hitched,
        },
        PieceField.Detail(
            "legibility",
            "legibility",
            Fact,
            d => d.Tag.Legibility == default ? null : Code.Of(d.Tag.Legibility),
            (r, d) => d with { Tag = d.Tag with { Legibility = r.Choice("legibility", Legibility.Clear) } }
        ),
        PieceField.Detail(
            "markingAt",
            "place of the marking",
            Fact,
            d => d.Tag.Place is { } place ? Code.Of(place) : null,
            (r, d) => d with { Tag = d.Tag with { Place = r.ChoiceOrNone<MarkingPlace>("markingAt") } }
        ),
        new("serviceClass", "service class")
        {
            Write = e => Code.Of(e.ServiceClass),
            Read = (r, e) => e with { ServiceClass = ServiceClassOf(r) },
            Change = (a, b) => Milder(b.ServiceClass < a.ServiceClass),
        },
        Day("inServiceSince", "in service since", Fact, e => e.InServiceSince, (e, v) => e with { InServiceSince = v }),
        Day(
            "calibrationDue",
            "calibration due",
            Figure,
            e => e.CalibrationDue,
            (e, v) => e with { CalibrationDue = v }
        ) with
        {
            IsAskedOf = f => f.Kind == GearKind.LoadIndicator,
        },
        PieceField.Detail(
            "discardOn",
            "discard date",
            (a, b) => Milder(IsLater(b.Details.DiscardOn, a.Details.DiscardOn)),
            d => Written(d.DiscardOn),
            (r, d) => d with { DiscardOn = r.Day("discardOn") }
        ) with
        {
            Form = FieldForm.Day,
            IsOwn = true,
            IsAskedOf = Synthetic,
        },
        PieceField.Detail(
            "proofTestDue",
            "proof test due",
            Figure,
            d => Written(d.ProofTestDue),
            (r, d) => d with { ProofTestDue = r.Day("proofTestDue") }
        ) with
        {
            Form = FieldForm.Day,
            IsOwn = true,
        },
        new("lotCount", "pieces in the lot")
        {
            Form = FieldForm.Number,
            IsOwn = true,
            IsAskedOf = f => f.Group == FamilyGroup.Hardware,
            IsApart = true,
            Write = e => e.LotCount?.ToString() ?? string.Empty,
            Read = (r, e) => e with { LotCount = LotCountOf(r, e.Gear.Family) },
            Change = LotCount,
        },
        new("store", "store")
        {
            Form = FieldForm.Apart,
            IsApart = true,
            Write = e => e.Store.ToString(),
            Read = (r, e) => e with { Store = StoreOf(r) },
            Change = Slip,
        },
        new("peg", "peg")
        {
            IsOwn = true,
            IsApart = true,
            Write = e => e.Peg,
            Read = (r, e) => e with { Peg = r.Text("peg") ?? string.Empty },
            Change = Slip,
        },
        PieceField.Detail(
            "notes",
            "notes",
            Slip,
            d => d.Notes,
            (r, d) => d with { Notes = r.Text("notes", LongestNotes) }
        ) with
        {
            IsOwn = true,
        },
        Met("coldest", "coldest it works in", -1, m => m.Coldest, (m, v) => m with { Coldest = v }),
        Met("hottest", "hottest it works in", 1, m => m.Hottest, (m, v) => m with { Hottest = v }),
        Met("hasMet", "hottest it has met", 1, m => m.HasMet, (m, v) => m with { HasMet = v }) with
        {
            IsOwn = true,
        },
        Text(
            "makersWord",
            "the maker's word",
            Figure,
            e => e.Surroundings.MakersWord,
            (e, v) => e with { Surroundings = e.Surroundings with { MakersWord = v } }
        ),
        PieceField.Detail(
            "ratingPaper",
            "maker's paper for a rating above the usual one",
            (a, b) => Freed(b.Details.RatingPaper is not null),
            d => d.RatingPaper,
            (r, d) => d with { RatingPaper = r.Text("ratingPaper") }
        ),
        PieceField.Detail(
            "makersAngle",
            "angle off plumb its maker states",
            (a, b) => Freed(b.Details.MakersAngle?.Angle > (a.Details.MakersAngle?.Angle ?? default)),
            d => d.MakersAngle?.ToString(),
            (r, d) => d with { MakersAngle = r.Stated("makersAngle", MakersAngle.Read) }
        ) with
        {
            IsAskedOf = f => f.Kind is GearKind.HungHandHoist or GearKind.PoweredHoist,
        },
        PieceField.Detail(
            "calculation",
            "calculation it was made by",
            (a, b) => Freed(b.Details.Calculation is not null),
            d => d.Calculation,
            (r, d) => d with { Calculation = r.Text("calculation") }
        ) with
        {
            IsOwn = true,
            IsAskedOf = f => f.Kind == GearKind.LiftingPoint,
        },
        PieceField.Detail(
            PieceEntryReader.Members,
            "roster",
            Always(InspectedAgain, Right.ChangeFacts),
            d => string.Join('\n', d.Members),
            (r, d) => d with { Members = r.Lines(PieceEntryReader.Members, KitMember.Most, KitMember.Read) }
        ) with
        {
            Form = FieldForm.Lines,
            IsAskedOf = f => f.Kind == GearKind.Kit,
        },
        Report("lastPeriodic", "last periodic elsewhere", c => Written(c.LastPeriodic)) with
        {
            Form = FieldForm.Day,
            Read = (r, e) => e with { CarriedOver = CarriedOverOf(r) },
        },
        Report("lastInspector", "inspector elsewhere", c => c.Inspector),
        Report("evidence", "report", c => c.Evidence),
        .. FitSize("fit:throat", f => f.Throat, (f, v) => f with { Throat = v }),
        .. FitSize("fit:bowl", f => f.Bowl, (f, v) => f with { Bowl = v }),
        .. FitSize("fit:section", f => f.Section, (f, v) => f with { Section = v }),
        .. FitSize("fit:inside", f => f.Inside, (f, v) => f with { Inside = v }),
        .. FitSize("fit:stock", f => f.Stock, (f, v) => f with { Stock = v }),
    ];

    private static readonly Dictionary<string, PieceField> ByName = All.ToDictionary(f => f.Name);

    /// <summary>The fields kept among a piece's details.</summary>
    public static IReadOnlyList<PieceField> Details { get; } = [.. All.Where(f => f.IsDetail)];

    /// <summary>The field of a name; null where it is none of these.</summary>
    public static PieceField? Find(string name) => ByName.GetValueOrDefault(name);

    private static PieceField Text(
        string name,
        string label,
        Func<PieceEntry, PieceEntry, (ChangeMeaning, Right)> change,
        Func<PieceEntry, string?> write,
        Func<PieceEntry, string?, PieceEntry> put
    ) =>
        new(name, label)
        {
            Change = change,
            Write = e => write(e) ?? string.Empty,
            Read = (r, e) => put(e, r.Text(name)),
        };

    private static PieceField Day(
        string name,
        string label,
        Func<PieceEntry, PieceEntry, (ChangeMeaning, Right)> change,
        Func<PieceEntry, DateOnly?> write,
        Func<PieceEntry, DateOnly?, PieceEntry> put
    ) =>
        new(name, label)
        {
            Form = FieldForm.Day,
            IsOwn = true,
            Change = change,
            Write = e => Written(write(e)),
            Read = (r, e) => put(e, r.Day(name)),
        };

    /// <param name="sign">1 where more is more heat, -1 where less is more cold.</param>
    private static PieceField Met(
        string name,
        string label,
        int sign,
        Func<Surroundings, Temperature?> of,
        Func<Surroundings, Temperature?, Surroundings> put
    ) =>
        new(name, label)
        {
            Change = (a, b) => Milder(IsLess(of(b.Surroundings), of(a.Surroundings), sign)),
            Write = e => of(e.Surroundings)?.ToString() ?? string.Empty,
            Read = (r, e) => e with { Surroundings = put(e.Surroundings, r.Value(name, Temperature.Read)) },
        };

    /// <summary>A part of the report it was taken over with: read as one, kept apart.</summary>
    private static PieceField Report(string name, string label, Func<CarriedOver, string> write) =>
        new(name, label)
        {
            IsOwn = true,
            IsApart = true,
            Change = Figure,
            Write = e => e.CarriedOver is { } report ? write(report) : string.Empty,
        };

    private static PieceField[] FitSize(
        string name,
        Func<FitSizes, Length?> of,
        Func<FitSizes, Length?, FitSizes> put
    ) =>
        [
            PieceField.Detail(
                name,
                PieceFacts.Lower(PieceEntryReader.FitFields.First(f => f.Field == name).Label),
                Fact,
                d => of(d.Fit)?.ToString(),
                (r, d) => d with { Fit = put(d.Fit, r.Size(name)) }
            ) with
            {
                Form = FieldForm.Apart,
            },
        ];

    private static string Written(DateOnly? day) => day?.ToString("yyyy-MM-dd") ?? string.Empty;

    private static Mass? RatedLoadOf(FieldReader r)
    {
        var load = r.Value("ratedLoad", Mass.Read);
        if (load?.Kilograms <= 0)
            r.Refuse("ratedLoad", "A rated load is over 0.");
        return load;
    }

    private static decimal? DesignFactorOf(FieldReader r)
    {
        var factor = r.Value("designFactor", Factor);
        if (factor is < 1 or > 20)
            r.Refuse("designFactor", "A design factor lies between 1 and 20, such as 4.");
        return factor;
    }

    /// <summary>A design factor as it is typed or as it is marked: <c>4</c> or <c>4:1</c>.</summary>
    private static Checked<decimal> Factor(string text) =>
        QuantityText.Bare(
            text.Replace(" ", string.Empty, StringComparison.Ordinal) is var plain
            && plain.EndsWith(":1", StringComparison.Ordinal)
                ? plain[..^2]
                : text,
            "4"
        );

    private static Angle? RatedAngleOf(FieldReader r)
    {
        var angle = r.Value("ratedAngle", Angle.ReadHorizontal);
        if (angle?.Degrees is <= 0 or > 90)
            r.Refuse(
                "ratedAngle",
                "An angle from the horizontal lies over 0 and up to 90 deg; 60 deg from the horizontal is 30 deg from the vertical."
            );
        return angle;
    }

    private static ServiceClass ServiceClassOf(FieldReader r)
    {
        if (Code.Find<ServiceClass>(r.Typed("serviceClass") ?? Code.Of(ServiceClass.Normal)) is { } service)
            return service;
        r.Refuse("serviceClass", "Choose normal, heavy or severe.");
        return ServiceClass.Normal;
    }

    private static int StoreOf(FieldReader r)
    {
        var store = int.TryParse(r.Typed("store"), out var id) ? id : 0;
        if (store <= 0)
            r.Refuse("store", "Choose the store it hangs in.");
        return store;
    }

    private static int? LotCountOf(FieldReader r, GearFamily family)
    {
        if (r.Typed("lotCount") is not { } typed)
            return null;
        if (family.Group != FamilyGroup.Hardware)
            r.Refuse("lotCount", "Only small hardware is kept as a lot; every other piece has a mark of its own.");
        else if (int.TryParse(typed, System.Globalization.NumberStyles.None, null, out var count) && count <= 100_000)
            return count;
        else
            r.Refuse("lotCount", $"\"{typed}\" should be a whole number up to 100000.");
        return null;
    }

    private static CarriedOver? CarriedOverOf(FieldReader r)
    {
        const string Whole = "A report is taken over with its date, inspector and name: write";
        var (on, by, evidence) = (r.Day("lastPeriodic"), r.Text("lastInspector"), r.Text("evidence"));
        if (on is null && by is null && evidence is null)
            return null;
        if (on is null)
            r.Refuse("lastPeriodic", $"{Whole} the date of the last periodic inspection.");
        if (by is null)
            r.Refuse("lastInspector", $"{Whole} who inspected it.");
        if (evidence is null)
            r.Refuse("evidence", $"{Whole} the report's name or number.");
        return on is { } day && by is not null && evidence is not null ? new(day, by, evidence) : null;
    }

    internal static Func<PieceEntry, PieceEntry, (ChangeMeaning, Right)> Always(ChangeMeaning means, Right needs) =>
        (_, _) => (means, needs);

    /// <summary>Stricter may be said by whoever keeps the register; milder waits for a full inspection.</summary>
    internal static (ChangeMeaning, Right) Milder(bool milder) =>
        milder ? (InspectedAgain, Right.ChangeFigures) : (JudgedAgain, Right.Register);

    /// <summary>What frees a piece from a rule is entered with its paper by whoever may change figures.</summary>
    private static (ChangeMeaning, Right) Freed(bool freer) =>
        (JudgedAgain, freer ? Right.ChangeFigures : Right.Register);

    /// <summary>A maker's limits go by the name: another spelling is none of another maker.</summary>
    private static (ChangeMeaning, Right) Respelled(string? before, string? after) =>
        Spelling.Same(before, after) ? (SlipOfThePen, Right.Register) : (JudgedAgain, Right.ChangeFacts);

    /// <summary>A marking read for the first time brings its load; a load raised later is another matter.</summary>
    private static (ChangeMeaning, Right) RatedLoad(PieceEntry before, PieceEntry after)
    {
        var raised = after.RatedLoad is { } now && (before.RatedLoad is not { } was || now.Kilograms > was.Kilograms);
        return !raised || (before.RatedLoad is null && !before.TagRead && after.TagRead)
            ? (JudgedAgain, Right.ChangeFacts)
            : (InspectedAgain, Right.ChangeFigures);
    }

    private static (ChangeMeaning, Right) LotCount(PieceEntry before, PieceEntry after) =>
        after.LotCount is { } now && before.LotCount is { } was && now <= was
            ? (SlipOfThePen, Right.Register)
            : (InspectedAgain, Right.ChangeFigures);

    /// <summary>Whether a last day was moved on, or taken away.</summary>
    private static bool IsLater(DateOnly? after, DateOnly? before) =>
        before is not null && (after is null || after > before);

    /// <summary>Whether a temperature says less heat (sign 1) or less cold (sign -1) than before.</summary>
    private static bool IsLess(Temperature? after, Temperature? before, int sign) =>
        before is { } was && (after is not { } now || Math.Sign(was.Celsius - now.Celsius) == sign);
}
