using System.Buffers.Binary;
using System.Collections.Immutable;
using GateSplit.Core.Quantities;

namespace GateSplit.Core.Sound;

/// <summary>Every level of one file.</summary>
/// <param name="Format">The shape of the samples.</param>
/// <param name="Frames">Its length.</param>
/// <param name="Channels">Levels, one a channel.</param>
/// <param name="TruePeaks">In dBTP, one a channel.</param>
/// <param name="Floors">One a channel; null where it is too short to have one.</param>
/// <param name="Loudness">Of all channels together.</param>
/// <param name="Remarks">Damage that was read around.</param>
public sealed record FileLevels(
    AudioFormat Format,
    Frames Frames,
    ImmutableArray<ChannelLevels> Channels,
    ImmutableArray<Decibels> TruePeaks,
    ImmutableArray<Decibels?> Floors,
    Loudness Loudness,
    ImmutableArray<string> Remarks)
{
    /// <summary>How loud it is along its time.</summary>
    public LevelHistory History { get; init; } = new(1, []);

    /// <summary>Reads a recording once from end to end and measures it.</summary>
    /// <param name="from">The recording.</param>
    /// <param name="progress">Told the share done, 0 to 1; may be null.</param>
    /// <param name="cancel">Stops the reading.</param>
    /// <param name="beside">Given the same blocks, a buffer for each channel and how many samples of each hold, so that others need not read again; may be null.</param>
    public static FileLevels Of(IRecording from, IProgress<double>? progress = null, CancellationToken cancel = default, Action<float[][], int>? beside = null)
    {
        var format = from.Format;
        T[] Each<T>(Func<T> make) => [.. Enumerable.Range(0, format.Channels).Select(_ => make())];
        var (meters, peaks, floors) = (Each(() => new ChannelMeter()), Each(() => new TruePeakMeter()), Each(() => new FloorMeter(format.SampleRate)));
        var loudness = new LoudnessMeter(format.SampleRate, IsSurround(from) ? LoudnessMeter.OfSurround(format.Channels) : LoudnessMeter.Even(format.Channels));
        var history = new HistoryMeter(format.SampleRate, loudness);
        var none = SampleBlocks.Read(
            from,
            (samples, frames) =>
            {
                var peak = 0f;
                for (var channel = 0; channel < format.Channels; channel++)
                {
                    var part = samples[channel].AsSpan(0, frames);
                    peak = Math.Max(peak, meters[channel].Add(part));
                    peaks[channel].Add(part);
                    floors[channel].Add(part);
                }

                loudness.Add(samples, frames);
                history.Add(peak, frames);
                beside?.Invoke(samples, frames);
            },
            progress,
            cancel);
        return new FileLevels(
            format,
            from.Frames,
            [.. meters.Select(m => m.Result())],
            [.. peaks.Select(p => p.Finish())],
            [.. floors.Select(f => f.Result())],
            loudness.Result(),
            [.. from is WaveReader file ? file.Remarks : [], .. FileMeasure.NotNumbers(none)])
        {
            History = history.Result(),
        };
    }

    /// <summary>True of a file that names its channels as the five of a surround mix, with an LFE or without (the mask of WAVEFORMATEXTENSIBLE).</summary>
    private static bool IsSurround(IRecording from)
    {
        const int AtMask = 20;
        return from is WaveReader reader && reader.Chunk("fmt ", 40) is { Length: >= AtMask + 4 } format
            && (reader.Format.Channels, BinaryPrimitives.ReadUInt32LittleEndian(format.AsSpan(AtMask))) is (5, 0x37 or 0x607) or (6, 0x3F or 0x60F);
    }
}
