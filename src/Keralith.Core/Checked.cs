namespace Keralith.Core;

/// <summary>
/// A value, or the words that say why there is none. Used for refusals a person can mend; bugs throw.
/// </summary>
/// <typeparam name="T">The type of the value.</typeparam>
public readonly record struct Checked<T>
{
    private readonly T? _value;

    private Checked(T? value, string? fault)
    {
        _value = value;
        Fault = fault;
    }

    /// <summary>Why there is no value: what was found and what to write instead; null when there is one.</summary>
    public string? Fault { get; }

    /// <summary>Whether a value is there.</summary>
    public bool Ok => Fault is null;

    /// <summary>The value.</summary>
    /// <exception cref="FormatException">There is none; the message is <see cref="Fault"/>.</exception>
    public T Value => Fault is null ? _value! : throw new FormatException(Fault);

    public static implicit operator Checked<T>(T value) => new(value, null);

    /// <summary>A refusal with its words.</summary>
    public static implicit operator Checked<T>(Refusal refusal) => new(default, refusal.Words);
}

/// <summary>The words of a refusal, convertible to any <see cref="Checked{T}"/>.</summary>
/// <param name="Words">One line: what was found, what is expected.</param>
public readonly record struct Refusal(string Words);
