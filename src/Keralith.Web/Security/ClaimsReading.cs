using System.Security.Claims;
using Keralith.Core.People;
using Keralith.Data;

namespace Keralith.Web.Security;

/// <summary>Who is signed in, read from the cookie's claims.</summary>
internal static class ClaimsReading
{
    public static Role? Role(this ClaimsPrincipal user) => Code.Find<Role>(user.FindFirstValue(ClaimTypes.Role));

    public static Actor? Actor(this ClaimsPrincipal user) =>
        Guid.TryParse(user.FindFirstValue(ClaimTypes.NameIdentifier), out var id) && user.Role() is { } role
            ? new(id, user.FindFirstValue("username")!, user.FindFirstValue(ClaimTypes.Name)!, role)
            : null;

    public static ClaimsPrincipal Principal(Actor actor, string scheme) =>
        new(
            new ClaimsIdentity(
                [
                    new(ClaimTypes.NameIdentifier, actor.Id.ToString()),
                    new("username", actor.Username),
                    new(ClaimTypes.Name, actor.Name),
                    new(ClaimTypes.Role, Code.Of(actor.Role)),
                ],
                scheme
            )
        );
}
