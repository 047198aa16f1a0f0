using Keralith.Core.People;
using Keralith.Data;
using Microsoft.AspNetCore.Authorization;

namespace Keralith.Web.Pages.Account;

[Authorize(Policy = nameof(Right.Draft))]
public sealed class DraftsModel(Here here, InspectionStore inspections) : YardPage(here)
{
    public IReadOnlyList<Draft> Drafts { get; private set; } = [];

    public async Task OnGetAsync() => Drafts = await inspections.DraftsAsync(null, null, Cancel);
}
