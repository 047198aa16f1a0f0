using Keralith.Core.People;
using Keralith.Data.Exchange;
using Keralith.Web.Files;
using Keralith.Web.Running;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;

namespace Keralith.Web.Pages.Ledger;

/// <summary>An auditor's pack being made: how far it is, and where it is when it is done.</summary>
[Authorize(Policy = nameof(Right.ReadSettings))]
public sealed class PackModel(Here here, Packing packing) : YardPage(here)
{
    public PackScope Scope { get; private set; } = null!;

    public BesideRun<byte[]?> Run { get; private set; } = null!;

    public async Task<IActionResult> OnGetAsync([FromQuery] PackAsked asked)
    {
        var scope = asked.Scope();
        if (!scope.Ok)
            return Redirect("/ledger");
        Scope = scope.Value;
        Run = await packing.OfAsync(Scope, (await Here.SiteAsync(Cancel)).Zone, Cancel);
        return Page();
    }
}
