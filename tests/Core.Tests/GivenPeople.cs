using Keralith.Core.People;

namespace Keralith.Core.Tests;

/// <summary>Somebody who does something.</summary>
internal static class GivenPeople
{
    /// <summary>Somebody of a role, on a day; a new person each time.</summary>
    public static Signer Signer(Role role, DateOnly? day = null) => Signer(role, Guid.NewGuid(), day);

    /// <summary>One person, on a day.</summary>
    public static Signer Signer(Role role, Guid person, DateOnly? day = null)
    {
        var on = day ?? new(2026, 3, 2);
        var at = new DateTimeOffset(on.ToDateTime(new(9, 0)), TimeSpan.Zero);
        return new(person, Code.Of(role), $"Test {Code.Of(role)}", role, at, on);
    }

    /// <summary>Where a moment stands among the facts: here the clock and the numbers agree.</summary>
    public static FactOrder Order(this DateTimeOffset at) => new(at.UtcTicks);
}
