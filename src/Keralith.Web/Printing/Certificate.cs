using Keralith.Core.Register;
using Keralith.Data;
using Keralith.Web.Drawings;
using Keralith.Web.Pages;
using Keralith.Web.Pages.Inspect;

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
    /// <summary>The day its next full inspection is due by; null where this one was none.</summary>
    public DateOnly? NextBy { get; init; }
}

/// <summary>
/// The record of one inspection as a printed sheet: drawing left, facts right, figures below, title block in the
/// corner.
/// </summary>
public static class Certificate
{
    private const double Width = 210;
    private const double Height = 297;
    private const double Margin = 12;
    private const double Step = 5;
    private const double FirstRows = 168;
    private const double LastRow = 250;

    /// <summary>The certificate as PDF, A4.</summary>
    public static byte[] Pdf(CertificateFacts facts)
    {
        var first = (int)((LastRow - FirstRows) / Step);
        var later = (int)((LastRow - 30) / Step);
        var pages = 1 + Math.Max(0, (facts.Findings.Count - first + later - 1) / later);
        return Paper.Pdf(
            $"Inspection of {facts.Piece.Mark}, {facts.Inspection.InspectedOn:yyyy-MM-dd}",
            (Width, Height),
            pages,
            (ink, page) =>
            {
                ink.Box(Margin - 4, Margin - 4, Width - (2 * Margin) + 8, Height - (2 * Margin) + 8);
                if (page == 0)
                    Front(ink, facts);
                Rows(
                    ink,
                    page == 0 ? FirstRows : 30,
                    facts.Findings.Skip(page == 0 ? 0 : first + ((page - 1) * later)).Take(page == 0 ? first : later)
                );
                TitleBlock(ink, facts, $"{page + 1} of {pages}");
            }
        );
    }

    private static void Front(Ink ink, CertificateFacts facts)
    {
        var (piece, i) = (facts.Piece, facts.Inspection);
        ink.Text(Margin, 22, $"Record of inspection: {Say.Kind(i.Kind).ToLowerInvariant()}", new(7, Bold: true), 130);
        ink.Text(Margin, 30, facts.Site, new(4.4), 130);
        if (i.Superseded is { } gone)
            ink.Text(
                Margin,
                35.5,
                $"{(gone.Became is null ? "WITHDRAWN" : "CORRECTED: ANOTHER RECORD COUNTS")}, {gone.At.UtcDateTime:yyyy-MM-dd HH:mm} UTC, {gone.By}: {gone.Why}",
                new(3.6, Bold: true),
                184
            );
        else if (i.CorrectsWhy is { } corrects)
            ink.Text(Margin, 35.5, $"In the place of record {i.Corrects}: {corrects}", new(3.2), 184);
        ink.Text(150, 24, Code.Of(i.Verdict).ToUpperInvariant(), new(9, Bold: true), 46);
        ink.Box(147, 15, 49, 13);
        ink.Drawing(
            Margin,
            38,
            92,
            118,
            GearDrawings
                .Draw(
                    piece.Gear,
                    new DrawingOptions
                    {
                        Figures = GearDrawings.Figures(
                            piece.Gear,
                            new Dictionary<Core.Register.BaselineKey, Core.Judgement.BaselineFigure>()
                        ),
                    }
                )
                .ToString()!
        );
        var y = 44.0;
        foreach (
            var (name, value) in new[]
            {
                ("Mark", piece.Mark),
                ("What", Say.Gear(piece.Gear)),
                ("Maker, serial", $"{piece.Maker ?? "not known"}, {piece.Serial ?? "no serial"}"),
                ("Rated load, as marked", piece.RatedLoad?.ToString() ?? "not known"),
                ("Inspected on", i.InspectedOn.ToString("yyyy-MM-dd")),
                (i.MadeBy is null ? "Inspected and signed by" : "Inspected by", i.MadeBy ?? i.SignedBy),
                (
                    i.MadeBy is null ? "Signed" : "Countersigned by",
                    i.MadeBy is null ? Say.Time(i.SignedAt) : $"{i.SignedBy}, {Say.Time(i.SignedAt)}"
                ),
                (
                    "Next by",
                    facts.NextBy?.ToString("yyyy-MM-dd") ?? "no full inspection: the next one stands as it was"
                ),
                ("Measured with", i.Instruments.Count == 0 ? "not stated" : string.Join("; ", i.Instruments)),
                ("Judged by", facts.WorkedTo),
                ("Catalogue", i.CatalogueVersion),
                ("Stricter than the rules", i.Stricter ?? "no"),
            }
        )
        {
            ink.Text(110, y, name, new(2.9), 86);
            ink.Text(110, y + 4.2, value, new(3.7, Bold: name == "Mark", Mono: name is "Mark"), 86);
            y += 9.4;
        }

        ink.Text(Margin, 163, "Every finding, the worst first", new(4, Bold: true), 120);
    }

    private static void Rows(Ink ink, double top, IEnumerable<FindingLine> findings)
    {
        var y = top;
        foreach (var f in findings)
        {
            y += Step;
            ink.Text(Margin, y, f.Outcome, new(3.1, Bold: f.Outcome != "clear"), 14);
            ink.Text(28, y, $"{f.Part}: {f.Title}", new(3.1), 52);
            ink.Text(82, y, f.Reason, new(3.1), 66);
            ink.Text(150, y, f.Reference, new(2.6), 46);
        }
    }

    private static void TitleBlock(Ink ink, CertificateFacts facts, string sheet)
    {
        const double Top = 256;
        ink.Box(Margin - 4, Top, Width - (2 * Margin) + 8, Height - Margin + 4 - Top);
        ink.Modules(Margin, Top + 4, 24, QrCode.Of(facts.Address));
        ink.Text(
            42,
            Top + 7,
            $"{facts.Piece.Mark}, {facts.Inspection.InspectedOn:yyyy-MM-dd}, {Code.Of(facts.Inspection.Verdict)}",
            new(4.2, Bold: true),
            150
        );
        ink.Text(42, Top + 13, $"Ledger {facts.LedgerNumber}", new(3, Mono: true), 150);
        ink.Text(42, Top + 17.5, facts.LedgerHash, new(2.7, Mono: true), 152);
        ink.Text(
            42,
            Top + 22.5,
            $"Record {facts.Inspection.Id}, sheet {sheet}. The code leads back to it.",
            new(2.9),
            150
        );
        ink.Text(
            42,
            Top + 27,
            "Read as it was judged. The maker's instructions, local code and a qualified person come first.",
            new(2.9),
            150
        );
    }
}
