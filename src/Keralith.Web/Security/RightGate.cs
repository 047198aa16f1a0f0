using Keralith.Core.People;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.Filters;

namespace Keralith.Web.Security;

/// <summary>
/// The right that what a page is sent takes, any one of them where several do; on a handler, or on a page for all of its. Where
/// neither says one, the page's own policy is all that is asked.
/// </summary>
[AttributeUsage(AttributeTargets.Class | AttributeTargets.Method)]
internal sealed class TakesAttribute(params Right[] rights) : Attribute
{
    /// <summary>The rights, any one of which is enough.</summary>
    public IReadOnlyList<Right> Rights { get; } = rights;
}

/// <summary>
/// Who may not is told so before what was sent is looked at: no fault of a form, and nothing that changed meanwhile, is told to
/// somebody who may not press. What exactly they may is Core's to say, behind it.
/// </summary>
internal sealed class RightGate : IAsyncPageFilter
{
    public Task OnPageHandlerSelectionAsync(PageHandlerSelectedContext context) => Task.CompletedTask;

    public async Task OnPageHandlerExecutionAsync(
        PageHandlerExecutingContext context,
        PageHandlerExecutionDelegate next
    )
    {
        var here = context.HttpContext.RequestServices.GetRequiredService<Here>();
        if (Of(context) is { } takes && !takes.Rights.Any(here.May))
            context.Result = new ForbidResult();
        else
            await next();
    }

    private static TakesAttribute? Of(PageHandlerExecutingContext context) =>
        !HttpMethods.IsPost(context.HttpContext.Request.Method) || context.HandlerMethod is not { } handler
            ? null
            : (TakesAttribute?)(
                Attribute.GetCustomAttribute(handler.MethodInfo, typeof(TakesAttribute))
                ?? Attribute.GetCustomAttribute(context.HandlerInstance.GetType(), typeof(TakesAttribute))
            );
}
