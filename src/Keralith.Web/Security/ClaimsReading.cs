using System.Security.Claims;
using Keralith.Core.People;
using Keralith.Data;

namespace Keralith.Web.Security;

/// <summary>Who is signed in, read from the cookie's claims.</summary>
internal static class ClaimsReading
{
    /// <summary>The roles of whoever is signed in; none where nobody is.</summary>
    public static Roles Roles(this ClaimsPrincipal user) =>
        Core.People.Roles.Of(
            user.FindAll(ClaimTypes.Role)
                .Select(c => Code.Find<Role>(c.Value))
                .Where(r => r is not null)
                .Select(r => r!.Value)
        );

    public static Actor? Actor(this ClaimsPrincipal user) =>
        Guid.TryParse(user.FindFirstValue(ClaimTypes.NameIdentifier), out var id)
        && user.Roles() is { IsNone: false } roles
            ? new(id, user.FindFirstValue("username")!, user.FindFirstValue(ClaimTypes.Name)!, roles)
            {
                Unit = user.FindFirstValue("unit"),
            }
            : null;

    public static ClaimsPrincipal Principal(Actor actor, string scheme) =>
        new(
            new ClaimsIdentity(
                [
                    new(ClaimTypes.NameIdentifier, actor.Id.ToString()),
                    new("username", actor.Username),
                    new(ClaimTypes.Name, actor.Name),
                    .. actor.Unit is { } unit ? [new Claim("unit", unit)] : Array.Empty<Claim>(),
                    .. actor.Roles.Codes.Select(r => new Claim(ClaimTypes.Role, r)),
                ],
                scheme
            )
        );
}
