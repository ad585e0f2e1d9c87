using GateSplit.Core.Sound;

namespace GateSplit.Core.Tests;

/// <summary>Reads what a test has printed.</summary>
internal static class Recorded
{
    /// <summary>The samples of the first channel of a file.</summary>
    public static float[] Samples(string path) => Sides(path)[0];

    /// <summary>The samples of each channel of a file.</summary>
    public static float[][] Sides(string path)
    {
        using var reader = WaveReader.Open(path).Value!;
        var bytes = new byte[reader.Format.Bytes(reader.Frames).Count];
        reader.Read(0, bytes);
        return
        [
            .. Enumerable.Range(0, reader.Format.Channels).Select(channel =>
            {
                var samples = new float[reader.Frames.Count];
                SampleCodec.Decode(bytes, reader.Format, channel, samples);
                return samples;
            }),
        ];
    }
}
