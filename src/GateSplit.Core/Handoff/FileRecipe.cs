using System.Collections.Immutable;
using System.Text.Json.Serialization;
using GateSplit.Core.Proofing;
using GateSplit.Core.Quantities;
using GateSplit.Core.Sound;

namespace GateSplit.Core.Handoff;

/// <summary>How a file of a handoff is made from stored files; the same recipe makes the same samples every time.</summary>
/// <param name="Parts">One, or those that are added up.</param>
/// <param name="SampleRate">Frames a second of what is made.</param>
/// <param name="Start">Its first frame, counted from the beginning of the parts.</param>
/// <param name="Frames">Its length.</param>
public sealed record FileRecipe(ImmutableArray<RecipePart> Parts, SampleRate SampleRate, Frames Start, Frames Frames)
{
    /// <summary>True if lines are added up in it.</summary>
    [JsonIgnore]
    public bool IsSum => !Parts[0].Left.IsEmpty;

    /// <summary>Opens what it makes, to be read by one thread.</summary>
    /// <param name="readers">The stored files, in the order of the parts; they stay the caller's.</param>
    public IRecording Open(IReadOnlyList<WaveReader> readers)
    {
        List<IRecording> parts = [.. Parts.Select((part, i) => AtRate(part.Plan.IsAsItIs(readers[i].Frames) ? readers[i] : new MendedRecording(readers[i], part.Plan)))];
        var whole = IsSum ? new SummedRecording(SampleRate, [.. Parts.Select((part, i) => new SummedRecording.Part(parts[i], part.Left, part.Right))]) : parts[0];
        return Start == 0 && Frames == whole.Frames ? whole : new ExcerptRecording(whole, Start, Frames);
    }

    private IRecording AtRate(IRecording recording) => recording.Format.SampleRate == SampleRate ? recording : new ResampledRecording(recording, SampleRate);
}
