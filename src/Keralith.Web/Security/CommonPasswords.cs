using System.Globalization;

namespace Keralith.Web.Security;

/// <summary>Passwords that are tried first: common ones and what is made of them, by the lists that zxcvbn ships.</summary>
public static class CommonPasswords
{
    /// <summary>What has less than this, in bits, is found in a hundred million guesses: online guessing comes so far.</summary>
    private const double FewestBits = 26.6;

    /// <summary>How much of a password is looked at: what is longer is weighed by its beginning.</summary>
    private const int Looked = 72;

    /// <summary>Whether a password is among those tried first.</summary>
    /// <param name="own">Words of its owner and the works.</param>
    public static bool Has(string password, IReadOnlyList<string> own) =>
        Zxcvbn
            .Zxcvbn.MatchPassword(
                password.Length > Looked ? password[..Looked] : password,
                own.Append("keralith").Select(w => w.ToLower(CultureInfo.InvariantCulture))
            )
            .Entropy < FewestBits;
}
