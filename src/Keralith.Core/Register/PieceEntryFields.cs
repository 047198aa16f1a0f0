using Keralith.Core.Quantities;

namespace Keralith.Core.Register;

/// <summary>
/// Writes a piece back as the fields its form has: what <see cref="PieceEntryReader"/> reads, in its own words.
/// </summary>
public static class PieceEntryFields
{
    /// <summary>The fields of a piece. Reading them gives the same piece.</summary>
    public static Dictionary<string, string> Of(PieceEntry entry)
    {
        var (met, tag) = (entry.Surroundings, entry.TagWords);
        var fields = new Dictionary<string, string>
        {
            ["mark"] = entry.Mark.Text,
            ["family"] = entry.Gear.Family.Code,
            ["serial"] = entry.Serial ?? string.Empty,
            ["maker"] = entry.Maker ?? string.Empty,
            ["model"] = entry.Model ?? string.Empty,
            ["batch"] = entry.Batch ?? string.Empty,
            ["ratedLoad"] = entry.RatedLoad?.ToString() ?? string.Empty,
            ["designFactor"] = entry.DesignFactor is { } factor ? QuantityFormat.Number(factor) : string.Empty,
            ["ratedFor"] = entry.RatedFor ?? string.Empty,
            ["ratedAs"] = tag.RatedAs == default ? string.Empty : Code.Of(tag.RatedAs),
            ["ratedHitch"] = tag.Hitch is { } hitch ? Code.Of(hitch) : string.Empty,
            ["ratedAngle"] = tag.Angle?.ToString() ?? string.Empty,
            [PieceEntryReader.Ratings] = string.Join('\n', tag.Ratings),
            ["legibility"] = tag.Legibility == default ? string.Empty : Code.Of(tag.Legibility),
            ["markingAt"] = tag.Place is { } place ? Code.Of(place) : string.Empty,
            ["serviceClass"] = Code.Of(entry.ServiceClass),
            ["inServiceSince"] = Day(entry.InServiceSince),
            ["calibrationDue"] = Day(entry.CalibrationDue),
            ["discardOn"] = Day(entry.DiscardOn),
            ["proofTestDue"] = Day(entry.ProofTestDue),
            ["lotCount"] = entry.LotCount?.ToString() ?? string.Empty,
            ["store"] = entry.Store.ToString(),
            ["peg"] = entry.Peg,
            ["notes"] = entry.Notes ?? string.Empty,
            ["coldest"] = met.Coldest?.ToString() ?? string.Empty,
            ["hottest"] = met.Hottest?.ToString() ?? string.Empty,
            ["hasMet"] = met.HasMet?.ToString() ?? string.Empty,
            ["makersWord"] = met.MakersWord ?? string.Empty,
            [PieceEntryReader.Members] = string.Join('\n', entry.Members),
            ["lastPeriodic"] = Day(entry.CarriedOver?.LastPeriodic),
            ["lastInspector"] = entry.CarriedOver?.Inspector ?? string.Empty,
            ["evidence"] = entry.CarriedOver?.Evidence ?? string.Empty,
        };
        var fit = new[] { entry.Fit.Throat, entry.Fit.Bowl, entry.Fit.Section, entry.Fit.Inside, entry.Fit.Stock };
        for (var i = 0; i < fit.Length; i++)
            fields[PieceEntryReader.FitFields[i].Field] = fit[i]?.ToString() ?? string.Empty;
        if (!entry.TagRead)
            fields[PieceEntryReader.TagUnread] = "true";
        foreach (var chemical in met.Chemicals)
            fields[PieceEntryReader.ChemicalField(chemical)] = "true";
        foreach (var (name, value) in entry.Gear.Values)
            fields[name] = value.Text;
        foreach (var code in entry.TagEntries)
            fields[PieceEntryReader.TagField(code)] = "true";
        foreach (var (key, figure) in entry.Baselines)
        {
            var (value, basis, links) = PieceEntryReader.Fields(key);
            fields[value] = figure.Length.ToString();
            fields[basis] = Code.Of(figure.Basis);
            if (figure.Links is { } count)
                fields[links] = count.ToString();
        }

        return fields;
    }

    /// <summary>What is a piece's alone: nothing of it is a start for another.</summary>
    private static readonly string[] ItsOwn =
    [
        "mark",
        "serial",
        "peg",
        "inServiceSince",
        "calibrationDue",
        "discardOn",
        "proofTestDue",
        "lotCount",
        "notes",
        "hasMet",
        "lastPeriodic",
        "lastInspector",
        "evidence",
    ];

    /// <summary>
    /// The fields of a piece as a start for another like it. Its figures are a twin's there, never better; what its marking
    /// carries is read from the other's own.
    /// </summary>
    public static Dictionary<string, string> StartOf(PieceEntry entry)
    {
        var alike = entry with
        {
            TagEntries = [],
            Baselines = entry.Baselines.ToDictionary(
                b => b.Key,
                b =>
                    b.Value.Basis == Judgement.BaselineBasis.New
                        ? b.Value with
                        {
                            Basis = Judgement.BaselineBasis.Twin,
                        }
                        : b.Value
            ),
        };
        var fields = Of(alike);
        foreach (var own in ItsOwn)
            fields.Remove(own);
        return fields;
    }

    private static string Day(DateOnly? day) => day?.ToString("yyyy-MM-dd") ?? string.Empty;
}
