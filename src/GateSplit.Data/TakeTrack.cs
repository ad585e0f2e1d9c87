using GateSplit.Core.Quantities;
using GateSplit.Core.Sound;
using GateSplit.Core.Splits;

namespace GateSplit.Data;

/// <summary>One track of a take with its file and its numbers.</summary>
public sealed record TakeTrack
{
    /// <summary>Its take.</summary>
    public long TakeId { get; init; }

    /// <summary>Place in the order, from 1.</summary>
    public int Position { get; init; }

    /// <summary>The pass it was recorded in, from 1.</summary>
    public int Pass { get; init; }

    /// <summary>A remark of the program or of a person.</summary>
    public string Remark { get; init; } = "";

    /// <summary>The number of its take.</summary>
    public int TakeNumber { get; init; }

    /// <summary>The track of the split.</summary>
    public TrackId TrackId { get; init; } = new TrackId("");

    /// <summary>Its name then.</summary>
    public string Name { get; init; } = "";

    /// <summary>The family of what it carries; null if mixed or nothing.</summary>
    public string? Family { get; init; }

    /// <summary>The elements it carries, in words.</summary>
    public string Elements { get; init; } = "";

    /// <summary>Where it came from, in words.</summary>
    public string Source { get; init; } = "";

    /// <summary>Its file in the audio store.</summary>
    public string Hash { get; init; } = "";

    /// <summary>The size of that file.</summary>
    public Bytes Bytes { get; init; }

    /// <summary>1 or 2, or more for what was brought in.</summary>
    public int Channels { get; init; }

    /// <summary>Frames a second.</summary>
    public SampleRate SampleRate { get; init; }

    /// <summary>How its samples are stored.</summary>
    public string SampleFormat { get; init; } = "";

    /// <summary>Its length.</summary>
    public Frames Frames { get; init; }

    /// <summary>Its overview in the audio store.</summary>
    public string OverviewHash { get; init; } = "";

    /// <summary>Damage that was read around.</summary>
    public string[] Remarks { get; init; } = [];

    /// <summary>The highest sample peak of its channels; null for digital silence.</summary>
    public Decibels? SamplePeakDbfs { get; init; }

    /// <summary>The highest RMS of its channels; null for digital silence.</summary>
    public Decibels? RmsDbfs { get; init; }

    /// <summary>The largest DC offset of its channels, with its sign.</summary>
    public double DcOffset { get; init; }

    /// <summary>Clipped runs in all channels.</summary>
    public long ClippedRuns { get; init; }

    /// <summary>Where the first of them are, in the order of time.</summary>
    public IReadOnlyList<ClipRun> Clips { get; init; } = [];

    /// <summary>Samples at full scale that are in no clip, in all channels; null if it is known only that there are some.</summary>
    public Frames? FullScale { get; init; }

    /// <summary>True if every channel is silent.</summary>
    public bool Silent { get; init; }

    /// <summary>True if something sounds in it, and no sample is at full scale.</summary>
    public bool IsClean => !Silent && ClippedRuns == 0 && FullScale is { Count: 0 };

    /// <summary>The shape of its samples.</summary>
    public AudioFormat Format => new(Channels, SampleRate, Enum.Parse<SampleFormat>(SampleFormat));
}
