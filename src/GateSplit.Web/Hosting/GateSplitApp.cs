using GateSplit.Data;
using GateSplit.Jobs;
using GateSplit.Web.Endpoints;
using GateSplit.Web.Forms;
using GateSplit.Web.Sessions;
using Microsoft.AspNetCore.DataProtection;
using Microsoft.AspNetCore.Diagnostics.HealthChecks;
using Microsoft.AspNetCore.Mvc;
using Microsoft.Extensions.Diagnostics.HealthChecks;
using Serilog;
using Serilog.Events;

namespace GateSplit.Web.Hosting;

/// <summary>Puts the application together.</summary>
public static class GateSplitApp
{
    private const long MostFormBytes = 16 << 20;
    private const long MostLogBytes = 32 << 20;
    private static readonly TimeSpan JobGlance = TimeSpan.FromMilliseconds(300);
    private static readonly TimeSpan SessionGlance = TimeSpan.FromMilliseconds(50);

    /// <summary>Builds it on a database that <see cref="DatabaseAtStart"/> has brought up to date.</summary>
    public static WebApplication Build(ServeOptions options)
    {
        foreach (var folder in new[] { "audio", "logs", "keys" })
        {
            MakePrivate(Path.Combine(options.DataFolder, folder));
        }

        var builder = WebApplication.CreateBuilder(new WebApplicationOptions
        {
            ApplicationName = typeof(GateSplitApp).Assembly.GetName().Name,
            ContentRootPath = AppContext.BaseDirectory,
            WebRootPath = Path.Combine(AppContext.BaseDirectory, "wwwroot"),
        });
        builder.Services.AddSerilog(logger => logger
            .MinimumLevel.Is(LogEventLevel.Warning)
            .MinimumLevel.Override("GateSplit", LogEventLevel.Information)
            .WriteTo.Console(outputTemplate: "{Timestamp:HH:mm:ss} {Level:u3} {Message:lj}{NewLine}{Exception}", standardErrorFromLevel: LogEventLevel.Verbose)
            .WriteTo.File(
                Path.Combine(options.DataFolder, "logs", "gate-split-.log"),
                rollingInterval: RollingInterval.Day,
                retainedFileCountLimit: 14,
                fileSizeLimitBytes: MostLogBytes,
                shared: true));
        builder.WebHost.UseUrls([$"http://{ServeOptions.Address}:{options.Port}", .. options.Sheets is { } sheets ? [$"http://{sheets}"] : Array.Empty<string>()]);
        builder.WebHost.ConfigureKestrel(server =>
        {
            server.AddServerHeader = false;
            server.Limits.MaxRequestBodySize = MostFormBytes;
        });
        builder.Services.AddSingleton(options);
        builder.Services.AddSingleton(Database.Open(options.ConnectionString));
        builder.Services.AddSingleton<OpenSessions>();
        builder.Services.AddSingleton(services => new Watch<IReadOnlyList<Job>>(services.GetRequiredService<JobStore>().Current, JobGlance));
        builder.Services.AddSingleton(services => new Watch<SessionNow?>(services.GetRequiredService<OpenSessions>().Find, SessionGlance));
        builder.Services.AddSingleton<NewSessions>().AddSingleton<LineWalks>().AddSingleton<MendedTracks>().AddSingleton<Waveforms>();
        builder.Services.AddGateSplitJobs(Path.Combine(options.DataFolder, "audio"), new ProofPolicy(options.Proofs));
        builder.Services.AddDataProtection().PersistKeysToFileSystem(new DirectoryInfo(Path.Combine(options.DataFolder, "keys")));
        builder.Services.AddSingleton(new OpenSheets(options.Sheets));
        builder.Services.AddHostFiltering(o => o.AllowedHosts = ["127.0.0.1", "localhost", .. OpenSheets.Hosts(options.Sheets)]);
        builder.Services.AddAntiforgery(o => o.Cookie.Name = "gate-split-forgery");
        builder.Services.AddRazorPages();
        builder.Services.Configure<CookieTempDataProviderOptions>(o => (o.Cookie.Name, o.Cookie.SameSite) = ("gate-split-next", SameSiteMode.Strict));
        builder.Services.AddHealthChecks().AddNpgSql(options.ConnectionString, tags: ["ready"]);

        var app = builder.Build();
        app.UseHostFiltering();
        app.UseMiddleware<SheetsOnly>();
        app.UseMiddleware<SecurityHeaders>();
        app.UseMiddleware<FaultPage>();
        app.UseStatusCodePages(FaultPage.TellStatus);
        app.Use((context, next) =>
        {
            // A request that is sent back as it came would show what a page must not see.
            if (!HttpMethods.IsTrace(context.Request.Method))
            {
                return next(context);
            }

            context.Response.StatusCode = StatusCodes.Status405MethodNotAllowed;
            return Task.CompletedTask;
        });
        app.UseStaticFiles();
        app.UseWebSockets();
        app.UseRouting();
        app.UseAntiforgery();
        app.MapHealthChecks("/health/live", new HealthCheckOptions { Predicate = _ => false });
        app.MapHealthChecks("/health/ready", new HealthCheckOptions
        {
            Predicate = check => check.Tags.Contains("ready"),
            ResultStatusCodes = { [HealthStatus.Degraded] = StatusCodes.Status503ServiceUnavailable },
        });
        app.MapRazorPages();
        app.MapAudio();
        app.MapWaveforms();
        app.MapJobs();
        app.MapHandoff();
        app.MapSetup();
        app.MapTemplates();
        app.MapBringIn();
        app.MapSessionIn();
        app.MapUploads();
        app.MapLineCheck();
        app.MapLive();
        return app;
    }

    /// <summary>What is kept is for the program's own user and group, and for nobody else of the machine.</summary>
    private static void MakePrivate(string folder)
    {
        Directory.CreateDirectory(folder);
        if (OperatingSystem.IsLinux())
        {
            File.SetUnixFileMode(
                folder, UnixFileMode.UserRead | UnixFileMode.UserWrite | UnixFileMode.UserExecute | UnixFileMode.GroupRead | UnixFileMode.GroupExecute);
        }
    }
}
