using Keralith.Core;
using Keralith.Core.Gear;
using Keralith.Core.Register;
using Keralith.Data;

namespace Keralith.Web.Pages.Register;

/// <summary>What the register form shows: what was typed, what is wrong with it, and what to ask of this family.</summary>
public sealed record EntryForm(IReadOnlyDictionary<string, string> Fields, IReadOnlyDictionary<string, string> Faults, IReadOnlyList<Store> Stores, bool IsNew)
{
    public GearFamily? Family => GearFamilies.Find(this["family"] ?? string.Empty);

    /// <summary>The gear as typed so far: it decides which legs and fittings are asked about.</summary>
    public GearPiece? Gear => Family is { } family ? PieceEntryReader.Gear(family, Fields) : null;

    public string? this[string field] => Fields.GetValueOrDefault(field);

    public string? Fault(string field) => Faults.GetValueOrDefault(field);

    /// <summary>The form as it was typed, every field of it.</summary>
    public static IReadOnlyDictionary<string, string> Typed(IFormCollection form) =>
        form.Where(f => f.Key.Length <= 100 && !f.Key.StartsWith("__", StringComparison.Ordinal)).ToDictionary(f => f.Key, f => Cut(f.Value[0] ?? string.Empty, f.Key == PieceEntryReader.Alike ? 10_000 : 500));

    private static string Cut(string text, int most) => text.Length > most ? text[..most] : text;

    /// <summary>The form of a piece on record.</summary>
    public static IReadOnlyDictionary<string, string> Of(PieceRow piece, IEnumerable<BaselineRow> baselines)
    {
        var fields = new Dictionary<string, string>
        {
            ["mark"] = piece.Mark,
            ["family"] = piece.Gear.Family.Code,
            ["serial"] = piece.Serial ?? string.Empty,
            ["maker"] = piece.Maker ?? string.Empty,
            ["model"] = piece.Model ?? string.Empty,
            ["ratedLoad"] = piece.RatedLoad?.ToString() ?? string.Empty,
            ["designFactor"] = piece.DesignFactor is { } factor ? Core.Quantities.QuantityFormat.Number(factor) : string.Empty,
            ["ratedFor"] = piece.RatedFor ?? string.Empty,
            ["serviceClass"] = Words.Code(piece.ServiceClass),
            ["inServiceSince"] = piece.InServiceSince?.ToString("yyyy-MM-dd") ?? string.Empty,
            ["store"] = piece.StoreId.ToString(),
            ["peg"] = piece.Peg,
        };
        var met = piece.Surroundings;
        foreach (var (name, temperature) in new[] { ("coldest", met.Coldest), ("hottest", met.Hottest), ("hasMet", met.HasMet) }) fields[name] = temperature?.ToString() ?? string.Empty;
        fields["makersWord"] = met.MakersWord ?? string.Empty;
        foreach (var chemical in met.Chemicals) fields[PieceEntryReader.ChemicalField(chemical)] = "true";
        foreach (var (name, value) in piece.Gear.Values) fields[name] = value.Text;
        foreach (var code in piece.TagEntries) fields[PieceEntryReader.TagField(code)] = "true";
        foreach (var baseline in baselines)
        {
            var (value, basis, links) = PieceEntryReader.Fields(baseline.Key);
            fields[value] = baseline.Figure.Length.ToString();
            fields[basis] = Words.Code(baseline.Figure.Basis);
            if (baseline.Figure.Links is { } count) fields[links] = count.ToString();
        }

        return fields;
    }
}
