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
        Refuse(result.Refusal!);

        // What is sent next is another submission, though all that was typed is still there.
        Submission = Guid.CreateVersion7();
        ModelState.Remove(nameof(Submission));
        await loadAgain();
        return Page();
    }

    /// <summary>Reads a day of the form; one that can't be read is refused with the name of its field.</summary>
    /// <param name="typed">What was typed.</param>
    /// <param name="field">The field's name, as the page says it.</param>
    /// <param name="day">The day; null where nothing was typed.</param>
    /// <returns>False where it can't be read.</returns>
    protected bool IsDay(string? typed, string field, out DateOnly? day)
    {
        var read = DayReader.Read(typed);
        day = read.Ok ? read.Value : null;
        if (!read.Ok)
            Refuse($"{field}: {read.Fault}");
        return read.Ok;
    }

    /// <summary>Shows why something was refused, and says so by the status.</summary>
    protected void Refuse(Refusal refusal)
    {
        Refused = refusal.Words;
        Response.StatusCode = refusal.Kind switch
        {
            RefusalKind.Conflict => StatusCodes.Status409Conflict,
            RefusalKind.Forbidden => StatusCodes.Status403Forbidden,
            RefusalKind.Invalid or RefusalKind.NotFound => StatusCodes.Status422UnprocessableEntity,
        };
    }

    protected void Refuse(string words)
    {
        Refused = words;
        Response.StatusCode = StatusCodes.Status422UnprocessableEntity;
    }
}
