using Keralith.Core.Gear;
using Keralith.Core.Quantities;
using Keralith.Core.Register;
using Keralith.Data;

namespace Keralith.Web.Pages.Register;

/// <summary>What the register form shows: what was typed, what is wrong with it, and what to ask of this family.</summary>
public sealed record EntryForm(
    IReadOnlyDictionary<string, string> Fields,
    IReadOnlyDictionary<string, string> Faults,
    IReadOnlyList<Store> Stores,
    bool IsNew
)
{
    /// <summary>Names in use and the next mark, to choose from.</summary>
    public PieceStore.Offers? Offers { get; init; }

    public GearFamily? Family => GearFamilies.Find(this["family"] ?? string.Empty);

    /// <summary>The gear as typed so far: it decides which legs and fittings are asked about.</summary>
    public GearPiece? Gear => Family is { } family ? PieceEntryReader.Gear(family, Fields) : null;

    /// <summary>What stands on the form: its words are explained.</summary>
    public IEnumerable<string?> Words =>
        Family is not { } family || Gear is not { } gear
            ? []
            :
            [
                .. family.Asks.Select(GearAttributes.Find).SelectMany(a => new[] { a?.Label, a?.Hint }),
                .. PieceEntryReader.BaselinesOf(gear).Select(b => b.Criterion.BaselineName),
                "rated load, design factor, figures when new, proof test",
            ];

    public string? this[string field] => Fields.GetValueOrDefault(field);

    public string? Fault(string field) => Faults.GetValueOrDefault(field);

    /// <summary>The form as it was typed, every field of it.</summary>
    public static IReadOnlyDictionary<string, string> Typed(IFormCollection form)
    {
        var typed = form.Where(f => f.Key.Length <= 100 && !f.Key.StartsWith("__", StringComparison.Ordinal))
            .ToDictionary(f => f.Key, f => f.Value[0] ?? string.Empty);
        if (
            UnitPressed.Of(form[UnitPressed.Name]) is var (field, unit)
            && Length.WantsUnit(typed.GetValueOrDefault(field))
        )
            typed[field] = $"{typed[field]} {unit}";
        return typed;
    }

    /// <summary>The form of a piece on record.</summary>
    public static IReadOnlyDictionary<string, string> Of(
        Piece piece,
        IReadOnlyDictionary<BaselineKey, BaselineRow> baselines
    ) => PieceEntryFields.Of(piece.Entry(baselines.ToDictionary(b => b.Key, b => b.Value.Figure)));
}
