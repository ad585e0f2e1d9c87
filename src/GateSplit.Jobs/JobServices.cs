using GateSplit.Data;
using Microsoft.Extensions.DependencyInjection;

namespace GateSplit.Jobs;

/// <summary>Registers the jobs and their workers.</summary>
public static class JobServices
{
    /// <summary>Adds stores, queue and one worker.</summary>
    /// <param name="services">The services.</param>
    /// <param name="audioFolder">The folder of the audio store.</param>
    /// <param name="proofs">Whether takes are looked at by themselves.</param>
    public static IServiceCollection AddGateSplitJobs(this IServiceCollection services, string audioFolder, ProofPolicy proofs)
    {
        services.AddSingleton(proofs);
        services.AddSingleton<SessionStore>().AddSingleton<ChartStore>().AddSingleton<TakeStore>().AddSingleton<JobStore>().AddSingleton<DemoStore>().AddSingleton<AudioKeeper>().AddSingleton<ReadingStore>().AddSingleton<ProofStore>().AddSingleton<MendedTakes>().AddSingleton<RollCallStore>().AddSingleton<HandoffStore>().AddSingleton<BundleStore>().AddSingleton<SetupStore>().AddSingleton<TemplateStore>().AddSingleton<GearStore>();
        services.AddSingleton<IAudioStore>(new FolderAudioStore(audioFolder));
        services.AddSingleton(UploadLimits.Default).AddSingleton<UploadRoom>().AddSingleton<Overviews>().AddSingleton<TakeParts>().AddSingleton<HandoffMaterials>().AddSingleton<JobRunner>().AddSingleton<JobQueue>();
        services.AddSingleton<JobBell>().AddSingleton<IJob, PrintJob>().AddSingleton<IJob, BringInJob>().AddSingleton<IJob, ProofJob>().AddSingleton<IJob, RollCallJob>().AddSingleton<IJob, HandoffJob>().AddSingleton<IJob, SessionInJob>();
        services.AddHostedService<Sweeper>().AddHostedService<JobWorker>();
        return services;
    }
}
