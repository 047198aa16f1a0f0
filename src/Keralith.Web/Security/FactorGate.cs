namespace Keralith.Web.Security;

/// <summary>
/// Leads whoever must set a second factor up to that, and nowhere else: their role counts from then on. While nobody can
/// say whether a sign-in still counts, nothing is shown or done by it.
/// </summary>
internal sealed class FactorGate(RequestDelegate next)
{
    private static readonly string[] Always = ["/error", "/health"];

    public Task InvokeAsync(HttpContext context)
    {
        if (context.IsSignInUnknown() && !Always.Any(p => context.Request.Path.StartsWithSegments(p)))
        {
            context.Response.Headers.RetryAfter = "5";
            context.Response.StatusCode = StatusCodes.Status503ServiceUnavailable;
            return Task.CompletedTask;
        }

        if (!context.LacksFactor() || context.Request.Path.StartsWithSegments("/account"))
            return next(context);
        if (HttpMethods.IsGet(context.Request.Method))
            context.Response.Redirect("/account/factor");
        else
            context.Response.StatusCode = StatusCodes.Status403Forbidden;
        return Task.CompletedTask;
    }
}
