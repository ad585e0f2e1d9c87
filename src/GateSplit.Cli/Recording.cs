using GateSplit.Core;
using GateSplit.Core.Sound;

namespace GateSplit.Cli;

/// <summary>A recording of any kind that bring-in reads: what is no WAVE is unpacked beside it for as long as it is needed.</summary>
internal sealed class Recording : IDisposable
{
    private readonly string? _unpacked;

    private Recording(WaveReader wave, string? unpacked, IReadOnlyList<string> remarks) => (Wave, _unpacked, Remarks) = (wave, unpacked, remarks);

    /// <summary>Its samples.</summary>
    public WaveReader Wave { get; }

    /// <summary>Damage that is read around.</summary>
    public IReadOnlyList<string> Remarks { get; }

    /// <summary>Opens a file.</summary>
    /// <param name="file">The file.</param>
    /// <param name="beside">The folder to unpack it in.</param>
    /// <param name="cancel">Stops it.</param>
    /// <exception cref="IOException">The disk refuses.</exception>
    public static Result<Recording> Open(FileInfo file, string beside, CancellationToken cancel)
    {
        if (!file.Exists || SoundFile.IsWave(file.FullName))
        {
            return Of(WaveReader.Open(file.FullName), null, []);
        }

        var unpacked = Path.Combine(beside, $".{Guid.NewGuid():N}.wav");
        var made = SoundFile.ToWave(file.FullName, unpacked, cancel);
        return made.Ok ? Of(WaveReader.Open(unpacked), unpacked, made.Value) : new Refusal(made.Trouble);
    }

    /// <inheritdoc/>
    public void Dispose()
    {
        Wave.Dispose();
        if (_unpacked is not null)
        {
            File.Delete(_unpacked);
        }
    }

    private static Result<Recording> Of(Result<WaveReader> opened, string? unpacked, IReadOnlyList<string> remarks) =>
        opened.Ok ? new Recording(opened.Value, unpacked, [.. remarks, .. opened.Value.Remarks]) : new Refusal(opened.Trouble);
}
