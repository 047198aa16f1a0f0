using System.Globalization;
using System.Net;
using System.Net.Sockets;
using Keralith.Data.Local;
using Xunit;

namespace Keralith.Data.Tests;

/// <summary>The ports that servers on loopback are given.</summary>
public class PortTests
{
    [Fact]
    public void A_server_is_given_no_port_that_the_machine_gives_to_whoever_connects()
    {
        var lowest = File.ReadAllText("/proc/sys/net/ipv4/ip_local_port_range").Split('\t')[0];
        Assert.True(LoopbackPorts.Free() < int.Parse(lowest, CultureInfo.InvariantCulture));
    }

    [Fact]
    public void No_port_is_given_twice()
    {
        var given = Enumerable.Range(0, 200).Select(_ => LoopbackPorts.Free()).ToList();
        Assert.Distinct(given);
    }

    [Fact]
    public void Who_wishes_for_none_by_0_is_given_one_that_can_be_asked() => Assert.NotEqual(0, LoopbackPorts.Free(0));

    [Fact]
    public void The_wished_port_is_given_while_it_is_free()
    {
        using var listener = new TcpListener(IPAddress.Loopback, LoopbackPorts.Free());
        var wished = ((IPEndPoint)listener.LocalEndpoint).Port;
        Assert.Equal(wished, LoopbackPorts.Free(wished));
        listener.Start();
        Assert.NotEqual(wished, LoopbackPorts.Free(wished));
    }
}
