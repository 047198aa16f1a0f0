using Keralith.Data;
using Microsoft.AspNetCore.Mvc;

namespace Keralith.Web.Pages;

/// <summary>Where a scan leads: to the piece when the mark or serial is one piece's, else to the search.</summary>
public sealed class ScanModel(Here here, PieceStore pieces) : YardPage(here)
{
    public async Task<IActionResult> OnGetAsync(string? q)
    {
        var text = MarkIn(q ?? string.Empty);
        if (text.Length is 0 or > 60) return Redirect("/register");
        return await pieces.FindAsync(text, Cancel) is { } piece ? Redirect($"/piece/{piece.Mark}") : Redirect($"/register?q={Uri.EscapeDataString(text)}");
    }

    /// <summary>The mark in what was scanned: a label's code holds the address of the piece's page, whose last word the mark is.</summary>
    public static string MarkIn(string scanned) =>
        scanned.LastIndexOf("/piece/", StringComparison.OrdinalIgnoreCase) is >= 0 and var at ? scanned[(at + 7)..].Trim().Trim('/') : scanned.Trim();
}
