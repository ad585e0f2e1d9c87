using GateSplit.Web.Hosting;
using Microsoft.AspNetCore.Builder;

namespace GateSplit.Tests.Shared;

/// <summary>
/// The application within the process of the tests, on a port of its own, with its own database and folder. Everything is put together as
/// the program does it and answered by the same server, so that what a page may send has its limits here too; it just cannot be killed.
/// </summary>
public sealed class PageApp : IRunningApp
{
    private readonly TestDatabase _database;
    private readonly WebApplication _app;
    private readonly Task _demo;

    private PageApp(TestDatabase database, string folder, WebApplication app, Task demo)
    {
        (_database, Folder, _app, _demo) = (database, folder, app, demo);
        Port = new Uri(app.Urls.Single()).Port;
        Http = new HttpClient { BaseAddress = new Uri($"http://127.0.0.1:{Port}"), Timeout = TimeSpan.FromMinutes(5) };
    }

    /// <inheritdoc/>
    public int Port { get; }

    /// <inheritdoc/>
    public HttpClient Http { get; }

    /// <inheritdoc/>
    public string ConnectionString => _database.ConnectionString;

    /// <inheritdoc/>
    public string Folder { get; }

    /// <summary>Starts it.</summary>
    /// <param name="demo">True to load the demo sessions and do the steps of the first.</param>
    /// <param name="connection">More for the connection string of the application.</param>
    public static async Task<PageApp> Start(bool demo = true, string connection = "")
    {
        var database = new TestDatabase();
        var folder = Directory.CreateTempSubdirectory("gate-split-pages-").FullName;
        Assert.Null(await DatabaseAtStart.Prepare(database.ConnectionString, TextWriter.Null));
        var app = GateSplitApp.Build(new ServeOptions(0, database.ConnectionString + connection, folder, demo, QuickDemo: true, Proofs: false));
        var data = new DemoData(app.Services);
        await data.Load();
        await app.StartAsync();
        return new PageApp(database, folder, app, data.Play(app.Lifetime.ApplicationStopping));
    }

    /// <inheritdoc/>
    public async ValueTask DisposeAsync()
    {
        Http.Dispose();
        await _app.StopAsync();
        await _demo;
        await _app.DisposeAsync();
        await _database.DisposeAsync();
        Directory.Delete(Folder, recursive: true);
    }
}
