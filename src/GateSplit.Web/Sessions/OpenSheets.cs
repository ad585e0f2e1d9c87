using System.Net;
using System.Net.NetworkInformation;
using System.Net.Sockets;

namespace GateSplit.Web.Sessions;

/// <summary>Where setup sheets can be reached from a phone.</summary>
/// <param name="at">Where the program listens for them; null for nowhere.</param>
public sealed class OpenSheets(IPEndPoint? at)
{
    /// <summary>True if phones can reach them.</summary>
    public bool AreReachable => at is not null;

    /// <summary>The port that shows sheets and nothing else; null for none.</summary>
    public int? Port => at?.Port;

    /// <summary>The address of a sheet as a phone opens it; null if none can.</summary>
    public string? AddressOf(string token) => at is null || Hosts(at).FirstOrDefault() is not { } host ? null : $"http://{host}:{at.Port}/sheet/{token}";

    /// <summary>The names under which this machine answers there, what a phone can most likely reach first.</summary>
    public static IReadOnlyList<string> Hosts(IPEndPoint? at) => at is null ? []
        : !at.Address.Equals(IPAddress.Any) ? [Name(at.Address)]
        :
        [
            .. from network in NetworkInterface.GetAllNetworkInterfaces()
               where network.OperationalStatus == OperationalStatus.Up
               from address in network.GetIPProperties().UnicastAddresses
               where address.Address.AddressFamily == AddressFamily.InterNetwork
               orderby IPAddress.IsLoopback(address.Address)
               select Name(address.Address),
        ];

    private static string Name(IPAddress address) => address.AddressFamily == AddressFamily.InterNetworkV6 ? $"[{address}]" : $"{address}";
}
