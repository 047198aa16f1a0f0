using Microsoft.AspNetCore.Hosting.Server;
using Microsoft.AspNetCore.Hosting.Server.Features;

namespace Keralith.Web.Security;

/// <summary>The address that codes, feeds and mails carry: as configured, else the server's own; never a request's.</summary>
public sealed class PublicAddress(Served served, IServer server)
{
    public Uri Of(string path) => new(Base, path);

    public Uri Base =>
        served.Address
        ?? new Uri(
            server.Features.Get<IServerAddressesFeature>()?.Addresses.FirstOrDefault() ?? "http://127.0.0.1:5080"
        );
}
