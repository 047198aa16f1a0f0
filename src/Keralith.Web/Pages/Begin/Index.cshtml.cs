using Keralith.Core.People;
using Microsoft.AspNetCore.Authorization;

namespace Keralith.Web.Pages.Begin;

/// <summary>Three ways on from a works that was just set up.</summary>
[Authorize(Policy = nameof(Right.ManagePeople))]
public sealed class IndexModel : Microsoft.AspNetCore.Mvc.RazorPages.PageModel;
