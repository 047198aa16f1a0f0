using Keralith.Data;
using Microsoft.AspNetCore.Mvc;

namespace Keralith.Web.Pages;

/// <summary>Where a scan leads: to the piece when the mark or serial is one piece's, else to the search.</summary>
public sealed class ScanModel(Here here, PieceStore pieces) : YardPage(here)
{
    public async Task<IActionResult> OnGetAsync(string? q)
    {
        var text = (q ?? string.Empty).Trim();

        // A label's code holds the address of the piece's page: the mark is its last word.
        if (text.LastIndexOf("/piece/", StringComparison.OrdinalIgnoreCase) is >= 0 and var at) text = text[(at + 7)..].Trim('/');
        if (text.Length is 0 or > 60) return Redirect("/register");
        return await pieces.FindAsync(text, Cancel) is { } piece ? Redirect($"/piece/{piece.Mark}") : Redirect($"/register?q={Uri.EscapeDataString(text)}");
    }
}
