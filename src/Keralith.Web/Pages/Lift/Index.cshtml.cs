using Keralith.Core.People;
using Keralith.Data;
using Keralith.Web.Lifts;
using Keralith.Web.Security;
using Microsoft.AspNetCore.Mvc;

namespace Keralith.Web.Pages.Lift;

/// <summary>Lifts planned, out and done; arrangements kept as templates; what one is to be told.</summary>
public sealed class IndexModel(Here here, LiftStore lifts, PieceStore pieces, NoticeStore notices) : YardPage(here)
{
    public IReadOnlyList<BenchedLift> Planned { get; private set; } = [];

    public IReadOnlyList<LiftRow> Templates { get; private set; } = [];

    public IReadOnlyList<NoticeRow> Notices { get; private set; } = [];

    public Task OnGetAsync() => LoadAsync();

    /// <summary>Begins a lift: from nothing, or from one that is there.</summary>
    [Takes(Right.PlanLift)]
    public async Task<IActionResult> OnPostBeginAsync(Guid? from)
    {
        var fields =
            from is { } id && await lifts.GetAsync(id, Cancel) is { } like
                ? new Dictionary<string, string>(like.Fields)
                : new()
                {
                    ["name"] = "New lift",
                    ["massUnit"] = "lb",
                    ["unit"] = "ft",
                };
        fields.Remove("weighed");
        if (fields.GetValueOrDefault("basis") == "weighed")
            fields["basis"] = "estimated";
        return await AfterAsync(
            await lifts.BeginAsync(fields, false, Here.Stamp(Submission), Cancel),
            $"/lift/{Submission}",
            LoadAsync
        );
    }

    public async Task<IActionResult> OnPostSeenAsync(long upTo)
    {
        await notices.SeenAsync(Here.Actor.Id, upTo, Here.Now, Cancel);
        return Redirect("/lift");
    }

    private async Task LoadAsync()
    {
        var rows = await lifts.ListAsync(false, Cancel);
        var found = (await pieces.OfMarksAsync(rows.SelectMany(r => r.Marks).ToHashSet(), Cancel)).ToDictionary(p =>
            p.Mark
        );
        var sites = await Here.SitesAsync(Cancel);
        var records = await lifts.RecordsAsync([.. rows.Select(r => r.Id)], Cancel);
        Planned = rows.ConvertAll(r =>
            BenchedLift.Of(
                r,
                r.Fields,
                records[r.Id],
                r.Marks.Where(found.ContainsKey).Select(m => found[m]),
                Here.Now,
                sites
            )
        );
        Templates = await lifts.ListAsync(true, Cancel);
        Notices = await notices.OpenAsync(Here.Actor.Id, Cancel);
    }
}
