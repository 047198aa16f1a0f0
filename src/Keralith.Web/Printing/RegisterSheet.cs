using Keralith.Core.Register;

namespace Keralith.Web.Printing;

/// <summary>The register as a printed list.</summary>
public static class RegisterSheet
{
    private const double Left = 12;
    private const double Top = 16;
    private const double Line = 5.2;
    private const int PerPage = 32;

    private static readonly (string Head, double Width, Func<Piece, string> Cell)[] Columns =
    [
        ("Mark", 27, p => p.Mark),
        ("What", 62, p => Pages.Say.Gear(p.Gear)),
        ("Maker, serial", 56, p => $"{p.Maker} {p.Serial}"),
        ("Rated load, as marked", 34, p => p.RatedLoad?.ToString() ?? "not known"),
        ("Where", 44, p => $"{p.Store} {p.Peg}"),
        ("State", 22, p => p.Verdict is { } verdict ? $"{Code.Of(p.State)}, {Code.Of(verdict)}" : Code.Of(p.State)),
        ("Periodic", 24, p => p.PeriodicDue?.ToString("yyyy-MM-dd") ?? "never"),
    ];

    /// <summary>The list as PDF, A4 on its side.</summary>
    public static byte[] Pdf(IReadOnlyList<Piece> pieces, string title, DateOnly today)
    {
        var pages = Math.Max(1, (pieces.Count + PerPage - 1) / PerPage);
        return Paper.Pdf(title, (297, 210), pages, (ink, page) =>
        {
            ink.Text(Left, 10, title, new(4.6, Bold: true), 180);
            ink.Text(230, 10, $"{today:yyyy-MM-dd}, sheet {page + 1} of {pages}", new(3.2), 55);
            Row(ink, Top, c => c.Head, bold: true);
            var y = Top;
            foreach (var piece in pieces.Skip(page * PerPage).Take(PerPage))
            {
                y += Line;
                Row(ink, y, c => c.Cell(piece), bold: false);
            }

            ink.Box(Left - 2, Top - Line + 1, 297 - (2 * Left) + 4, y - Top + Line + 1.5);
            ink.Text(Left, 203, "The maker's instructions, local code and a qualified person come first.", new(3), 200);
        });
    }

    private static void Row(
        Ink ink,
        double y,
        Func<(string Head, double Width, Func<Piece, string> Cell), string> text,
        bool bold
    )
    {
        var x = Left;
        foreach (var column in Columns)
        {
            ink.Text(x, y, text(column), new(3.2, bold, Mono: !bold && column.Head == "Mark"), column.Width - 2);
            x += column.Width;
        }
    }
}
