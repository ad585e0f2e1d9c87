using GateSplit.Core.Sound;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Edits;

/// <summary>Changes how a pass is recorded.</summary>
/// <param name="Pass">The new settings.</param>
public sealed record SetPass(PassSettings Pass) : Edit
{
    /// <summary>The sample rates a pass can have.</summary>
    public static readonly int[] SampleRates = [44100, 48000, 88200, 96000];

    /// <summary>The most bars a pass is long.</summary>
    public const int MostBars = 2000;

    /// <summary>The most rounds a loop settles for.</summary>
    public const int MostSettleLoops = 8;

    /// <inheritdoc/>
    public override string Name(Split split) => "Change the pass";

    /// <inheritdoc/>
    public override Result<Split> Apply(Split split)
    {
        if (Pass.LengthBars is < 1 or > MostBars)
        {
            return new Refusal($"A pass is 1 to {MostBars} bars long.");
        }

        if (Pass.StartBar < 1 || Pass.StartBar > Pass.LengthBars)
        {
            return new Refusal($"A pass starts in one of its own bars, 1 to {Pass.LengthBars}.");
        }

        if (Pass.CountInBars is < 0 or > 4)
        {
            return new Refusal("The count-in is 0 to 4 bars.");
        }

        if (Pass.TailSeconds is < 0 or > 60)
        {
            return new Refusal("The tail is 0 to 60 seconds.");
        }

        if (Pass.SettleLoops is < 0 or > MostSettleLoops)
        {
            return new Refusal($"A loop settles for 0 to {MostSettleLoops} rounds.");
        }

        if (Pass.TargetPeakDb is not (>= -40 and <= 0))
        {
            return new Refusal("The target for peaks is -40 to 0 dBFS.");
        }

        if (Pass.DiskBytesPerSecond <= 0 || Pass.InterfaceBytesPerSecond <= 0)
        {
            return new Refusal("A disk or an interface takes more than nothing a second; leave the field empty if nobody knows.");
        }

        if (!SampleRates.Contains(Pass.SampleRate))
        {
            return new Refusal("The sample rate is 44100, 48000, 88200 or 96000 Hz.");
        }

        return Pass.Format is SampleFormat.Pcm16 or SampleFormat.Pcm24 or SampleFormat.Float32
            ? split with { Pass = Pass }
            : new Refusal("Files are printed at 16 or 24 bit, or 32 bit float.");
    }
}
