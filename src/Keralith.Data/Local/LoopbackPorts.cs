using System.Collections.Concurrent;
using System.Net;
using System.Net.Sockets;
using System.Security.Cryptography;

namespace Keralith.Data.Local;

/// <summary>Ports for servers of this machine's own.</summary>
public static class LoopbackPorts
{
    /// <summary>
    /// The ports a server is given: below those the machine gives to whoever connects (from 32768 on Linux), so that nobody
    /// is given one between its being found free and its being listened on.
    /// </summary>
    private const int First = 20_000,
        UpTo = 32_768;

    private static readonly ConcurrentDictionary<int, bool> Given = new();

    /// <summary>A loopback port nobody listens on: the wished one if it is free, else any, each given out once.</summary>
    /// <param name="wished">The port that would be best, 1 to 65535; null or 0: any.</param>
    /// <exception cref="InvalidOperationException">None is free.</exception>
    public static int Free(int? wished = null)
    {
        if (wished is > 0 and { } best && IsFree(best))
            return best;
        for (var tries = First; tries < UpTo; tries++)
        {
            var port = RandomNumberGenerator.GetInt32(First, UpTo);
            if (IsFree(port) && Given.TryAdd(port, true))
                return port;
        }

        throw new InvalidOperationException("No loopback port is free.");
    }

    private static bool IsFree(int port)
    {
        try
        {
            using var listener = new TcpListener(IPAddress.Loopback, port);
            listener.Start();
            return true;
        }
        catch (SocketException)
        {
            return false;
        }
    }
}
