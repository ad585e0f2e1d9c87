namespace GateSplit.Data;

/// <summary>A take, or what stands for one, as mends make it.</summary>
/// <param name="Lines">One for each of its tracks, in their order.</param>
/// <param name="Mends">What was mended, in words, each as it is done; with the take where they are of several.</param>
/// <param name="OnTrial">What is on trial, in words, and so not made.</param>
public sealed record MendedAudio(IReadOnlyList<MendedLine> Lines, IReadOnlyList<string> Mends, IReadOnlyList<string> OnTrial)
{
    /// <summary>A take as it was printed.</summary>
    public static MendedAudio AsPrinted(Take take) => new([.. take.Tracks.Select(MendedLine.AsPrinted)], [], []);
}
