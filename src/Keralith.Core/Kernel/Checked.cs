namespace Keralith.Core.Kernel;

/// <summary>What kind of refusal it is. Programs and pages go by this, never by the words.</summary>
public enum RefusalKind
{
    /// <summary>What was given or asked does not hold by the rules; the words say what does.</summary>
    Invalid,

    /// <summary>Whoever asks has not the right, or not the authorisation.</summary>
    Forbidden,

    /// <summary>There is no such thing.</summary>
    NotFound,

    /// <summary>Somebody else was quicker: what was read is no longer what stands.</summary>
    Conflict,
}

/// <summary>Why something is refused, in words a person can act on. Bugs throw; this is for what people can mend.</summary>
/// <param name="Words">One line: what was found, what is expected.</param>
/// <param name="Kind">What kind of refusal.</param>
public sealed record Refusal(string Words, RefusalKind Kind = RefusalKind.Invalid)
{
    /// <summary>Whoever asks has not the right.</summary>
    public static Refusal Forbidden(string words = "Your role does not allow this.") =>
        new(words, RefusalKind.Forbidden);

    /// <summary>There is no such thing.</summary>
    public static Refusal NotFound(string words) => new(words, RefusalKind.NotFound);

    /// <summary>Somebody else was quicker.</summary>
    public static Refusal Conflict(string words) => new(words, RefusalKind.Conflict);

    /// <summary>Several reasons as one.</summary>
    /// <param name="reasons">At least one.</param>
    public static Refusal Together(IReadOnlyList<Refusal> reasons) =>
        reasons.Count == 1 ? reasons[0] : new(string.Join(' ', reasons.Select(r => r.Words)), reasons.Max(r => r.Kind));

    public override string ToString() => Words;
}

/// <summary>A value, or the refusal that says why there is none.</summary>
/// <typeparam name="T">The type of the value.</typeparam>
public readonly record struct Checked<T>
{
    private readonly T? _value;

    private Checked(T? value, Refusal? refusal)
    {
        _value = value;
        Refusal = refusal;
    }

    /// <summary>Why there is no value; null when there is one.</summary>
    public Refusal? Refusal { get; }

    /// <summary>The refusal's words; null when there is a value.</summary>
    public string? Fault => Refusal?.Words;

    /// <summary>Whether a value is there.</summary>
    public bool Ok => Refusal is null;

    /// <summary>The value.</summary>
    /// <exception cref="FormatException">There is none; the message is <see cref="Fault"/>.</exception>
    public T Value => Refusal is null ? _value! : throw new FormatException(Refusal.Words);

    public static implicit operator Checked<T>(T value) => new(value, null);

    /// <summary>A refusal with its words.</summary>
    public static implicit operator Checked<T>(Refusal refusal) => new(default, refusal);
}
