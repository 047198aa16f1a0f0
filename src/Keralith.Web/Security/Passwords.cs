using Keralith.Core.People;
using Keralith.Data;
using Microsoft.AspNetCore.Identity;

namespace Keralith.Web.Security;

/// <summary>
/// Checks a password, for signing in and for signing a record. Wrong ones are counted together; too many lock both for
/// a while.
/// </summary>
public sealed class Passwords(PeopleStore people, IPasswordHasher<Actor> hasher)
{
    private const int Longest = 200;

    private static readonly Actor Nobody = new(Guid.Empty, "nobody", "Nobody", Role.Auditor);
    private static readonly string NobodysHash = new PasswordHasher<Actor>().HashPassword(
        Nobody,
        Guid.NewGuid().ToString()
    );

    /// <summary>The person a name and password belong to; null when they do not match or there were too many tries.</summary>
    public async Task<Actor?> CheckAsync(
        string? username,
        string? password,
        DateTimeOffset now,
        CancellationToken cancel
    )
    {
        var person = username is { Length: > 0 and <= 60 } ? await people.FindAsync(username, cancel) : null;
        var locked = person?.LockedUntil > now;

        // As long for a name that does not exist as for one that does.
        var matches =
            hasher.VerifyHashedPassword(
                person?.Actor ?? Nobody,
                person?.PasswordHash ?? NobodysHash,
                password is { Length: <= Longest } ? password : string.Empty
            ) != PasswordVerificationResult.Failed;
        if (person is null || locked || !matches)
        {
            if (person is not null && !locked)
                await people.CountFailureAsync(person.Actor.Id, now, cancel);
            return null;
        }

        await people.ForgetFailuresAsync(person.Actor.Id, cancel);
        return person.Actor;
    }
}
