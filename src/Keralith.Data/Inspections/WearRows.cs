using Keralith.Core.Formats;
using Keralith.Core.Judgement;
using Keralith.Core.Register;
using Keralith.Core.Sites;
using Keralith.Core.Wear;

namespace Keralith.Data;

/// <summary>Reads the measures of a piece over time from its signed records.</summary>
public static class WearRows
{
    /// <summary>What a piece's signed inspections measured, each case read once. A look before use measures nothing.</summary>
    public static List<WearRecord> Records(IEnumerable<InspectionRow> inspections) =>
        inspections
            .Where(i => i.Counts && i.CaseDocument.Contains("\"value\"", StringComparison.Ordinal))
            .Select(i =>
                CaseReader.Read(i.CaseDocument).Value is { } @case
                    ? new WearRecord(i.InspectedOn, i.CountsFrom, @case)
                    : null
            )
            .OfType<WearRecord>()
            .ToList();

    /// <summary>The measures of a piece over time, against the limits that count for it today.</summary>
    public static IReadOnlyList<WearSeries> Of(
        Piece piece,
        Site site,
        IReadOnlyDictionary<BaselineKey, BaselineRow> baselines,
        IEnumerable<WearRecord> records
    ) =>
        WearSeries.Of(
            new(site.Books, InspectionKind.Periodic, piece.GearAt(site), site.LimitsFor(piece.Maker, piece.Model), []),
            baselines.ToDictionary(b => b.Key, b => (b.Value.Figure.Length, b.Value.SetAt)),
            records
        );
}
