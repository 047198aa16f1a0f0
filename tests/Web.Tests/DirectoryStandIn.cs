using System.Security.Cryptography;
using Microsoft.AspNetCore.Builder;
using Microsoft.AspNetCore.Http;
using Microsoft.Extensions.Logging;
using Microsoft.IdentityModel.JsonWebTokens;
using Microsoft.IdentityModel.Tokens;

namespace Keralith.Web.Tests;

/// <summary>
/// A directory that is not there: signs in at once whoever the test says, by OpenID Connect's code flow with PKCE, and
/// answers only who knows the secret.
/// </summary>
internal sealed class DirectoryStandIn : IAsyncDisposable
{
    public const string Client = "keralith";
    public const string Secret = "between-the-two";

    private readonly RsaSecurityKey _key = new(RSA.Create(2048)) { KeyId = "one" };
    private readonly Dictionary<string, (string Nonce, string Challenge)> _codes = [];
    private readonly WebApplication _app;

    private DirectoryStandIn(WebApplication app) => _app = app;

    /// <summary>Who signs in next: the claims the directory says of them.</summary>
    public Dictionary<string, object> Who { get; set; } = [];

    /// <summary>Whether what it says is signed by a key it does not tell.</summary>
    public bool IsForged { get; set; }

    public string Address => _app.Urls.First();

    public static async Task<DirectoryStandIn> StartAsync()
    {
        var builder = WebApplication.CreateSlimBuilder();
        builder.Logging.ClearProviders();
        var app = builder.Build();
        app.Urls.Add("http://127.0.0.1:0");
        var directory = new DirectoryStandIn(app);
        directory.Map();
        await app.StartAsync();
        return directory;
    }

    public ValueTask DisposeAsync() => _app.DisposeAsync();

    private void Map()
    {
        _app.MapGet("/.well-known/openid-configuration", () => Results.Json(
                new
                {
                    issuer = Address,
                    authorization_endpoint = $"{Address}/authorize",
                    token_endpoint = $"{Address}/token",
                    jwks_uri = $"{Address}/keys",
                    response_types_supported = new[] { "code" },
                    subject_types_supported = new[] { "public" },
                    id_token_signing_alg_values_supported = new[] { "RS256" },
                }
            ));
        _app.MapGet("/keys", () =>
        {
            var key = JsonWebKeyConverter.ConvertFromRSASecurityKey(
                new RsaSecurityKey(_key.Rsa.ExportParameters(false)) { KeyId = _key.KeyId }
            );
            return Results.Json(
                new
                {
                    keys = new[]
                    {
                        new
                        {
                            kty = key.Kty,
                            kid = key.Kid,
                            use = "sig",
                            alg = "RS256",
                            n = key.N,
                            e = key.E,
                        },
                    },
                }
            );
        });
        _app.MapGet("/authorize", (HttpRequest request) =>
        {
            var code = Guid.NewGuid().ToString("N");
            _codes[code] = (request.Query["nonce"]!, request.Query["code_challenge"]!);
            return Results.Redirect(
                $"{request.Query["redirect_uri"]}?code={code}&state={Uri.EscapeDataString(request.Query["state"]!)}"
            );
        });
        _app.MapPost("/token", async (HttpRequest request) =>
        {
            var form = await request.ReadFormAsync();
            if (
                form["client_id"] != Client
                || form["client_secret"] != Secret
                || !_codes.Remove(form["code"]!, out var asked)
                || Base64UrlEncoder.Encode(SHA256.HashData(System.Text.Encoding.ASCII.GetBytes(form["code_verifier"]!)))
                    != asked.Challenge
            )
                return Results.BadRequest(new { error = "invalid_grant" });
            return Results.Json(
                new
                {
                    access_token = "none",
                    token_type = "Bearer",
                    id_token = Token(asked.Nonce),
                }
            );
        });
    }

    private string Token(string nonce)
    {
        var key = IsForged ? new RsaSecurityKey(RSA.Create(2048)) { KeyId = _key.KeyId } : _key;
        return new JsonWebTokenHandler().CreateToken(
            new SecurityTokenDescriptor
            {
                Issuer = Address,
                Audience = Client,
                Claims = new Dictionary<string, object>(Who) { ["nonce"] = nonce },
                Expires = DateTime.UtcNow.AddMinutes(5),
                SigningCredentials = new(key, SecurityAlgorithms.RsaSha256),
            }
        );
    }
}
