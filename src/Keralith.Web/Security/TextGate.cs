using Keralith.Core.Register;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.Filters;

namespace Keralith.Web.Security;

/// <summary>A page that takes whatever is written, for what it does must always work: it cleans the text itself.</summary>
[AttributeUsage(AttributeTargets.Class)]
internal sealed class TakesAnyTextAttribute : Attribute;

/// <summary>
/// Refuses forms with text that is none, and text over its limit, before a page sees them: one gate for all, so that
/// nothing is cut in silence.
/// </summary>
internal sealed class TextGate : IAsyncPageFilter
{
    /// <summary>Where the words of a refusal wait for the page that shows them.</summary>
    public const string Item = "keralith.refused";

    /// <summary>Letters a list of marks, lines or a plan's note may have.</summary>
    private const int MostOfLists = 10_000;

    private static readonly HashSet<string> Lists =
    [
        "marks",
        "lines",
        "notes",
        "case",
        "words",
        PieceEntryReader.Alike,
        PieceEntryReader.Members,
        PieceEntryReader.Ratings,
    ];

    /// <summary>A crane's chart, and a plan as a bench last saw it.</summary>
    private static readonly HashSet<string> Whole =
    [
        "crane-chart",
        "second-chart",
        "chart-lines",
        "chart-lines-second",
        "seen",
    ];

    private const int MostOfWhole = 120_000;

    public Task OnPageHandlerSelectionAsync(PageHandlerSelectedContext context) => Task.CompletedTask;

    /// <summary>Looks at every field of a form.</summary>
    public async Task OnPageHandlerExecutionAsync(
        PageHandlerExecutingContext context,
        PageHandlerExecutionDelegate next
    )
    {
        var http = context.HttpContext;
        if (
            http.Request.HasFormContentType
            && Attribute.GetCustomAttribute(context.HandlerInstance.GetType(), typeof(TakesAnyTextAttribute)) is null
        )
        {
            foreach (var (name, values) in http.Request.Form)
            {
                var most =
                    Whole.Contains(name) ? MostOfWhole
                    : Lists.Contains(name) ? MostOfLists
                    : FreeText.Usual;
                var refusal = FreeText.RefusalOf("A field's name", name)
                    ?? (
                        name.StartsWith("__", StringComparison.Ordinal)
                            ? null
                            : values
                                .Select(v => FreeText.RefusalOf($"\"{name}\"", v, most))
                                .FirstOrDefault(r => r is not null)
                    );
                if (refusal is null)
                    continue;
                http.Items[Item] = refusal.Words;
                context.Result = new StatusCodeResult(StatusCodes.Status422UnprocessableEntity);
                return;
            }
        }

        await next();
    }
}
