using Keralith.Core.Gear;
using Keralith.Core.Quantities;
using Keralith.Core.Register;
using Keralith.Data;

namespace Keralith.Web.Pages.Register;

/// <summary>Finds a piece by its look when its label is gone.</summary>
public sealed class LookModel(Here here, SiteStore sites, PieceStore pieces) : YardPage(here)
{
    private const int MostShown = 12;

    public Look Look { get; private set; } = Look.Nothing;

    public bool Asked { get; private set; }

    public IReadOnlyList<Store> Stores { get; private set; } = [];

    public IReadOnlyDictionary<string, string?> Typed { get; private set; } = new Dictionary<string, string?>();

    public Dictionary<string, string> Faults { get; } = [];

    public IReadOnlyList<(Piece Piece, string Why)> Candidates { get; private set; } = [];

    public async Task OnGetAsync(
        string? family,
        int? store,
        string? peg,
        string? colour,
        string? size,
        string? reach,
        string? legs,
        string? serial,
        string? unit
    )
    {
        Typed = new Dictionary<string, string?>
        {
            ["size"] = Short(size),
            ["reach"] = Short(reach),
            ["legs"] = Short(legs),
            ["serial"] = Short(serial),
        };
        if (
            UnitPressed.Of(unit) is var (field, pressed)
            && Typed.TryGetValue(field, out var bare)
            && Length.WantsUnit(bare)
        )
            Typed = new Dictionary<string, string?>(Typed) { [field] = $"{bare} {pressed}" };
        Stores = await sites.StoresAsync(Cancel);
        Look = new(
            GearFamilies.Find(family ?? string.Empty)?.Code,
            store,
            Short(peg),
            Short(colour),
            Measured("size"),
            Measured("reach"),
            int.TryParse(legs, out var n) && n is >= 1 and <= 4 ? n : null,
            Typed["serial"]
        );
        Asked = Look != Look.Nothing && Faults.Count == 0;
        if (!Asked)
            return;
        Candidates = (await pieces.LikeAsync(Look.Family, Look.Store, Cancel))
            .Select(p => (Piece: p, Score: Look.Compare(p.Gear, p.StoreId, p.Peg, p.Serial)))
            .Where(c => c.Score.Likeness > 0)
            .OrderByDescending(c => c.Score.Likeness)
            .ThenBy(c => c.Piece.Mark, StringComparer.Ordinal)
            .Take(MostShown)
            .Select(c => (c.Piece, c.Score.Words))
            .ToList();
    }

    /// <summary>What was measured or read on it, for the record of how its identity was proved.</summary>
    public string Proof(Piece piece) =>
        $"Agrees with the record: {Look.Compare(piece.Gear, piece.StoreId, piece.Peg, piece.Serial).Words}";

    private Length? Measured(string name)
    {
        if (Typed[name] is not { Length: > 0 } typed)
            return null;
        var length = Length.Read(typed);
        if (length.Ok)
            return length.Value;
        Faults[name] = $"{length.Fault}.";
        return null;
    }

    private static string? Short(string? text) =>
        string.IsNullOrWhiteSpace(text) ? null : FreeText.Start(text.Trim(), FreeText.MostAsked);
}
