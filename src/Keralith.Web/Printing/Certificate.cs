using Keralith.Core.Register;
using Keralith.Data;
using Keralith.Web.Drawings;
using Keralith.Web.Pages.Inspect;
using Keralith.Web.Showing;

namespace Keralith.Web.Printing;

/// <summary>What a certificate states: a signed inspection as it was judged, and where it stands in the ledger.</summary>
public sealed record CertificateFacts(
    string Site,
    Piece Piece,
    InspectionRow Inspection,
    IReadOnlyList<FindingLine> Findings,
    string WorkedTo,
    string LedgerNumber,
    string LedgerHash,
    string Address
)
{
    /// <summary>What was written beside its findings; empty where nothing was.</summary>
    public string Notes { get; init; } = string.Empty;

    /// <summary>The day its next full inspection is due by; null where this one was none.</summary>
    public DateOnly? NextBy { get; init; }
}

/// <summary>
/// The record of one inspection on paper: drawing and facts, every finding with its reading, limit and share, and where
/// it stands in the ledger.
/// </summary>
public static class Certificate
{
    private static readonly ReportColumn[] Columns =
    [
        new("Outcome", 0.85),
        new("Part and question", 2),
        new("Read", 1.05, Mono: true),
        new("When new", 0.85, Mono: true),
        new("Limit", 0.95, Mono: true),
        new("Used", 0.6, Mono: true),
        new("Why", 2),
        new("Where it stands", 2.1),
    ];

    /// <summary>The certificate as PDF.</summary>
    public static byte[] Pdf(CertificateFacts facts)
    {
        var (piece, i) = (facts.Piece, facts.Inspection);
        var report = new Report(
            $"Inspection of {piece.Mark}, {i.InspectedOn:yyyy-MM-dd}",
            $"{facts.Site}, record {i.Id}"
        ).Heading($"{Say.Kind(i.Kind)} of {piece.Mark}: {Code.Of(i.Verdict)}", 1);
        if (i.Superseded is { } gone)
            report.Paragraph(
                $"{(gone.Became is null ? "WITHDRAWN" : "CORRECTED: ANOTHER RECORD COUNTS")}, {Say.Time(gone.At)}, {gone.By}: {gone.Why}",
                bold: true
            );
        else if (i.CorrectsWhy is { } corrects)
            report.Paragraph($"In the place of record {i.Corrects}: {corrects}", bold: true);
        return report
            .Drawing($"Drawing of {Say.Gear(piece.Gear)}", Drawn(piece), 108, Facts(facts))
            .Heading("Every finding, the worst first")
            .Table(
                Columns,
                facts.Findings.Select(f =>
                    (IReadOnlyList<string>)
                        [
                            f.Outcome,
                            $"{f.Part}: {f.Title}",
                            f.Read ?? string.Empty,
                            f.WhenNew ?? string.Empty,
                            f.Limit ?? string.Empty,
                            f.Used is { } used ? $"{Math.Floor(used * 100)} %" : string.Empty,
                            f.Books is null ? f.Reason : $"{f.Reason} {f.Books}",
                            f.Limit is null ? f.Reference : $"{f.Reference}. {f.Book}",
                        ]
                )
            )
            .CodeOf(
                facts.Address,
                [
                    ("Ledger", $"{facts.LedgerNumber}, {facts.LedgerHash}"),
                    ("Notes", facts.Notes),
                    ("The code", $"leads back to the record: {facts.Address}"),
                ]
            )
            .Pdf(i.SignedAt);
    }

    private static IEnumerable<(string Name, string? Value)> Facts(CertificateFacts facts)
    {
        var (piece, i) = (facts.Piece, facts.Inspection);
        return
        [
            ("Mark", piece.Mark),
            ("What", Say.Gear(piece.Gear)),
            ("Maker, serial", $"{piece.Maker ?? "not known"}, {piece.Serial ?? "no serial"}"),
            ("Rated load, as marked", piece.RatedLoad?.ToString() ?? "not known"),
            ("Inspected on", $"{i.InspectedOn:yyyy-MM-dd}"),
            (i.MadeBy is null ? "Inspected and signed by" : "Inspected by", i.MadeBy ?? i.SignedBy),
            (
                i.MadeBy is null ? "Signed" : "Countersigned by",
                i.MadeBy is null ? Say.Time(i.SignedAt) : $"{i.SignedBy}, {Say.Time(i.SignedAt)}"
            ),
            ("Next by", facts.NextBy?.ToString("yyyy-MM-dd") ?? "no full inspection: the next one stands as it was"),
            ("Measured with", i.Instruments.Count == 0 ? "not stated" : string.Join("; ", i.Instruments)),
            ("Judged by", facts.WorkedTo),
            ("Catalogue", i.CatalogueVersion),
            ("Stricter than the rules", i.Stricter ?? "no"),
        ];
    }

    private static string Drawn(Piece piece) =>
        GearDrawings
            .Draw(
                piece.Gear,
                new DrawingOptions
                {
                    Figures = GearDrawings.Figures(
                        piece.Gear,
                        new Dictionary<BaselineKey, Core.Judgement.BaselineFigure>()
                    ),
                }
            )
            .ToString()!;
}
