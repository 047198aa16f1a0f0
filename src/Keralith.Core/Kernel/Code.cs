using System.Reflection;

namespace Keralith.Core.Kernel;

/// <summary>The fixed code of an enum's value, in files, documents and the database. It never changes; names may.</summary>
/// <param name="text">The code.</param>
[AttributeUsage(AttributeTargets.Field)]
public sealed class CodeAttribute(string text) : Attribute
{
    public string Text { get; } = text;
}

/// <summary>Fixed codes of values, as they stand beside each value of an enum.</summary>
public static class Code
{
    /// <summary>The code of a value.</summary>
    /// <exception cref="ArgumentOutOfRangeException">The value is none of its enum's.</exception>
    public static string Of<T>(T value)
        where T : struct, Enum =>
        Codes<T>.ByValue.TryGetValue(value, out var code)
            ? code
            : throw new ArgumentOutOfRangeException(nameof(value), value, null);

    /// <summary>The value of a code written by the product itself.</summary>
    /// <exception cref="FormatException">No value has it.</exception>
    public static T Parse<T>(string code)
        where T : struct, Enum =>
        Find<T>(code) ?? throw new FormatException($"There is no {typeof(T).Name} \"{code}\".");

    /// <summary>The value of a code, or null when no value has it.</summary>
    public static T? Find<T>(string? code)
        where T : struct, Enum => code is not null && Codes<T>.ByCode.TryGetValue(code, out var value) ? value : null;

    private static class Codes<T>
        where T : struct, Enum
    {
        public static readonly Dictionary<T, string> ByValue = typeof(T)
            .GetFields(BindingFlags.Public | BindingFlags.Static)
            .ToDictionary(
                f => (T)f.GetValue(null)!,
                f =>
                    f.GetCustomAttribute<CodeAttribute>()?.Text
                    ?? throw new InvalidOperationException($"{typeof(T).Name}.{f.Name} has no code.")
            );

        public static readonly Dictionary<string, T> ByCode = ByValue.ToDictionary(c => c.Value, c => c.Key);
    }
}
