using GateSplit.Data;

namespace GateSplit.Jobs;

/// <summary>Long work of one kind.</summary>
internal interface IJob
{
    /// <summary>The kind, as in <see cref="TakeKind"/> and <see cref="JobKind"/>.</summary>
    string Kind { get; }

    /// <summary>Does it.</summary>
    /// <param name="job">What is asked for.</param>
    /// <param name="folder">A staging folder of this try.</param>
    /// <param name="pulse">Told how far it is, and tells when to stop.</param>
    /// <returns>The take it makes; null if it makes none and has kept what it found.</returns>
    /// <exception cref="JobRefused">It cannot be done, with a sentence.</exception>
    Task<NewTake?> Make(Job job, string folder, JobPulse pulse);

    /// <summary>Clears away what was kept for it, however it ended.</summary>
    void Clear(Job job);
}
