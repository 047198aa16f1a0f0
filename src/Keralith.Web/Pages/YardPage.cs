using Keralith.Data;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace Keralith.Web.Pages;

/// <summary>What pages share: who asks, and how a refusal is shown without losing what was typed.</summary>
public abstract class YardPage(Here here) : PageModel
{
    protected Here Here { get; } = here;

    protected CancellationToken Cancel => HttpContext.RequestAborted;

    /// <summary>The id under which the form on this page is recorded: sent twice, it is one record.</summary>
    [BindProperty]
    public Guid Submission { get; set; } = Guid.CreateVersion7();

    /// <summary>Why the last press was refused; null when it was not.</summary>
    public string? Refused { get; private set; }

    /// <summary>Leads on when a command was carried out; shows the page again with the reason when it was refused.</summary>
    protected async Task<IActionResult> AfterAsync(Checked<Recorded> result, string onward, Func<Task> loadAgain)
    {
        if (result.Ok)
            return Redirect(onward);
        Response.StatusCode = result.Refusal!.Kind switch
        {
            RefusalKind.Conflict => StatusCodes.Status409Conflict,
            RefusalKind.Forbidden => StatusCodes.Status403Forbidden,
            RefusalKind.Invalid or RefusalKind.NotFound => StatusCodes.Status422UnprocessableEntity,
        };
        Refused = result.Fault;
        await loadAgain();
        return Page();
    }

    protected void Refuse(string words)
    {
        Refused = words;
        Response.StatusCode = StatusCodes.Status422UnprocessableEntity;
    }
}
