using System.Security.Cryptography;
using Keralith.Data;
using Microsoft.AspNetCore.DataProtection;
using OtpNet;

namespace Keralith.Web.Security;

/// <summary>
/// A second factor: codes by time that a phone makes (RFC 6238), and codes on paper that stand in for a lost phone. Each
/// code counts once, and tries are counted before a code is looked at.
/// </summary>
public sealed partial class SecondFactor(
    FactorStore factors,
    SignInStore signIns,
    IDataProtectionProvider protection,
    ILogger<SecondFactor> log
)
{
    private const int SecretBytes = 20;
    private const int RecoveryBytes = 10;

    /// <summary>Steps of half a minute a phone's clock may be off, either way.</summary>
    private static readonly VerificationWindow Window = new(previous: 1, future: 1);

    private static readonly TimeSpan HalfSignedIn = TimeSpan.FromMinutes(5);

    private readonly IDataProtector _seal = protection.CreateProtector("second-factor");

    private readonly ITimeLimitedDataProtector _half = protection
        .CreateProtector("half-signed-in")
        .ToTimeLimitedDataProtector();

    /// <summary>A new secret, in the letters a phone takes; kept nowhere yet.</summary>
    public static string NewSecret() => Base32Encoding.ToString(RandomNumberGenerator.GetBytes(SecretBytes));

    /// <summary>The address a phone reads from a code on the screen.</summary>
    public static string AddressOf(string secret, string username, string works) =>
        new OtpUri(OtpType.Totp, secret, username, $"Keralith {works}").ToString();

    /// <summary>New recovery codes; kept nowhere yet.</summary>
    public static IReadOnlyList<string> NewRecoveryCodes() =>
        [
            .. Enumerable
                .Range(0, FactorStore.RecoveryCodes)
                .Select(_ => Base32Encoding.ToString(RandomNumberGenerator.GetBytes(RecoveryBytes)).ToLowerInvariant())
                .Select(c => $"{c[..4]}-{c[4..8]}-{c[8..12]}-{c[12..]}"),
        ];

    /// <summary>The time step of a code that a secret makes now; null where it makes another.</summary>
    public static long? StepOf(string secret, string? code, DateTimeOffset now)
    {
        var typed = Digits(code);
        return
            typed.Length == 6
            && new Totp(Base32Encoding.ToBytes(secret)).VerifyTotp(now.UtcDateTime, typed, out var step, Window)
            ? step
            : null;
    }

    /// <summary>Seals a secret as it is kept.</summary>
    public byte[] Seal(string secret) => _seal.Protect(Base32Encoding.ToBytes(secret));

    /// <summary>Whether a code of the phone, or one from the paper, counts; it counts once.</summary>
    public async Task<bool> CheckAsync(Actor actor, string? code, DateTimeOffset now, CancellationToken cancel)
    {
        if (!await signIns.MayTryAsync([($"factor {actor.Username}", Passwords.MostOfOne)], now, cancel))
        {
            TooMany(actor.Username);
            return false;
        }

        if (await factors.FindAsync(actor.Id, cancel) is not { } kept)
            return false;
        var counts =
            Opened(kept) is { } secret && StepOf(secret, code, now) is { } step
                ? await factors.TakeStepAsync(actor.Id, step, cancel)
                : await factors.TakeRecoveryAsync(
                    actor.Id,
                    (code ?? string.Empty).Trim().ToLowerInvariant(),
                    now,
                    cancel
                );
        if (counts)
            await signIns.ForgetAsync([$"factor {actor.Username}"], cancel);
        else
            Wrong(actor.Username);
        return counts;
    }

    /// <summary>The secret; null where the key that sealed it is lost: codes on paper count all the same.</summary>
    private string? Opened(KeptFactor kept)
    {
        try
        {
            return Base32Encoding.ToString(_seal.Unprotect(kept.Sealed));
        }
        catch (CryptographicException)
        {
            KeyLost();
            return null;
        }
    }

    /// <summary>That somebody's password was right and their second factor is still to come, for five minutes.</summary>
    public string Half(Actor actor) => _half.Protect(actor.Id.ToString(), HalfSignedIn);

    /// <summary>Whose password was right; null where it is none, or too long ago.</summary>
    public Guid? OfHalf(string? half)
    {
        try
        {
            return Guid.TryParse(_half.Unprotect(half ?? string.Empty), out var id) ? id : null;
        }
        catch (CryptographicException)
        {
            return null;
        }
    }

    private static string Digits(string? code) => string.Concat((code ?? string.Empty).Where(char.IsAsciiDigit));

    [LoggerMessage(Level = LogLevel.Warning, Message = "security: wrong second factor for {Username}")]
    private partial void Wrong(string username);

    [LoggerMessage(
        Level = LogLevel.Error,
        Message = "security: a second factor can't be opened: the key that sealed it is another"
    )]
    private partial void KeyLost();

    [LoggerMessage(Level = LogLevel.Warning, Message = "security: too many second factors tried for {Username}")]
    private partial void TooMany(string username);
}
