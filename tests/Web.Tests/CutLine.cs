using System.Collections.Concurrent;
using System.Net;
using System.Net.Sockets;

namespace Keralith.Web.Tests;

/// <summary>The line between the application and its database: it carries so many answers more, and is cut then.</summary>
internal sealed class CutLine : IAsyncDisposable
{
    private readonly TcpListener _listener = new(IPAddress.Loopback, 0);
    private readonly ConcurrentDictionary<Task, bool> _carried = [];
    private readonly int _server;
    private int _left = int.MaxValue;

    private CutLine(int server)
    {
        _server = server;
        _listener.Start();
        _ = AcceptAsync();
    }

    /// <summary>A line to the database on a port of loopback.</summary>
    public static CutLine To(int server) => new(server);

    /// <summary>Where the application finds it.</summary>
    public int Port => ((IPEndPoint)_listener.LocalEndpoint).Port;

    /// <summary>Whether it is cut.</summary>
    public bool IsCut => Volatile.Read(ref _left) < 0;

    /// <summary>Cuts it once so many answers came through; each is what the server sends at a time.</summary>
    public void CutAfter(int answers) => Volatile.Write(ref _left, answers);

    /// <summary>Who asks from now on is put through again.</summary>
    public void Mend() => Volatile.Write(ref _left, int.MaxValue);

    public async ValueTask DisposeAsync()
    {
        CutAfter(-1);
        _listener.Stop();
        await Task.WhenAll(_carried.Keys);
    }

    private async Task AcceptAsync()
    {
        try
        {
            while (true)
            {
                var client = await _listener.AcceptTcpClientAsync();
                var carried = CarryAsync(client);
                _carried[carried] = true;
                _ = carried.ContinueWith(c => _carried.TryRemove(c, out _), TaskScheduler.Default);
            }
        }
        catch (Exception e) when (e is SocketException or ObjectDisposedException)
        {
            // Nobody is put through any more.
        }
    }

    private async Task CarryAsync(TcpClient client)
    {
        using var server = new TcpClient();
        using (client)
        {
            if (IsCut)
                return;
            await server.ConnectAsync(IPAddress.Loopback, _server);
            var (from, to) = (client.GetStream(), server.GetStream());
            var asked = PassAsync(from, to, () => !IsCut);
            var answered = PassAsync(to, from, () => Interlocked.Decrement(ref _left) >= 0);
            await Task.WhenAny(asked, answered);
            client.Close();
            server.Close();
            await Task.WhenAll(asked, answered);
        }
    }

    private static async Task PassAsync(NetworkStream from, NetworkStream to, Func<bool> goesThrough)
    {
        var buffer = new byte[64 * 1024];
        try
        {
            int read;
            while ((read = await from.ReadAsync(buffer)) > 0 && goesThrough())
                await to.WriteAsync(buffer.AsMemory(0, read));
        }
        catch (Exception e) when (e is IOException or ObjectDisposedException)
        {
            // The other end is gone, or it was cut.
        }
    }
}
