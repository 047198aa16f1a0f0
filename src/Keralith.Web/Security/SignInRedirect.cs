using Microsoft.AspNetCore.Authentication;
using Microsoft.AspNetCore.Authentication.Cookies;

namespace Keralith.Web.Security;

/// <summary>Pages are sent to sign in; scripts that save in the background are told so with a status instead.</summary>
internal static class SignInRedirect
{
    public static Task ToSignIn(RedirectContext<CookieAuthenticationOptions> context) =>
        To(context, StatusCodes.Status401Unauthorized);

    public static Task ToNoPermission(RedirectContext<CookieAuthenticationOptions> context)
    {
        context.Response.StatusCode = StatusCodes.Status403Forbidden;
        return Task.CompletedTask;
    }

    private static Task To(RedirectContext<CookieAuthenticationOptions> context, int status)
    {
        if (context.Request.Headers.Accept.ToString().Contains("application/json", StringComparison.Ordinal))
            context.Response.StatusCode = status;
        else
            context.Response.Redirect(context.RedirectUri);
        return Task.CompletedTask;
    }
}
