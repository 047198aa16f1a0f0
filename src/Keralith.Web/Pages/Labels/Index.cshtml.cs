using Keralith.Core.Custody;
using Keralith.Data;
using Keralith.Web.Printing;
using Keralith.Web.Security;
using Microsoft.AspNetCore.Http.Extensions;
using Microsoft.AspNetCore.Mvc;

namespace Keralith.Web.Pages.Labels;

/// <summary>Labels of pieces: which, how large, and for what.</summary>
public sealed class IndexModel(Here here, SiteStore sites, PieceStore pieces, LabelPrinter printer, PublicAddress at)
    : YardPage(here)
{
    /// <summary>Most labels made at once.</summary>
    public const int Most = 600;

    public string Marks { get; private set; } = string.Empty;

    public int? Store { get; private set; }

    public int Skip { get; private set; }

    public bool OutOfUse { get; private set; }

    /// <summary>Whether each label's back tells how the piece is cared for.</summary>
    [BindProperty(SupportsGet = true)]
    public bool Care { get; set; }

    public LabelSize Size { get; private set; } = LabelSize.All[0];

    public IReadOnlyList<Store> Stores { get; private set; } = [];

    public IReadOnlyList<string> Unknown { get; private set; } = [];

    public int Count => Labels.Count;

    public int SheetCount => LabelSheet.Pages(Count, Size, Skip);

    public string Query =>
        new QueryBuilder
        {
            { "marks", Marks },
            { "store", Store?.ToString() ?? string.Empty },
            { "size", Size.Code },
            { "skip", Skip.ToString() },
            { "outOfUse", OutOfUse ? "true" : "false" },
            { "care", Care ? "true" : "false" },
        }
            .ToString()
            .TrimStart('?');

    private List<Label> Labels { get; set; } = [];

    /// <summary>The page, or the sheets as a file.</summary>
    /// <param name="kind"><c>sheet.pdf</c>, <c>sheet.svg</c> (the first sheet), or nothing.</param>
    public async Task<IActionResult> OnGetAsync(string? kind, int? store, string? size, string? skip, bool outOfUse)
    {
        await LoadAsync(ScanModel.Chosen(Request), store, size, skip, outOfUse);
        return kind switch
        {
            "sheet.pdf" => File(LabelSheet.Pdf(Labels, Size, Skip, Here.Now, Care), "application/pdf", "labels.pdf"),
            "sheet.svg" => Content(LabelSheet.Svg(Labels, Size, Skip, 0), "image/svg+xml"),
            _ => Page(),
        };
    }

    public async Task<IActionResult> OnPostAsync(string? marks, int? store, string? size, string? skip, bool outOfUse)
    {
        await LoadAsync(marks, store, size, skip, outOfUse);
        if (Labels.Count == 0)
            return Redirect("/labels");
        await printer.PrintAsync(Submission, Labels, Size, Cancel);
        return Redirect("/labels/printer");
    }

    private async Task LoadAsync(string? marks, int? store, string? size, string? skip, bool outOfUse)
    {
        Stores = await sites.StoresAsync(Cancel);
        Marks = marks?.Trim() ?? string.Empty;
        (Store, OutOfUse) = (store, outOfUse);
        Size = LabelSize.All.FirstOrDefault(s => s.Code == size) ?? LabelSize.All[0];
        Skip = int.TryParse(skip, out var used) ? Math.Clamp(used, 0, Size.PerPage - 1) : 0;
        var wanted = Marks
            .ToUpperInvariant()
            .Split([' ', ',', ';', '\n', '\r', '\t'], StringSplitOptions.RemoveEmptyEntries)
            .Distinct()
            .Take(Most)
            .ToList();
        var rows = await pieces.OfMarksAsync(wanted, Cancel);
        Unknown = wanted.Except(rows.Select(r => r.Mark)).ToList();
        if (store is not null)
            rows.AddRange(
                (
                    await pieces.ListAsync(
                        new()
                        {
                            Store = store,
                            WithoutRetired = true,
                            Most = Most,
                        },
                        Cancel
                    )
                ).Where(p => !wanted.Contains(p.Mark))
            );
        var works = await Here.SitesAsync(Cancel);
        var address = at.Base;
        Labels = rows.Take(Most)
            .Select(p =>
                Label.Of(
                    p,
                    works.Of(p.SiteId),
                    works.Of(p.SiteId).DayOf(Here.Now),
                    address,
                    outOfUse || p.State.IsRetired()
                )
            )
            .ToList();
    }
}
