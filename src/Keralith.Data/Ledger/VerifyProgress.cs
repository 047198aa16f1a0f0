using System.Text.Json;

namespace Keralith.Data;

/// <summary>
/// How far a verification has come, kept in a file beside the records: one that was cut off goes on behind the last step it
/// finished. It is thrown away once all is verified.
/// </summary>
/// <param name="file">Where. A file that can't be read is begun anew.</param>
/// <exception cref="IOException">It can't be written.</exception>
public sealed class VerifyProgress(string file)
{
    private readonly Dictionary<string, List<Unverified>> _done = Read(file);

    /// <summary>What a step that is done found; null: it is still to be done.</summary>
    internal IReadOnlyList<Unverified>? Found(string step) => _done.GetValueOrDefault(step);

    /// <summary>Keeps that a step is done.</summary>
    internal void Done(string step, List<Unverified> found)
    {
        _done[step] = found;
        File.WriteAllText(file, JsonSerializer.Serialize(_done));
    }

    /// <summary>Throws it away.</summary>
    public void End() => File.Delete(file);

    private static Dictionary<string, List<Unverified>> Read(string file)
    {
        try
        {
            return File.Exists(file)
                ? JsonSerializer.Deserialize<Dictionary<string, List<Unverified>>>(File.ReadAllText(file)) ?? []
                : [];
        }
        catch (JsonException)
        {
            return [];
        }
    }
}
