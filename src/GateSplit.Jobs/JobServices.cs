using GateSplit.Data;
using Hangfire;
using Hangfire.PostgreSql;
using Microsoft.Extensions.DependencyInjection;

namespace GateSplit.Jobs;

/// <summary>Registers the jobs and their workers.</summary>
public static class JobServices
{
    /// <summary>Adds stores, queue and one worker, kept in the database of the connection string.</summary>
    public static IServiceCollection AddGateSplitJobs(this IServiceCollection services, string connectionString, string audioFolder)
    {
        services.AddSingleton<SessionStore>().AddSingleton<ChartStore>().AddSingleton<TakeStore>().AddSingleton<JobStore>().AddSingleton<DemoStore>();
        services.AddSingleton<IAudioStore>(new FolderAudioStore(audioFolder));
        services.AddSingleton<TakeParts>().AddSingleton<JobRunner>().AddSingleton<JobQueue>();
        services.AddTransient<PrintJob>().AddTransient<BringInJob>();
        services.AddHostedService<Sweeper>();
        services.AddHangfire(configuration => configuration
            .UseSimpleAssemblyNameTypeSerializer()
            .UseRecommendedSerializerSettings()
            .UsePostgreSqlStorage(
                options => options.UseNpgsqlConnection(connectionString),
                new PostgreSqlStorageOptions
                {
                    QueuePollInterval = TimeSpan.FromMilliseconds(500),
                    UseSlidingInvisibilityTimeout = true,
                    InvisibilityTimeout = TimeSpan.FromSeconds(60),
                }));

        // A pass uses every core itself, so one at a time is fastest.
        services.AddHangfireServer(options =>
        {
            options.WorkerCount = 1;
            options.ShutdownTimeout = TimeSpan.FromSeconds(5);
        });
        return services;
    }
}
