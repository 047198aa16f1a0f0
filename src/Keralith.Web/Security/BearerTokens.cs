using System.Text.Encodings.Web;
using Keralith.Data;
using Microsoft.AspNetCore.Authentication;
using Microsoft.Extensions.Options;

namespace Keralith.Web.Security;

/// <summary>Signs programs in by the token of an <c>Authorization: Bearer</c> header.</summary>
public sealed class BearerTokens(
    IOptionsMonitor<AuthenticationSchemeOptions> options,
    ILoggerFactory logger,
    UrlEncoder encoder,
    TokenStore tokens,
    SiteStore sites,
    TimeProvider time
) : AuthenticationHandler<AuthenticationSchemeOptions>(options, logger, encoder)
{
    public const string Name = "Bearer";

    private const string Before = "Bearer ";

    protected override async Task<AuthenticateResult> HandleAuthenticateAsync()
    {
        var header = Request.Headers.Authorization.ToString();
        if (!header.StartsWith(Before, StringComparison.OrdinalIgnoreCase))
            return AuthenticateResult.NoResult();
        var token = header[Before.Length..].Trim();
        if (!token.StartsWith(TokenStore.Prefix, StringComparison.Ordinal) || token.Length > 200)
            return AuthenticateResult.Fail("Not a token.");
        return
            await sites.GetAsync(Context.RequestAborted) is { } site
            && await tokens.FindAsync(token, site.DayOf(time.GetUtcNow()), Context.RequestAborted) is { } actor
            ? AuthenticateResult.Success(new(ClaimsReading.Principal(actor, Scheme.Name), Scheme.Name))
            : AuthenticateResult.Fail(
                "The token is unknown, revoked, has run out, or its person lacks the second factor they must have."
            );
    }

    protected override async Task HandleChallengeAsync(AuthenticationProperties properties)
    {
        Response.StatusCode = StatusCodes.Status401Unauthorized;
        Response.Headers.WWWAuthenticate = "Bearer";
        await Response.WriteAsJsonAsync(
            new Api.ApiErrors([
                new("$", "no token that counts: send Authorization: Bearer and a token made under Settings"),
            ]),
            Context.RequestAborted
        );
    }
}
