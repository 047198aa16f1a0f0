using Keralith.Web.Security;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Diagnostics;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace Keralith.Web.Pages;

/// <summary>What happened, what to do, and that nothing was lost. Touches no database: it may be the one that is away.</summary>
[AllowAnonymous]
[TakesAnyText]
[IgnoreAntiforgeryToken]
[ResponseCache(NoStore = true)]
public sealed class ErrorModel : PageModel
{
    public string Heading { get; private set; } = string.Empty;

    public string Words { get; private set; } = string.Empty;

    /// <summary>Under which id the log tells of it; null where the fault is not the application's.</summary>
    public string? RequestId { get; private set; }

    public void OnGet(int? status) => Show(status);

    public void OnPost(int? status) => Show(status);

    private void Show(int? status)
    {
        if (DatabaseAwayFilter.IsAway(HttpContext.Features.Get<IExceptionHandlerFeature>()?.Error))
            Response.StatusCode = StatusCodes.Status503ServiceUnavailable;
        if ((status ?? Response.StatusCode) >= StatusCodes.Status500InternalServerError)
            RequestId = HttpContext.TraceIdentifier;
        (Heading, Words) = (status ?? Response.StatusCode) switch
        {
            422 => ("Something written can't be kept", "Nothing was saved. Go back: what you typed is still there."),
            409 => ("Not as the records stand", "Nothing was changed. Ask the qualified person or the administrator."),
            400 => (
                "The form could not be read",
                "It may have stood open for too long, or been sent from another sign-in. Go back, reload the page and send it again; drafts of inspections are kept."
            ),
            403 => (
                "Not for your role",
                "Your role does not allow this. Ask an inspector, the qualified person or the administrator; anyone may put a piece on hold."
            ),
            404 => ("Nothing here", "There is no such page or piece. Check the mark, or look for it in the register."),
            413 => ("Too large", "What was sent is larger than anything this page takes. Nothing was saved."),
            503 => (
                "The records can't be reached just now",
                "The database does not answer. Nothing was lost: answers of an inspection wait on this device. Try again in a few seconds."
            ),
            _ => (
                "Something went wrong here",
                "The fault is ours and is written down. Nothing was half saved: go back and try again."
            ),
        };
        if (HttpContext.Items[TextGate.Item] is string refused)
            Words = $"{refused} {Words}";
    }
}
