using System.Text.Json;
using Keralith.Data.Exchange;
using Keralith.Web.Showing;

namespace Keralith.Web.Printing;

/// <summary>
/// The summary of an auditor's pack on paper, read from the pack's own lines: what is in it, the gear, its inspections and
/// holds, who might sign, what was measured with, the rules in force as they changed.
/// </summary>
public static class PackSummary
{
    /// <summary>A part of the summary: its heading, the file it is read from, and the fields that are told.</summary>
    private sealed record Part(string Heading, string File, params (string Head, double Share, string Field)[] Columns);

    private static readonly Part[] Parts =
    [
        new(
            "Gear",
            "register.jsonl",
            ("Mark", 1, "mark"),
            ("Family", 1.4, "family"),
            ("Maker", 1.3, "maker"),
            ("Serial", 1.1, "serial"),
            ("Rated load", 1, "ratedLoad"),
            ("Store", 1.2, "store"),
            ("State", 1, "state"),
            ("Periodic due", 1, "periodicDue")
        ),
        new(
            "Inspections signed",
            "inspections.jsonl",
            ("Inspected", 0.9, "inspectedOn"),
            ("Mark", 1, "mark"),
            ("Kind", 1, "kind"),
            ("Verdict", 1, "verdict"),
            ("Signed by", 1, "signedBy"),
            ("Corrected or withdrawn", 2, "superseded")
        ),
        new(
            "Holds and their ends",
            "holds.jsonl",
            ("Mark", 0.9, "mark"),
            ("Cause", 1, "cause"),
            ("Reason", 2, "reason"),
            ("Placed", 1.3, "placedAt"),
            ("By", 0.8, "placedBy"),
            ("Closed", 1.3, "closedAt"),
            ("By", 0.8, "closedBy"),
            ("Why", 1.6, "why")
        ),
        new(
            "Proof tests",
            "proof-tests.jsonl",
            ("On", 0.9, "on"),
            ("Mark", 1, "mark"),
            ("Load", 1, "load"),
            ("Times rated", 0.8, "factor"),
            ("Made by", 1.2, "madeBy"),
            ("Instrument", 1.2, "instrument"),
            ("Calibrated until", 1, "calibratedUntil"),
            ("Certificate", 1, "certificate"),
            ("Passed", 0.7, "passed"),
            ("Put right", 1, "wrong")
        ),
        new(
            "Who might sign",
            "authorisations.jsonl",
            ("Person", 1.4, "name"),
            ("For", 1.4, "group"),
            ("Until", 1, "until"),
            ("Given", 1.4, "setAt"),
            ("By", 1, "setBy")
        ),
        new(
            "What was measured with",
            "instruments.jsonl",
            ("Instrument", 2, "instrument"),
            ("Uncertainty", 1, "uncertainty"),
            ("Calibration due", 1, "calibrationDue"),
            ("Entered", 1.4, "setAt")
        ),
        new(
            "Books, limits and policies as they changed",
            "rules.jsonl",
            ("Entry", 0.6, "number"),
            ("When", 1.4, "at"),
            ("By", 0.8, "actor"),
            ("What", 1.4, "kind"),
            ("In full", 4, "data")
        ),
    ];

    /// <summary>The summary as PDF; the same contents make the same bytes.</summary>
    public static byte[] Pdf(PackContents pack)
    {
        var report = new Report($"Auditor's pack", pack.Title, wide: true)
            .Heading("Auditor's pack", 1)
            .Paragraph(pack.Title, bold: true)
            .Facts(
                pack.Lines.Select(l => (l.Key, (string?)$"{l.Value.Count} lines"))
                    .Append(("Ledger", $"{pack.Entries} entries up to the signed head"))
                    .Append(("Head", $"{Convert.ToHexStringLower(pack.Head.Root)}, {Say.Time(pack.Head.At)}"))
                    .Append(("Signed with", pack.Head.Key))
            )
            .Paragraph(
                "How to check it stands in how-to-check.txt beside this sheet. The files of lines are what counts."
            );
        foreach (var part in Parts)
            report
                .Heading(part.Heading)
                .Table(
                    [.. part.Columns.Select(c => new ReportColumn(c.Head, c.Share))],
                    pack.Lines.GetValueOrDefault(part.File, []).Select(l => Row(l, part)),
                    "None in this period."
                );
        return report.Pdf(pack.Head.At);
    }

    private static string[] Row(string line, Part part)
    {
        using var document = JsonDocument.Parse(line);
        return
        [
            .. part.Columns.Select(c =>
                !document.RootElement.TryGetProperty(c.Field, out var value)
                    ? string.Empty
                    : value.ValueKind switch
                    {
                        JsonValueKind.Null => string.Empty,
                        JsonValueKind.True => "yes",
                        JsonValueKind.False => "no",
                        JsonValueKind.String => value.GetString()!,
                        _ => value.GetRawText(),
                    }
            ),
        ];
    }
}
