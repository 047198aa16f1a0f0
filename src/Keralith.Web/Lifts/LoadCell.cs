using System.Globalization;
using System.Net.Sockets;
using System.Text;
using System.Text.Json;
using Keralith.Core.Quantities;

namespace Keralith.Web.Lifts;

/// <summary>One reading of a load cell.</summary>
/// <param name="Load">What hangs on it.</param>
/// <param name="Steady">Whether it has come to rest.</param>
public sealed record CellReading(Mass Load, bool Steady);

/// <summary>
/// A load cell that speaks lines: one JSON object a line,
/// <c>{"format":"keralith.cell/1","kg":1234.5,"steady":true}</c>. KERALITH_LOAD_CELL names it as
/// <c>host:port</c>; a small stand-in ships with the application and takes <c>hang 1200 kg</c>.
/// </summary>
public sealed class LoadCell
{
    public const string Format = "keralith.cell/1";

    private static readonly TimeSpan Patience = TimeSpan.FromSeconds(4);

    private readonly string? _at = Environment.GetEnvironmentVariable("KERALITH_LOAD_CELL");

    /// <summary>Whether one is connected.</summary>
    public bool IsThere => _at is not null;

    /// <summary>The next reading; a steady one where asked for.</summary>
    public Task<Checked<CellReading>> ReadAsync(bool steady, CancellationToken cancel) =>
        TalkAsync(null, steady, cancel);

    /// <summary>Hangs a load on the stand-in; real cells take no such line.</summary>
    public Task<Checked<CellReading>> HangAsync(Mass load, CancellationToken cancel) =>
        TalkAsync(FormattableString.Invariant($"hang {load.Kilograms:0.###} kg\n"), false, cancel);

    private async Task<Checked<CellReading>> TalkAsync(string? say, bool steady, CancellationToken cancel)
    {
        if (
            _at?.Split(':') is not [var host, var port]
            || !int.TryParse(port, CultureInfo.InvariantCulture, out var number)
        )
            return new Refusal("No load cell is connected.");
        using var limit = CancellationTokenSource.CreateLinkedTokenSource(cancel);
        limit.CancelAfter(Patience);
        try
        {
            using var client = new TcpClient();
            await client.ConnectAsync(host, number, limit.Token);
            await using var stream = client.GetStream();
            if (say is not null)
                await stream.WriteAsync(Encoding.UTF8.GetBytes(say), limit.Token);
            using var reader = new StreamReader(stream, Encoding.UTF8);
            while (await reader.ReadLineAsync(limit.Token) is { Length: < 400 } line)
            {
                if (Parse(line) is { } reading && (reading.Steady || !steady))
                    return reading;
            }

            return new Refusal("The load cell hung up.");
        }
        catch (OperationCanceledException) when (!cancel.IsCancellationRequested)
        {
            return new Refusal("The load cell does not come to rest: let the load hang still.");
        }
        catch (Exception e) when (e is SocketException or IOException)
        {
            return new Refusal("The load cell does not answer.");
        }
    }

    /// <summary>Reads a line; null for one that is no reading.</summary>
    private static CellReading? Parse(string line)
    {
        try
        {
            using var json = JsonDocument.Parse(line);
            var root = json.RootElement;
            return
                root.TryGetProperty("kg", out var kg)
                && kg.TryGetDecimal(out var load)
                && Math.Abs(load) < 1_000_000
                && root.TryGetProperty("steady", out var rest)
                ? new(Mass.FromKilograms(Math.Round(load, 1)), rest.ValueKind == JsonValueKind.True)
                : null;
        }
        catch (JsonException)
        {
            return null;
        }
    }
}
