using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.Filters;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace Keralith.Web.Security;

/// <summary>
/// What a page has no handler for is not there: it is never shown without having been filled. Pages that only show
/// have none for reading, and are shown as they are.
/// </summary>
internal sealed class HandlerGate : IAsyncPageFilter
{
    public Task OnPageHandlerSelectionAsync(PageHandlerSelectedContext context) => Task.CompletedTask;

    public async Task OnPageHandlerExecutionAsync(
        PageHandlerExecutingContext context,
        PageHandlerExecutionDelegate next
    )
    {
        if (context.HandlerMethod is null && !MayBeShown(context))
            context.Result = new NotFoundResult();
        else
            await next();
    }

    private static bool MayBeShown(PageHandlerExecutingContext context) =>
        (
            HttpMethods.IsGet(context.HttpContext.Request.Method)
            || HttpMethods.IsHead(context.HttpContext.Request.Method)
        )
        && !((CompiledPageActionDescriptor)context.ActionDescriptor).HandlerMethods.Any(h =>
            HttpMethods.IsGet(h.HttpMethod)
        );
}
