using Keralith.Data;

namespace Keralith.Web.Security;

/// <summary>
/// While nobody administers the works every page leads to set-up, and programs are told so. Once it is set up, which can't
/// be undone, nothing is asked any more.
/// </summary>
internal sealed class SetUpGate(RequestDelegate next, SetUpStore setUp)
{
    private static readonly string[] Open = ["/set-up", "/health", "/error", "/metrics"];

    private bool _done;

    public async Task InvokeAsync(HttpContext context)
    {
        if (!_done)
        {
            try
            {
                _done = await setUp.IsDoneAsync(context.RequestAborted);
            }
            catch (Exception e) when (DatabaseAwayFilter.IsOfDatabase(e))
            {
                // The page says that the database is away or not migrated.
                await next(context);
                return;
            }
        }

        if (_done || Open.Any(o => context.Request.Path.StartsWithSegments(o)))
        {
            await next(context);
            return;
        }

        if (HttpMethods.IsGet(context.Request.Method) && !context.Request.Path.StartsWithSegments("/api"))
        {
            context.Response.Redirect("/set-up");
            return;
        }

        context.Response.StatusCode = StatusCodes.Status503ServiceUnavailable;
        context.Response.ContentType = "text/plain; charset=utf-8";
        await context.Response.WriteAsync("This works is not set up yet.", context.RequestAborted);
    }
}
