using Keralith.Core.Formats;
using Keralith.Core.Judgement;
using Keralith.Core.Register;
using Keralith.Core.Sites;
using Keralith.Core.Wear;

namespace Keralith.Data;

/// <summary>Reads the measures of a piece over time from its signed records.</summary>
public static class WearRows
{
    /// <param name="inspections">Its signed inspections.</param>
    /// <param name="underWay">One not signed yet; null: none.</param>
    public static IReadOnlyList<WearSeries> Of(
        Piece piece,
        Site site,
        IReadOnlyDictionary<BaselineKey, BaselineRow> baselines,
        IEnumerable<InspectionRow> inspections,
        WearRecord? underWay = null
    )
    {
        // A look before use measures nothing: only what has figures is read.
        var records = inspections
            .Where(i => i.Counts && i.CaseDocument.Contains("\"value\"", StringComparison.Ordinal))
            .Select(i =>
                CaseReader.Read(i.CaseDocument).Value is { } @case
                    ? new WearRecord(i.InspectedOn, i.CountsFrom, @case)
                    : null
            )
            .OfType<WearRecord>()
            .ToList();
        if (underWay is not null)
            records.Add(underWay);
        return WearSeries.Of(
            new(site.Books, InspectionKind.Periodic, piece.GearAt(site), site.LimitsFor(piece.Maker, piece.Model), []),
            baselines.ToDictionary(b => b.Key, b => (b.Value.Figure.Length, b.Value.SetAt)),
            records
        );
    }
}
