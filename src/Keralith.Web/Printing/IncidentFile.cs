using Keralith.Core.Custody;
using Keralith.Core.Gear;
using Keralith.Core.Register;
using Keralith.Data;
using Keralith.Web.Showing;

namespace Keralith.Web.Printing;

/// <summary>What an incident file gathers.</summary>
/// <param name="Site">Where the piece is registered.</param>
/// <param name="Piece">The piece that failed.</param>
/// <param name="Failed">When it failed, or was found.</param>
/// <param name="Back">What happened since it was last known to be good.</param>
/// <param name="Witnesses">What witnesses said.</param>
/// <param name="Inspections">Its signed inspections, the last first.</param>
/// <param name="Pictures">Of it, with what they show; JPEG.</param>
public sealed record IncidentFacts(
    string Site,
    Piece Piece,
    DateTimeOffset Failed,
    LookBack Back,
    IReadOnlyList<WitnessWords> Witnesses,
    IReadOnlyList<InspectionRow> Inspections,
    IReadOnlyList<(string Words, byte[] Bytes)> Pictures
);

/// <summary>
/// All that is on record of a piece that failed, to hand over: the piece, who had it, what it touched, what witnesses
/// say, its inspections and pictures.
/// </summary>
public static class IncidentFile
{
    private static readonly ReportColumn[] Timeline =
    [
        new("When", 1.2, Mono: true),
        new("What", 2.6),
        new("Who", 1.2),
        new("Job or place", 1.4),
        new("With", 1.4, Mono: true),
    ];

    private static readonly ReportColumn[] Inspections =
    [
        new("On", 1.1, Mono: true),
        new("Inspection", 1.1),
        new("Verdict", 0.8),
        new("Signed by", 1.2),
        new("Notes", 2),
        new("Record", 2, Mono: true),
    ];

    /// <summary>The file as PDF.</summary>
    /// <param name="day">A moment's day where the piece is.</param>
    /// <param name="made">When it is made.</param>
    public static byte[] Pdf(IncidentFacts facts, Func<DateTimeOffset, string> day, DateTimeOffset made)
    {
        var piece = facts.Piece;
        var report = new Report($"Incident file of {piece.Mark}", $"{facts.Site}, made {Say.Time(made)}")
            .Heading($"Incident file of {piece.Mark}", 1)
            .Paragraph(
                "What is on record here, no more: the people on the jobs named below are to be asked too. It judges nothing and nobody."
            )
            .Drawing(
                $"Drawing of {Say.Gear(piece.Gear)}",
                Drawings.GearDrawings.Draw(piece.Gear, new()).ToString()!,
                90,
                Of(facts, day)
            );
        Witnesses(report, facts.Witnesses);
        Happened(report, facts.Back, day);
        Inspected(report, facts);
        if (facts.Pictures.Count > 0)
            report.Heading("Pictures");
        foreach (var (words, bytes) in facts.Pictures)
            report.Picture(words, bytes);
        return report.Pdf(made);
    }

    private static IEnumerable<(string Name, string? Value)> Of(IncidentFacts facts, Func<DateTimeOffset, string> day)
    {
        var piece = facts.Piece;
        return
        [
            ("What", Say.Gear(piece.Gear)),
            (
                "Maker, model, serial",
                $"{piece.Maker ?? "not known"}, {piece.Model ?? "-"}, {piece.Serial ?? "no serial"}"
            ),
            ("Rated load, as marked", piece.RatedLoad?.ToString() ?? "not known"),
            ("State", Code.Of(piece.State)),
            ("Hangs in", $"{piece.Store} {piece.Peg}"),
            ("In service since", piece.InServiceSince?.ToString("yyyy-MM-dd")),
            ("Failed, or found", day(facts.Failed)),
            ("Last found fit in full", facts.Back.Since is { } since ? day(since) : "never here"),
            ("Kept as evidence", piece.Locked ?? "no"),
        ];
    }

    private static void Witnesses(Report report, IReadOnlyList<WitnessWords> witnesses)
    {
        report.Heading("Words of witnesses");
        if (witnesses.Count == 0)
            report.Paragraph("Nobody's words are written down.");
        foreach (var said in witnesses)
            report
                .Paragraph(said.Words)
                .Paragraph(
                    $"{said.Who}, {said.On:yyyy-MM-dd}; written down by {said.By}, {Say.Time(said.At)}",
                    small: true
                );
    }

    private static void Happened(Report report, LookBack back, Func<DateTimeOffset, string> day) =>
        report
            .Heading("What happened since, the last first")
            .Table(
                Timeline,
                back.Items.Select(i =>
                    (IReadOnlyList<string>)
                        [
                            $"{day(i.From)}{(i.Until is { } until ? $" to {day(until)}" : i.IsOpen ? " on" : string.Empty)}",
                            i.What,
                            i.Who,
                            i.Where,
                            string.Join(' ', i.With),
                        ]
                ),
                "Nothing is on record since."
            )
            .Heading("Jobs that may have used it bad")
            .Paragraph(back.Jobs.Count == 0 ? "None on record." : string.Join('\n', back.Jobs))
            .Heading("Who had it")
            .Paragraph(back.Holders.Count == 0 ? "It was never out." : string.Join('\n', back.Holders))
            .Heading("Gear to look at")
            .Paragraph(
                back.Gear.Count == 0
                    ? "Nothing was rigged or out with it."
                    : string.Join(
                        '\n',
                        back.Gear.Select(g =>
                            $"{g.Mark}: {(g.Event ? "shared an event with it" : "was out or on a lift with it")}"
                        )
                    )
            );

    private static void Inspected(Report report, IncidentFacts facts)
    {
        var parts = Catalogue.Parts(facts.Piece.Gear, RuleBookShelf.All).ToDictionary(p => p.Path, p => p.Name);
        report
            .Heading("Its inspections, the last first")
            .Table(
                Inspections,
                facts.Inspections.Select(i =>
                    (IReadOnlyList<string>)
                        [
                            $"{i.InspectedOn:yyyy-MM-dd}",
                            Say.Kind(i.Kind),
                            $"{Code.Of(i.Verdict)}{(i.Superseded is null ? string.Empty : ", does not count: corrected or withdrawn")}",
                            i.MadeBy is null ? i.SignedBy : $"{i.MadeBy}; {i.SignedBy}",
                            string.Join("; ", i.NotesTold(parts).Select(n => $"{n.Where}: {n.Note}")),
                            $"{i.Id}",
                        ]
                ),
                "It was never inspected here."
            );
    }
}
