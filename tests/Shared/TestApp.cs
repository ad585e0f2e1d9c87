using System.Diagnostics;
using System.Net;
using System.Net.Sockets;

namespace GateSplit.Tests.Shared;

/// <summary>The real application as a process of its own, on a free port, with its own database and folder.</summary>
public sealed class TestApp : IRunningApp
{
    private readonly TestDatabase _database = new();
    private readonly string _folder;
    private readonly string _connectionString;
    private readonly bool _ownsFolder;
    private readonly string[] _more;
    private readonly List<string> _said = [];
    private Process? _process;

    private TestApp(string? folder, Func<string, string>? connection, string[] more)
    {
        _more = more;
        _ownsFolder = folder is null;
        _folder = folder ?? Directory.CreateTempSubdirectory("gate-split-app-").FullName;
        _connectionString = connection?.Invoke(_database.ConnectionString) ?? _database.ConnectionString;
        Port = FreePort();
        Http = new HttpClient { BaseAddress = new Uri($"http://127.0.0.1:{Port}"), Timeout = TimeSpan.FromMinutes(5) };
    }

    /// <inheritdoc/>
    public int Port { get; }

    /// <inheritdoc/>
    public HttpClient Http { get; }

    /// <inheritdoc/>
    public string ConnectionString => _database.ConnectionString;

    /// <inheritdoc/>
    public string Folder => _folder;

    /// <summary>What it said last, of all its starts.</summary>
    public string Said
    {
        get
        {
            const int Lines = 60;
            lock (_said)
            {
                return string.Join('\n', _said.TakeLast(Lines));
            }
        }
    }

    /// <summary>Starts it.</summary>
    /// <param name="demo">True to load the demo sessions.</param>
    /// <param name="folder">A folder to use; null for one of its own.</param>
    /// <param name="connection">Changes the connection string, to go another way to the same database.</param>
    /// <param name="whole">True to do the steps of all demo sessions, not only of the first.</param>
    /// <param name="proofs">True to prove each take by itself, as it does when a person starts it.</param>
    /// <param name="more">What else is said to it as it starts.</param>
    public static async Task<TestApp> Start(bool demo = true, string? folder = null, Func<string, string>? connection = null, bool whole = false, bool proofs = false, params string[] more)
    {
        var app = new TestApp(folder, connection, more);
        await app.Launch(demo, whole, proofs);
        return app;
    }

    /// <summary>Kills the process at once, as a power cut would.</summary>
    public void Kill()
    {
        _process?.Kill(entireProcessTree: true);
        _process?.WaitForExit();
    }

    /// <summary>Starts the process and waits until it answers.</summary>
    public async Task Launch(bool demo, bool whole = false, bool proofs = false)
    {
        var start = new ProcessStartInfo("dotnet")
        {
            RedirectStandardOutput = true,
            RedirectStandardError = true,
            UseShellExecute = false,
        };
        string[] arguments = [Path.Combine(AppContext.BaseDirectory, "../../../../../src/GateSplit.Web/bin/Release/net10.0/GateSplit.Web.dll"), "--port", $"{Port}", "--data", _folder];
        string[] sessions = demo ? whole ? [] : ["--quick-demo"] : ["--no-demo"];
        foreach (var argument in arguments.Concat(sessions).Concat(proofs ? [] : ["--no-proofs"]).Concat(_more))
        {
            start.ArgumentList.Add(argument);
        }

        start.Environment["GATESPLIT_DB"] = _connectionString;
        _process = Process.Start(start)!;
        _process.OutputDataReceived += (_, line) => Keep(line.Data);
        _process.ErrorDataReceived += (_, line) => Keep(line.Data);
        _process.BeginOutputReadLine();
        _process.BeginErrorReadLine();
        for (var tries = 0; tries < 3000; tries++)
        {
            if (_process.HasExited)
            {
                throw new InvalidOperationException($"The application ended: {Said}");
            }

            try
            {
                if ((await Http.GetAsync(new Uri("/health/ready", UriKind.Relative))).IsSuccessStatusCode)
                {
                    return;
                }
            }
            catch (HttpRequestException)
            {
                // Not yet.
            }

            await Task.Delay(100);
        }

        throw new InvalidOperationException($"The application did not answer: {Said}");
    }

    /// <inheritdoc/>
    public async ValueTask DisposeAsync()
    {
        Http.Dispose();
        if (_process is { HasExited: false })
        {
            Kill();
        }

        _process?.Dispose();
        await _database.DisposeAsync();
        if (_ownsFolder)
        {
            Directory.Delete(_folder, recursive: true);
        }
    }

    /// <summary>A port on which nothing listens.</summary>
    public static int FreePort()
    {
        using var listener = new TcpListener(IPAddress.Loopback, 0);
        listener.Start();
        return ((IPEndPoint)listener.LocalEndpoint).Port;
    }

    private void Keep(string? line)
    {
        lock (_said)
        {
            _said.Add(line ?? "");
        }
    }
}
