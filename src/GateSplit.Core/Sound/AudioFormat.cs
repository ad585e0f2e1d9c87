using GateSplit.Core.Quantities;

namespace GateSplit.Core.Sound;

/// <summary>The shape of a stream of audio.</summary>
/// <param name="Channels">1 to 256.</param>
/// <param name="SampleRate">Frames a second.</param>
/// <param name="Sample">How a sample is stored.</param>
public sealed record AudioFormat(int Channels, SampleRate SampleRate, SampleFormat Sample)
{
    /// <summary>The most channels a file may have here.</summary>
    public const int MostChannels = 256;

    /// <summary>Bytes of one sample.</summary>
    public int BytesPerSample => Sample switch
    {
        SampleFormat.Pcm8 => 1,
        SampleFormat.Pcm16 => 2,
        SampleFormat.Pcm24 => 3,
        SampleFormat.Pcm32 or SampleFormat.Float32 => 4,
        _ => 8,
    };

    /// <summary>Bits of one sample.</summary>
    public int BitsPerSample => BytesPerSample * 8;

    /// <summary>True for the floating-point formats.</summary>
    public bool IsFloat => Sample is SampleFormat.Float32 or SampleFormat.Float64;

    /// <summary>Bytes of one frame: one sample of every channel.</summary>
    public int BytesPerFrame => BytesPerSample * Channels;

    /// <summary>What so many frames take; a second has as many as the rate says.</summary>
    public Bytes Bytes(Frames frames) => new(frames.Count * BytesPerFrame);

    /// <summary>Whole frames in so many bytes.</summary>
    public Frames Frames(Bytes bytes) => new(bytes.Count / BytesPerFrame);

    /// <summary>"24 bit", "32 bit float".</summary>
    public string WidthName => IsFloat ? $"{BitsPerSample} bit float" : $"{BitsPerSample} bit";
}
