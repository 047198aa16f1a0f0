using Keralith.Core.Register;
using Keralith.Web.Showing;

namespace Keralith.Web.Printing;

/// <summary>The register as a printed list.</summary>
public static class RegisterSheet
{
    /// <summary>Its columns, as other reports list gear too.</summary>
    public static IReadOnlyList<ReportColumn> Columns { get; } =
    [
        new("Mark", 1, Mono: true),
        new("What", 2.4),
        new("Maker, serial", 1.8),
        new("Rated load, as marked", 1.2, Mono: true),
        new("Where", 1.4),
        new("State", 1),
        new("Periodic", 0.9, Mono: true),
    ];

    /// <summary>A piece as a row.</summary>
    public static IReadOnlyList<string> Row(Piece p) =>
        [
            p.Mark,
            Say.Gear(p.Gear),
            $"{p.Maker} {p.Serial}",
            p.RatedLoad?.ToString() ?? "not known",
            $"{p.Store} {p.Peg}",
            p.Verdict is { } verdict ? $"{Code.Of(p.State)}, {Code.Of(verdict)}" : Code.Of(p.State),
            p.PeriodicDue?.ToString("yyyy-MM-dd") ?? "never",
        ];

    /// <summary>The list as PDF, A4 on its side.</summary>
    /// <param name="made">When it is made; its day is told as the site's.</param>
    public static byte[] Pdf(IReadOnlyList<Piece> pieces, string title, DateOnly today, DateTimeOffset made) =>
        new Report(title, $"{today:yyyy-MM-dd}, {pieces.Count} pieces", wide: true)
            .Heading(title, 1)
            .Table(Columns, pieces.Select(Row), "No piece is in it.")
            .Pdf(made);
}
