using System.Security.Claims;
using Keralith.Core.People;
using Keralith.Data;
using Microsoft.AspNetCore.Authentication;
using Microsoft.IdentityModel.Protocols.OpenIdConnect;

namespace Keralith.Web.Security;

/// <summary>The works' own directory, as it is configured (OpenID Connect).</summary>
/// <param name="Authority">Its address.</param>
/// <param name="Client">The name it knows this works by.</param>
/// <param name="Secret">The secret that goes with it.</param>
/// <param name="RolesClaim">Under which name it says what somebody's roles are, by the codes of this works.</param>
public sealed record DirectoryServer(Uri Authority, string Client, string Secret, string RolesClaim)
{
    /// <summary>Reads KERALITH_OIDC_AUTHORITY, _CLIENT, _SECRET and _ROLES; null where no directory is named.</summary>
    /// <exception cref="FormatException">It is named by halves.</exception>
    public static DirectoryServer? Read(Func<string, string?> environment)
    {
        if (environment("KERALITH_OIDC_AUTHORITY") is not { Length: > 0 } authority)
            return null;
        return
            Uri.TryCreate(authority, UriKind.Absolute, out var at)
            && (at.Scheme == Uri.UriSchemeHttps || at.IsLoopback)
            && environment("KERALITH_OIDC_CLIENT") is { Length: > 0 } client
            && environment("KERALITH_OIDC_SECRET") is { Length: > 0 } secret
            ? new(at, client, secret, environment("KERALITH_OIDC_ROLES") is { Length: > 0 } claim ? claim : "roles")
            : throw new FormatException(
                "KERALITH_OIDC_AUTHORITY should be an https address, with KERALITH_OIDC_CLIENT and KERALITH_OIDC_SECRET."
            );
    }
}

/// <summary>
/// Signing in by the works' own directory: it says who somebody is and which roles they hold, with every sign-in. Such a
/// person has no other way in.
/// </summary>
internal static partial class DirectorySignIn
{
    public const string Scheme = "directory";

    private const string Path = "/sign-in/directory";

    public static void Add(AuthenticationBuilder authentication, DirectoryServer directory) =>
        authentication.AddOpenIdConnect(Scheme, o =>
        {
            o.Authority = directory.Authority.ToString();
            o.ClientId = directory.Client;
            o.ClientSecret = directory.Secret;
            o.RequireHttpsMetadata = !directory.Authority.IsLoopback;
            o.ResponseType = OpenIdConnectResponseType.Code;
            o.ResponseMode = OpenIdConnectResponseMode.Query;
            o.CallbackPath = $"{Path}/back";
            o.MapInboundClaims = false;
            o.SaveTokens = false;
            o.Scope.Add("email");
            foreach (var cookie in new[] { o.CorrelationCookie, o.NonceCookie })
            {
                cookie.SameSite = SameSiteMode.Lax;
                cookie.SecurePolicy = CookieSecurePolicy.SameAsRequest;
            }

            o.Events.OnTicketReceived = c => ReceivedAsync(c, directory);
            o.Events.OnRemoteFailure = c =>
            {
                Failed(Log(c.HttpContext), c.Failure);
                return Refuse(c, "failed");
            };
        });

    /// <summary>Leads to the directory, and back to where somebody wanted to go.</summary>
    public static void Map(WebApplication app, Served served) =>
        app.MapGet(Path, (string? next) =>
                served.Directory is null
                    ? Results.NotFound()
                    : Results.Challenge(
                        new() { RedirectUri = next is ['/', not ('/' or '\\'), ..] ? next : "/" },
                        [Scheme]
                    )
            )
            .AllowAnonymous()
            .ExcludeFromDescription();

    /// <summary>Why the directory signed nobody in, by the word that stands in the address; null: it was not asked.</summary>
    public static Refusal? RefusalOf(string? word) =>
        word switch
        {
            null => null,
            "roles" => Accounts.NoRole,
            "name" => Accounts.RefusalOfDirectory(null, isTaken: true),
            _ => Accounts.NotByDirectory,
        };

    private static async Task ReceivedAsync(TicketReceivedContext context, DirectoryServer directory)
    {
        var http = context.HttpContext;
        var log = Log(http);
        var who = context.Principal!;
        var person = Accounts.OfDirectory(
            who.FindFirstValue("preferred_username") ?? who.FindFirstValue("email"),
            who.FindFirstValue("name") ?? who.FindFirstValue("preferred_username"),
            who.FindAll(directory.RolesClaim).Select(c => c.Value),
            who.FindFirstValue("email")
        );
        if (!person.Ok || who.FindFirstValue("sub") is not { Length: > 0 } subject)
        {
            await Refuse(context, person.Refusal == Accounts.NoRole ? "roles" : "failed");
            return;
        }

        var now = http.RequestServices.GetRequiredService<TimeProvider>().GetUtcNow();
        var signedIn = await http
            .RequestServices.GetRequiredService<DirectoryStore>()
            .OfDirectoryAsync($"{who.FindFirstValue("iss")} {subject}", person.Value, now, http.RequestAborted);
        if (!signedIn.Ok)
        {
            Refused(log, person.Value.Username, signedIn.Fault!);
            await Refuse(
                context,
                signedIn.Refusal == Accounts.RefusalOfDirectory(null, isTaken: true) ? "name" : "failed"
            );
            return;
        }

        var (username, address) = (signedIn.Value.Username, http.Address());
        In(log, username, address);
        await SignedIn.BeginAsync(http, signedIn.Value, http.RequestServices.GetRequiredService<SignInStore>(), now);
        context.Response.Redirect(context.ReturnUri ?? "/");
        context.HandleResponse();
    }

    private static Task Refuse(HandleRequestContext<RemoteAuthenticationOptions> context, string word)
    {
        context.Response.Redirect($"/sign-in?directory={word}");
        context.HandleResponse();
        return Task.CompletedTask;
    }

    private static ILogger Log(HttpContext context) =>
        context.RequestServices.GetRequiredService<ILoggerFactory>().CreateLogger(typeof(DirectorySignIn));

    [LoggerMessage(
        Level = LogLevel.Information,
        Message = "security: {Username} signed in by the directory from {Address}"
    )]
    private static partial void In(ILogger log, string username, string address);

    [LoggerMessage(Level = LogLevel.Warning, Message = "security: the directory's {Username} is refused: {Why}")]
    private static partial void Refused(ILogger log, string username, string why);

    [LoggerMessage(Level = LogLevel.Warning, Message = "security: the directory signed nobody in")]
    private static partial void Failed(ILogger log, Exception? e);
}
