using System.Text.Json;
using System.Text.Json.Serialization;

namespace Keralith.Core.Kernel;

/// <summary>Writes an enum's value as its code, so that another order of its values means nothing. Reads nothing else.</summary>
/// <typeparam name="T">A coded enum.</typeparam>
public sealed class CodeJson<T> : JsonConverter<T>
    where T : struct, Enum
{
    /// <exception cref="JsonException">It is no code of the enum's.</exception>
    public override T Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options) =>
        reader.TokenType == JsonTokenType.String && Code.Find<T>(reader.GetString()) is { } value
            ? value
            : throw new JsonException($"That is no code of a {typeof(T).Name}.");

    public override void Write(Utf8JsonWriter writer, T value, JsonSerializerOptions options) =>
        writer.WriteStringValue(Code.Of(value));
}
