using System.Globalization;
using System.Net;
using System.Net.Sockets;
using System.Text;
using System.Text.Json;
using Keralith.Core.Quantities;

namespace Keralith.Cli.LoadCell;

/// <summary>
/// A load cell that is not there: streams readings as lines of JSON to whoever connects on loopback, with swing after a
/// load is hung, noise, and a slow drift.
/// Takes lines: <c>hang 1200 kg</c>.
/// </summary>
internal sealed class CellStandIn
{
    private const double SwingSeconds = 1.1;
    private const double NoiseShare = 0.0004;
    private const double DriftShareAnHour = 0.001;

    private static readonly TimeSpan Between = TimeSpan.FromMilliseconds(150);
    private static readonly TimeSpan Settles = TimeSpan.FromSeconds(2.2);

    private readonly Lock _hanging = new();
    private readonly Random _random = new(7);
    private readonly DateTime _began = DateTime.UtcNow;
    private double _kilograms;
    private double _before;
    private DateTime _hungAt = DateTime.UtcNow;

    /// <param name="port">Where it listens; 0 takes a free port.</param>
    /// <param name="hangs">What hangs on it from the start.</param>
    public static async Task<int> RunAsync(int port, Mass hangs)
    {
        var cell = new CellStandIn();
        cell.Hang(hangs);
        using var listener = new TcpListener(IPAddress.Loopback, port);
        listener.Start();
        Console.WriteLine($"load cell at 127.0.0.1:{((IPEndPoint)listener.LocalEndpoint).Port}");
        while (true)
        {
            var client = await listener.AcceptTcpClientAsync();
            _ = Task.Run(() => cell.ServeAsync(client));
        }
    }

    private async Task ServeAsync(TcpClient client)
    {
        using (client)
        {
            try
            {
                await using var stream = client.GetStream();
                using var reader = new StreamReader(stream, Encoding.UTF8, false, 256, leaveOpen: true);
                _ = Task.Run(() => ListenAsync(reader));
                await Task.Delay(40);
                while (true)
                {
                    await stream.WriteAsync(Encoding.UTF8.GetBytes(Line() + "\n"));
                    await Task.Delay(Between);
                }
            }
            catch (Exception e) when (e is IOException or SocketException or ObjectDisposedException)
            {
                // Whoever listened has hung up.
            }
        }
    }

    private async Task ListenAsync(StreamReader reader)
    {
        try
        {
            while (await reader.ReadLineAsync() is { } line)
            {
                if (
                    line.StartsWith("hang ", StringComparison.Ordinal)
                    && line.Length < 60
                    && Mass.Read(line[5..]) is { Ok: true, Value: var load }
                    && load.Kilograms >= 0
                )
                    Hang(load);
            }
        }
        catch (Exception e) when (e is IOException or SocketException or ObjectDisposedException)
        {
            // Whoever spoke has hung up.
        }
    }

    private void Hang(Mass load)
    {
        lock (_hanging)
        {
            (_before, _kilograms, _hungAt) = (_kilograms, (double)load.Kilograms, DateTime.UtcNow);
        }
    }

    private string Line()
    {
        lock (_hanging)
        {
            var since = (DateTime.UtcNow - _hungAt).TotalSeconds;
            var swing = (_before - _kilograms) * Math.Exp(-since / SwingSeconds * 3) * Math.Cos(since * 6);
            var drift = _kilograms * DriftShareAnHour * (DateTime.UtcNow - _began).TotalHours;
            var noise = _kilograms * NoiseShare * ((_random.NextDouble() * 2) - 1);
            var reading = Math.Round(_kilograms + swing + drift + noise, 1);
            return JsonSerializer.Serialize(
                new
                {
                    format = Web.Lifts.LoadCell.Format,
                    at = DateTime.UtcNow.ToString("O", CultureInfo.InvariantCulture),
                    kg = reading,
                    steady = since > Settles.TotalSeconds,
                }
            );
        }
    }
}
