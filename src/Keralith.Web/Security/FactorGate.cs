namespace Keralith.Web.Security;

/// <summary>Leads whoever must set a second factor up to that, and nowhere else: their role counts from then on.</summary>
internal sealed class FactorGate(RequestDelegate next)
{
    public Task InvokeAsync(HttpContext context)
    {
        if (!context.LacksFactor() || context.Request.Path.StartsWithSegments("/account"))
            return next(context);
        if (HttpMethods.IsGet(context.Request.Method))
            context.Response.Redirect("/account/factor");
        else
            context.Response.StatusCode = StatusCodes.Status403Forbidden;
        return Task.CompletedTask;
    }
}
