using System.Net;
using System.Net.Sockets;

namespace GateSplit.Tests.Shared;

/// <summary>A way to the database that can be cut, as if the server had been stopped, and opened again.</summary>
public sealed class Relay : IDisposable
{
    private readonly TcpListener _listener = new(IPAddress.Loopback, 0);
    private readonly int _target;
    private readonly List<TcpClient> _open = [];
    private volatile bool _cut;
    private volatile bool _ended;

    /// <summary>Starts it.</summary>
    /// <param name="target">The database's port.</param>
    public Relay(int target)
    {
        _target = target;
        _listener.Start();
        _ = Accept();
    }

    /// <summary>Where it listens.</summary>
    public int Port => ((IPEndPoint)_listener.LocalEndpoint).Port;

    /// <summary>Cuts all connections and takes no new ones.</summary>
    public void Cut()
    {
        _cut = true;
        lock (_open)
        {
            _open.ForEach(c => c.Close());
            _open.Clear();
        }
    }

    /// <summary>Lets connections through again.</summary>
    public void Mend() => _cut = false;

    /// <inheritdoc/>
    public void Dispose()
    {
        _ended = true;
        Cut();
        _listener.Stop();
    }

    private async Task Accept()
    {
        while (true)
        {
            TcpClient near;
            try
            {
                near = await _listener.AcceptTcpClientAsync();
            }
            catch (ObjectDisposedException)
            {
                return;
            }
            catch (SocketException)
            {
                if (_ended)
                {
                    return;
                }

                continue; // whoever asked has given up
            }

            if (_cut)
            {
                near.Close();
                continue;
            }

            var far = new TcpClient();
            try
            {
                await far.ConnectAsync(IPAddress.Loopback, _target);
            }
            catch (SocketException)
            {
                near.Close();
                continue;
            }

            lock (_open)
            {
                _open.AddRange([near, far]);
                if (_cut)
                {
                    // It was cut while this one was on its way.
                    near.Close();
                    far.Close();
                }
            }

            _ = Pump(near, far);
            _ = Pump(far, near);
        }
    }

    private static async Task Pump(TcpClient from, TcpClient to)
    {
        try
        {
            await from.GetStream().CopyToAsync(to.GetStream());
        }
        catch (Exception e) when (e is IOException or ObjectDisposedException or InvalidOperationException or SocketException)
        {
            // The connection was cut.
        }

        to.Close();
        from.Close();
    }
}
