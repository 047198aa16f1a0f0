using System.Security.Claims;
using Keralith.Data;
using Microsoft.AspNetCore.Authentication;
using Microsoft.AspNetCore.Authentication.Cookies;

namespace Keralith.Web.Security;

/// <summary>
/// A person's sign-in: the cookie carries its secret, the database says whether it still counts and what the person's
/// role is now. Asked on every request, so that what was ended or changed is so on the next, on every node.
/// </summary>
internal static class SignedIn
{
    private const string Secret = "sign-in";
    private const string Lacks = "keralith.lacks-factor";
    private const string Unknown = "keralith.sign-in-unknown";

    /// <summary>Whether whoever is signed in must set a second factor up before they go on.</summary>
    public static bool LacksFactor(this HttpContext context) => context.Items[Lacks] is true;

    /// <summary>Whether nobody could say if the sign-in of the cookie still counts: its person and role are the cookie's word alone.</summary>
    public static bool IsSignInUnknown(this HttpContext context) => context.Items[Unknown] is true;

    /// <summary>The secret of the running sign-in; null where nobody is signed in by cookie.</summary>
    public static string? SignIn(this ClaimsPrincipal user) => user.FindFirstValue(Secret);

    /// <summary>Where a request comes from.</summary>
    public static string Address(this HttpContext context) =>
        context.Connection.RemoteIpAddress?.ToString() ?? "unknown";

    /// <summary>Signs somebody in.</summary>
    public static async Task BeginAsync(HttpContext context, Actor actor, SignInStore signIns, DateTimeOffset now)
    {
        var secret = await signIns.BeginAsync(actor.Id, context.Address(), Agent(context), now, context.RequestAborted);
        await context.SignInAsync(CookieAuthenticationDefaults.AuthenticationScheme, Principal(actor, secret));
    }

    /// <summary>What the browser says it is, as far as it is kept.</summary>
    private static string Agent(HttpContext context)
    {
        var said = context.Request.Headers.UserAgent.ToString();
        return FreeText.FaultOf(said) is not null ? string.Empty : FreeText.Start(said, MostOfAgent);
    }

    private const int MostOfAgent = 160;

    /// <summary>Signs out: the sign-in is ended wherever its cookie was copied to.</summary>
    public static async Task EndAsync(HttpContext context, SignInStore signIns)
    {
        if (context.User.SignIn() is { } secret)
            await signIns.EndAsync(secret, context.RequestAborted);
        await context.SignOutAsync(CookieAuthenticationDefaults.AuthenticationScheme);
    }

    /// <summary>Asks whether a cookie's sign-in still counts, and takes the role as it is now.</summary>
    public static async Task ValidateAsync(CookieValidatePrincipalContext context)
    {
        var http = context.HttpContext;
        if (context.Principal?.SignIn() is not { } secret)
        {
            context.RejectPrincipal();
            return;
        }

        try
        {
            var time = http.RequestServices.GetRequiredService<TimeProvider>();
            var signIns = http.RequestServices.GetRequiredService<SignInStore>();
            if (await signIns.FindAsync(secret, time.GetUtcNow(), http.RequestAborted) is { } signedIn)
            {
                context.ReplacePrincipal(Principal(signedIn.Actor, secret));
                http.Items[Lacks] = signedIn.LacksFactor;
            }
            else
                context.RejectPrincipal();
        }
        catch (Exception e) when (DatabaseAwayFilter.IsOfDatabase(e))
        {
            // It may be back before the page asks: nothing is done on the word of the cookie (FactorGate).
            http.Items[Unknown] = true;
        }
    }

    private static ClaimsPrincipal Principal(Actor actor, string secret)
    {
        var principal = ClaimsReading.Principal(actor, CookieAuthenticationDefaults.AuthenticationScheme);
        ((ClaimsIdentity)principal.Identity!).AddClaim(new(Secret, secret));
        return principal;
    }
}
