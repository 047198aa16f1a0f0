namespace Keralith.Web.Security;

/// <summary>Sends the headers that keep a browser from running or framing anything that is not ours.</summary>
internal sealed class SecurityHeaders(RequestDelegate next)
{
    private const string Policy =
        "default-src 'none'; script-src 'self'; style-src 'self'; img-src 'self' data:; font-src 'self'; connect-src 'self'; "
        + "manifest-src 'self'; form-action 'self'; base-uri 'none'; frame-ancestors 'none'";

    public Task InvokeAsync(HttpContext context)
    {
        context.Response.OnStarting(() =>
        {
            var headers = context.Response.Headers;
            headers.ContentSecurityPolicy = Policy;
            headers.XContentTypeOptions = "nosniff";
            headers.XFrameOptions = "DENY";
            headers["Referrer-Policy"] = "same-origin";
            headers["Permissions-Policy"] = "camera=(self), geolocation=(), microphone=()";
            headers["Cross-Origin-Opener-Policy"] = "same-origin";
            if (string.IsNullOrEmpty(headers.CacheControl))
                headers.CacheControl = "no-store";
            return Task.CompletedTask;
        });
        return next(context);
    }
}
