using Keralith.Core.Register;
using Keralith.Data;
using Microsoft.AspNetCore.Mvc;

namespace Keralith.Web.Pages;

/// <summary>Where a scan leads: to the piece when the mark or serial is one piece's, else to the search.</summary>
public sealed class ScanModel(Here here, PieceStore pieces) : YardPage(here)
{
    public async Task<IActionResult> OnGetAsync(string? q)
    {
        var text = MarkIn(q ?? string.Empty);
        if (text.Length is 0 or > 60)
            return Redirect("/register");
        return await pieces.FindAsync(text, Cancel) is { } piece
            ? Redirect($"/piece/{piece.Mark}")
            : Redirect($"/register?q={Uri.EscapeDataString(text)}");
    }

    /// <summary>
    /// The mark in what was scanned: a label's code holds the address of the piece's page, whose last word the mark is.
    /// </summary>
    public static string MarkIn(string scanned) =>
        scanned.LastIndexOf("/piece/", StringComparison.OrdinalIgnoreCase) is >= 0 and var at
            ? scanned[(at + 7)..].Trim().Trim('/')
            : scanned.Trim();

    /// <summary>The marks an address names, one after the other or each by itself as a list's ticks send them.</summary>
    public static string Chosen(HttpRequest request) => string.Join('\n', [.. request.Query["marks"]]);

    /// <summary>The marks in what was scanned one after the other, in that order.</summary>
    public static IEnumerable<string> MarksIn(string scanned) =>
        scanned.Split([' ', ',', ';', '\r', '\n', '\t'], StringSplitOptions.RemoveEmptyEntries).Select(MarkIn);

    /// <summary>The pieces of marks scanned one after the other, each once, and what is no piece's mark.</summary>
    public static async Task<(IReadOnlyList<Piece> Found, IReadOnlyList<string> Unknown)> PiecesAsync(
        string scanned,
        PieceStore pieces,
        CancellationToken cancel
    )
    {
        var found = new List<Piece>();
        var unknown = new List<string>();
        foreach (var mark in MarksIn(scanned).Distinct(StringComparer.OrdinalIgnoreCase))
        {
            if (await pieces.FindAsync(mark, cancel) is not { } piece)
                unknown.Add(mark);
            else if (!found.Exists(p => p.Id == piece.Id))
                found.Add(piece);
        }

        return (found, unknown);
    }
}
