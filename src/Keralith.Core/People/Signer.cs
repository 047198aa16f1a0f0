namespace Keralith.Core.People;

/// <summary>Who does something, and when: the day is the site's own, and goes wherever the signature goes.</summary>
/// <param name="Person">Who.</param>
/// <param name="Username">The sign-in name, as the ledger keeps it.</param>
/// <param name="Name">The name people read.</param>
/// <param name="Roles">In which roles.</param>
/// <param name="At">The moment.</param>
/// <param name="Day">The site's day at that moment.</param>
public sealed record Signer(Guid Person, string Username, string Name, Roles Roles, DateTimeOffset At, DateOnly Day)
{
    /// <summary>Why this person may not do something; null when they may.</summary>
    /// <param name="right">What it takes.</param>
    /// <param name="words">How it is refused, where the usual words would say too little.</param>
    public Refusal? Without(Right right, string? words = null) =>
        Roles.May(right) ? null
        : words is null ? Refusal.Forbidden()
        : Refusal.Forbidden(words);
}
