using System.Reflection;
using System.Runtime.CompilerServices;
using System.Text.Encodings.Web;
using System.Text.Json;

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
        (uint)Codes<T>.Number(value) < (uint)Codes<T>.ByValue.Length
            ? Codes<T>.ByValue[Codes<T>.Number(value)]
            : throw new ArgumentOutOfRangeException(nameof(value), value, null);

    /// <summary>The code of a value as JSON text.</summary>
    /// <exception cref="ArgumentOutOfRangeException">The value is none of its enum's.</exception>
    public static JsonEncodedText Json<T>(T value)
        where T : struct, Enum =>
        (uint)Codes<T>.Number(value) < (uint)Codes<T>.Json.Length
            ? Codes<T>.Json[Codes<T>.Number(value)]
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
        /// <summary>The codes, by the number of the value: the values of an enum with codes count up from 0.</summary>
        public static readonly string[] ByValue =
        [
            .. typeof(T)
                .GetFields(BindingFlags.Public | BindingFlags.Static)
                .Select(
                    (field, at) =>
                        Number((T)field.GetValue(null)!) != at
                            ? throw new InvalidOperationException($"{typeof(T).Name}.{field.Name} is out of order.")
                            : field.GetCustomAttribute<CodeAttribute>()?.Text
                                ?? throw new InvalidOperationException($"{typeof(T).Name}.{field.Name} has no code.")
                ),
        ];

        public static readonly JsonEncodedText[] Json =
        [
            .. ByValue.Select(c => JsonEncodedText.Encode(c, JavaScriptEncoder.UnsafeRelaxedJsonEscaping)),
        ];

        public static readonly Dictionary<string, T> ByCode = Enum.GetValues<T>().ToDictionary(v => ByValue[Number(v)]);

        public static int Number(T value) => Unsafe.BitCast<T, int>(value);
    }
}
