using Keralith.Web.Mailing;

namespace Keralith.Web.Security;

/// <summary>Under which address the works is served, as it is configured: never as a request says.</summary>
/// <param name="Address">The address people use, such as <c>https://gear.works.example</c>; null: the server's own.</param>
/// <param name="Hosts">The host names that are answered.</param>
/// <param name="KeyFile">The file with the key that seals the keys in the database; null: they are not sealed.</param>
public sealed record Served(Uri? Address, IReadOnlyList<string> Hosts, string? KeyFile)
{
    /// <summary>The mail server; null: mails go into the stand-in on this machine.</summary>
    public MailServer? Mail { get; init; }

    /// <summary>The proxies whose word on where a request comes from is taken; none: nobody's.</summary>
    public IReadOnlyList<System.Net.IPNetwork> Proxies { get; init; } = [];

    /// <summary>The works' own directory; null: people sign in by password.</summary>
    public DirectoryServer? Directory { get; init; }

    /// <summary>The token with which <c>/metrics</c> is read; null: it is not there.</summary>
    public string? MetricsToken { get; init; }

    /// <summary>Whom mails are from.</summary>
    public string MailFrom { get; init; } = "keralith@keralith.invalid";

    private static readonly string[] Own = ["localhost", "127.0.0.1", "[::1]"];

    /// <summary>Whether people reach it over HTTPS: cookies are for that alone then.</summary>
    public bool IsSecure => Address?.Scheme == Uri.UriSchemeHttps;

    /// <summary>
    /// Why it may not be served so; null when it may: passwords never go in the clear beyond this machine, unless a proxy
    /// speaks HTTPS for it or somebody says that they may.
    /// </summary>
    /// <param name="urls">Where it listens, with semicolons between.</param>
    /// <param name="plain"><c>allow</c> where somebody says so.</param>
    public string? RefusalOfUrls(string urls, string? plain)
    {
        if (IsSecure || plain == "allow")
            return null;
        var open = Parts(urls)
            .FirstOrDefault(u => u.StartsWith("http://", StringComparison.OrdinalIgnoreCase) && !IsHere(u));
        return open is null
            ? null
            : $"{open} would carry passwords in the clear. Serve on loopback behind a proxy that speaks HTTPS and name its address in KERALITH_ADDRESS (https://...), or set KERALITH_PLAIN_HTTP=allow.";
    }

    private static bool IsHere(string url) =>
        Uri.TryCreate(url, UriKind.Absolute, out var address) && address.IsLoopback;

    /// <summary>Reads KERALITH_ADDRESS, KERALITH_HOSTS (with semicolons between) and KERALITH_KEY_FILE.</summary>
    /// <exception cref="FormatException">The address is none.</exception>
    public static Served Read(Func<string, string?> environment)
    {
        var address = environment("KERALITH_ADDRESS") is { Length: > 0 } text ? Parse(text) : null;
        var hosts = Parts(environment("KERALITH_HOSTS"));
        return new(
            address,
            [.. hosts.Concat(address is null ? [] : [address.Host]).Concat(Own).Distinct()],
            environment("KERALITH_KEY_FILE") is { Length: > 0 } file ? file : null
        )
        {
            Mail = environment("KERALITH_MAIL") is { Length: > 0 } mail ? MailServer.Parse(mail) : null,
            Proxies = [.. Parts(environment("KERALITH_PROXIES")).Select(Network)],
            Directory = DirectoryServer.Read(environment),
            MetricsToken = environment("KERALITH_METRICS_TOKEN") is { Length: > 0 } token ? token : null,
            MailFrom = environment("KERALITH_MAIL_FROM") is { Length: > 0 } from
                ? from
                : $"keralith@{address?.Host ?? "keralith.invalid"}",
        };
    }

    private static string[] Parts(string? text) =>
        text?.Split(';', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries) ?? [];

    private static System.Net.IPNetwork Network(string text) =>
        System.Net.IPNetwork.TryParse(text, out var network) ? network
        : System.Net.IPAddress.TryParse(text, out var one)
            ? new(one, one.AddressFamily == System.Net.Sockets.AddressFamily.InterNetwork ? 32 : 128)
        : throw new FormatException(
            $"KERALITH_PROXIES \"{text}\" should be an address or a network such as 10.0.0.0/8."
        );

    private static Uri Parse(string text) =>
        Uri.TryCreate(text, UriKind.Absolute, out var address)
        && (address.Scheme == Uri.UriSchemeHttps || address.Scheme == Uri.UriSchemeHttp)
            ? address
            : throw new FormatException(
                $"KERALITH_ADDRESS \"{text}\" should be an address such as https://gear.example."
            );
}
