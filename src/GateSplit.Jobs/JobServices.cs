using GateSplit.Data;
using Microsoft.Extensions.DependencyInjection;

namespace GateSplit.Jobs;

/// <summary>Registers the jobs and their workers.</summary>
public static class JobServices
{
    /// <summary>Adds stores, queue and one worker.</summary>
    public static IServiceCollection AddGateSplitJobs(this IServiceCollection services, string audioFolder)
    {
        services.AddSingleton<SessionStore>().AddSingleton<ChartStore>().AddSingleton<TakeStore>().AddSingleton<JobStore>().AddSingleton<DemoStore>().AddSingleton<AudioKeeper>().AddSingleton<ReadingStore>();
        services.AddSingleton<IAudioStore>(new FolderAudioStore(audioFolder));
        services.AddSingleton(UploadLimits.Default).AddSingleton<UploadRoom>().AddSingleton<Overviews>().AddSingleton<TakeParts>().AddSingleton<JobRunner>().AddSingleton<JobQueue>();
        services.AddSingleton<JobBell>().AddSingleton<IJob, PrintJob>().AddSingleton<IJob, BringInJob>();
        services.AddHostedService<Sweeper>().AddHostedService<JobWorker>();
        return services;
    }
}
