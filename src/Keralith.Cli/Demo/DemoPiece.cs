using Keralith.Core.Gear;
using Keralith.Core.Judgement;
using Keralith.Core.Quantities;
using Keralith.Core.Register;

namespace Keralith.Cli.Demo;

/// <summary>What a demo piece is like: its form as somebody would type it, and how it wears.</summary>
internal sealed class DemoPiece
{
    private readonly Dictionary<string, string> _fields = [];
    private readonly Dictionary<BaselineKey, decimal> _wear = [];
    private readonly Random _random;

    private DemoPiece(string mark, Random random)
    {
        _random = random;
        _fields["mark"] = mark;
    }

    public string Mark => _fields["mark"];

    public IReadOnlyDictionary<string, string> Fields => _fields;

    public static DemoPiece Sling(
        string mark,
        ScenarioChain make,
        int legs,
        string end,
        decimal reachFeet,
        Random random
    )
    {
        var piece = new DemoPiece(mark, random);
        var share =
            legs switch
            {
                1 => 1m,
                2 => 2m,
                _ => 3m,
            } * (legs == 1 ? 1m : 0.8660254m);
        var metric = make.RatedKg is not null;
        var rated = (metric ? make.RatedKg!.Value : make.RatedLb!.Value) * share;
        piece.Identity(
            "alloy-chain-sling",
            make.Maker,
            make.Model,
            metric ? $"{Math.Floor(rated / 50) * 50} kg" : $"{Math.Floor(rated / 100) * 100} lb"
        );
        piece._fields["ratedFor"] = legs == 1 ? "one leg, vertical" : $"{legs} legs at 60 deg from horizontal";
        piece._fields["ratedHitch"] = "vertical";
        if (legs > 1)
            piece._fields["ratedAngle"] = "60 deg";
        piece._fields["ratedAs"] = metric ? "working-load-limit" : "rated-load";
        piece._fields["markingAt"] = "tag";
        piece._fields["designFactor"] = "4";
        piece._fields["size"] = make.Size;
        piece._fields["grade"] = make.Grade;
        piece._fields["legs"] = legs.ToString();
        piece._fields["reach"] = metric
            ? $"{Math.Round(reachFeet * 0.3048m, 1)} m"
            : $"{QuantityFormat.Number(reachFeet)} ft";
        piece._fields["endFitting"] = end;
        piece.Baselines(
            (part, criterion) =>
                criterion.Id switch
                {
                    "hook.throat" => make.Throat,
                    "hook.wear" => make.Section,
                    "chain.gauge-growth" => Gauge(make.Size),
                    "shackle.wear-body" or "shackle.wear-pin" => make.Coupling,
                    "link.wear" => part == "top-link" ? make.Top : make.Coupling,
                    _ => throw new InvalidOperationException($"No figure for {criterion.Id}."),
                }
        );
        return piece;
    }

    public static DemoPiece Shackle(string mark, ScenarioShackle make, string pinType, Random random)
    {
        var piece = new DemoPiece(mark, random);
        piece.Identity("shackle", make.Maker, make.Model, make.Rated);
        piece._fields["size"] = make.Size;
        piece._fields["pinType"] = pinType;
        piece._fields["pinSize"] = make.Pin;
        piece._fields["grade"] = "alloy";
        piece._fields["ratedAs"] = "working-load-limit";
        piece._fields["markingAt"] = "forged-in";
        piece._fields["fit:stock"] = make.Size;
        piece._fields["fit:inside"] = Wider(make.Size);
        piece.Baselines((_, criterion) => criterion.Id == "shackle.wear-pin" ? make.Pin : make.Size);
        return piece;
    }

    public static DemoPiece Of(string mark, ScenarioPiece make, Random random)
    {
        var piece = new DemoPiece(mark, random);
        piece.Identity(make.Family, make.Maker, make.Model, make.Rated);
        foreach (var (name, value) in make.Fields)
            piece._fields[name] = value;
        if (
            GearFamilies.Find(make.Family)!.Group == FamilyGroup.Sling
            && make.Fields.GetValueOrDefault("legs", "1") == "1"
            && make.Family != "metal-mesh-sling"
        )
            piece._fields["ratedHitch"] = "vertical";
        if (make.Family == "hook")
            (piece._fields["fit:throat"], piece._fields["fit:bowl"], piece._fields["fit:section"]) = (
                "35 mm",
                "32 mm",
                make.Figure
            );
        piece.Baselines((_, criterion) => make.Figures.GetValueOrDefault(criterion.Id, make.Figure));
        return piece;
    }

    public DemoPiece With(string field, string value)
    {
        _fields[field] = value;
        return this;
    }

    /// <summary>Leaves something out that should be there.</summary>
    public DemoPiece Without(params string[] fields)
    {
        foreach (var field in fields)
            _fields.Remove(field);
        return this;
    }

    /// <summary>Says that the figures when new were only taken over.</summary>
    public DemoPiece TakenOver() => WithBasis("provisional");

    /// <summary>Says where the figures when new come from.</summary>
    public DemoPiece WithBasis(string basis)
    {
        foreach (var field in _fields.Keys.Where(f => f.StartsWith("basis:", StringComparison.Ordinal)).ToList())
            _fields[field] = basis;
        return this;
    }

    /// <summary>How fast one measure wears: share of the allowance used up in a year.</summary>
    public DemoPiece Wears(string part, string criterion, decimal shareAYear)
    {
        _wear[new(part, criterion)] = shareAYear;
        return this;
    }

    /// <summary>What an inspector would enter of it after so many years in use.</summary>
    /// <param name="years">Years since it was new.</param>
    /// <param name="faults">Faults found, by part and criterion.</param>
    public IEnumerable<(string Part, string Criterion, AnswerEntry Entry)> Answers(
        PieceEntry entry,
        IReadOnlyList<RuleBook> books,
        InspectionKind kind,
        decimal years,
        params (string Part, string Criterion)[] faults
    )
    {
        foreach (var part in Catalogue.Parts(entry.Gear, books))
        {
            foreach (var criterion in part.Criteria.Where(c => Judge.IsAsked(c, kind)))
            {
                yield return (
                    part.Path,
                    criterion.Id,
                    criterion.IsAnswerChosen
                        ? new(Answer: faults.Contains((part.Path, criterion.Id)) ? "yes" : "no")
                        : Figure(entry, part.Path, criterion, books, years)
                );
            }
        }
    }

    /// <summary>A bow is about half as wide again inside as its stock is thick.</summary>
    private static string Wider(string size) => QuantityFormat.Rounded(Length.Parse(size) * 1.55m);

    private static string Gauge(string size)
    {
        var length = Length.Parse(size);
        return length.IsInchNamed ? $"{Math.Round(length.Inches * 3 * 10, 2)} in" : $"{length.Millimetres * 3 * 10} mm";
    }

    private void Identity(string family, string maker, string model, string rated)
    {
        _fields["family"] = family;
        _fields["maker"] = maker;
        _fields["model"] = model;
        _fields["serial"] = $"{maker[0]}{_random.Next(10, 99)}-{_random.Next(10000, 99999)}";
        _fields["ratedLoad"] = rated;
        foreach (var tag in GearFamilies.Find(family)!.TagEntries)
            _fields[PieceEntryReader.TagField(tag.Code)] = "true";
    }

    private void Baselines(Func<string, Criterion, string> figure)
    {
        var gear = PieceEntryReader.Gear(GearFamilies.Find(_fields["family"])!, _fields);
        foreach (var (part, criterion) in PieceEntryReader.BaselinesOf(gear))
        {
            var (value, basis, links) = PieceEntryReader.Fields(new(part.Path, criterion.Id));
            _fields[value] = figure(part.Path, criterion);
            _fields[basis] = "new";
            if (criterion.OverLinks)
                _fields[links] = "10";
        }
    }

    private AnswerEntry Figure(
        PieceEntry entry,
        string part,
        Criterion criterion,
        IReadOnlyList<RuleBook> books,
        decimal years
    )
    {
        if (criterion.Kind == CriterionKind.Count)
        {
            var count = criterion.Limit switch
            {
                RosterMembers => entry.Gear.Roster!.Members!.Value,
                RosterLinks => entry.Gear.Roster!.LeastLinks!.Value,
                _ => _random.Next(3),
            };
            return new(Value: count.ToString());
        }

        switch (criterion.Limit)
        {
            case HandPullOnRecord:
                return new(Value: $"{Math.Round(entry.Gear.Force("handPullLimit")!.Value.Newtons * 0.9m)} N");
            case TorqueOnRecord:
                return new(Value: entry.Gear.Moment("torque")!.Value.ToString());
        }

        if (criterion.IsPair)
        {
            var reach = entry.Gear.Length("reach") ?? Length.FromInches(72);
            var shortest =
                criterion.Id == "chain.leg-difference"
                    ? reach
                    : Length.Parse(_fields[PieceEntryReader.Fields(new(part, "chain.gauge-growth")).Value]);
            var spread = 0.0005m + (_wear.GetValueOrDefault(new(part, criterion.Id)) * 0.015m * years);
            return new(Value: Written(shortest * (1 + spread), entry), Shortest: Written(shortest, entry));
        }

        var baseline = entry.Baselines.GetValueOrDefault(new(part, criterion.Id))?.Length;
        var limits = LimitSet.For(new(books, InspectionKind.Periodic, entry.Gear, [], []), criterion, baseline);
        var tightest = limits.Entries.Select(e => e.Resolved).OfType<Figure>().MinBy(f => f.Allowance);
        if (tightest is null)
            return new(Value: Written(baseline ?? Length.FromMillimetres(25), entry));
        var noise = (decimal)_random.NextDouble() * 0.06m;
        var slow = criterion.Id is "chain.gauge-growth" ? 0.02m : 0.05m;
        var used = Math.Max(0, (_wear.GetValueOrDefault(new(part, criterion.Id), slow) * years) + noise - 0.02m);
        var reference = tightest.Reference!.Value;
        return new(Value: Written(Length.FromMillimetres(reference + (used * (tightest.Limit - reference))), entry));
    }

    /// <summary>As calipers show it: thousandths of an inch or hundredths of a millimetre.</summary>
    private static string Written(Length length, PieceEntry entry) =>
        QuantityFormat.Rounded(
            length.In(
                (entry.Gear.Size ?? entry.Baselines.Values.FirstOrDefault()?.Length)?.IsInchNamed == true
                    ? LengthUnit.Inch
                    : LengthUnit.Millimetre
            )
        );
}
