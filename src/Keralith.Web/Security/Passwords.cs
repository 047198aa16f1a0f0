using System.Security.Cryptography;
using System.Text;
using Keralith.Core.People;
using Keralith.Data;
using Microsoft.AspNetCore.Identity;

namespace Keralith.Web.Security;

/// <summary>
/// Checks a password: to sign in, and to sign a record in a running sign-in. Tries are counted by person and address
/// before a password is looked at; what somebody else tries elsewhere never stops a person who is signed in.
/// </summary>
public sealed partial class Passwords(
    PeopleStore people,
    SignInStore signIns,
    IPasswordHasher<Actor> hasher,
    ILogger<Passwords> log
)
{
    /// <summary>Tries within five minutes of one person from one address, or in one running sign-in.</summary>
    public const int MostOfOne = 6;

    /// <summary>Tries within five minutes from one address, whoever is tried.</summary>
    public const int MostOfAddress = 60;

    /// <summary>Tries within five minutes of one person, from addresses they never signed in from.</summary>
    public const int MostOfStrangers = 30;

    private const int Longest = 200;

    private static readonly Actor Nobody = new(Guid.Empty, "nobody", "Nobody", Role.Auditor);
    private static readonly string NobodysHash = new PasswordHasher<Actor>().HashPassword(
        Nobody,
        Guid.NewGuid().ToString()
    );

    /// <summary>The person a name and password belong to; null when they do not match or there were too many tries.</summary>
    /// <param name="address">Where it is tried from.</param>
    public async Task<Actor?> CheckAsync(
        string? username,
        string? password,
        string address,
        DateTimeOffset now,
        CancellationToken cancel
    )
    {
        var name = username is { Length: > 0 and <= 60 } ? username : string.Empty;
        var one = $"{name} {address}";
        var keys = new List<(string, int)> { (one, MostOfOne), ($"address {address}", MostOfAddress) };
        if (!await signIns.HasBeenAsync(name, address, cancel))
            keys.Add(($"strangers {name}", MostOfStrangers));
        if (!await signIns.MayTryAsync(keys, now, cancel))
        {
            TooMany(name, address);
            return null;
        }

        var person = name.Length > 0 ? await people.FindAsync(name, cancel) : null;
        if (!Matches(person, password) || person is null or { IsOfDirectory: true })
        {
            Wrong(name, address);
            return null;
        }

        await signIns.ForgetAsync([one], cancel);
        await signIns.GiveBackAsync(keys.Select(k => k.Item1).Where(k => k != one), cancel);
        In(name, address);
        return person.Actor;
    }

    /// <summary>Whether a password is that of a person who is signed in and signs a record.</summary>
    /// <param name="actor">The person.</param>
    /// <param name="signIn">Their running sign-in.</param>
    public async Task<bool> ConfirmAsync(
        Actor actor,
        string signIn,
        string? password,
        DateTimeOffset now,
        CancellationToken cancel
    )
    {
        var key =
            $"signing {actor.Username} {Convert.ToHexString(SHA256.HashData(Encoding.UTF8.GetBytes(signIn)))[..16]}";
        if (!await signIns.MayTryAsync([(key, MostOfOne)], now, cancel))
        {
            TooMany(actor.Username, "a running sign-in");
            return false;
        }

        if (!Matches(await people.FindAsync(actor.Username, cancel), password))
        {
            Wrong(actor.Username, "a running sign-in");
            return false;
        }

        await signIns.ForgetAsync([key], cancel);
        return true;
    }

    /// <summary>As long for a name that does not exist as for one that does.</summary>
    private bool Matches(Person? person, string? password) =>
        hasher.VerifyHashedPassword(
            person?.Actor ?? Nobody,
            person?.PasswordHash ?? NobodysHash,
            password is { Length: <= Longest } ? password : string.Empty
        ) != PasswordVerificationResult.Failed
        && person is not null;

    [LoggerMessage(Level = LogLevel.Information, Message = "security: {Username} signed in from {Address}")]
    private partial void In(string username, string address);

    [LoggerMessage(Level = LogLevel.Warning, Message = "security: wrong password for {Username} from {Address}")]
    private partial void Wrong(string username, string address);

    [LoggerMessage(Level = LogLevel.Warning, Message = "security: too many tries for {Username} from {Address}")]
    private partial void TooMany(string username, string address);
}
