using System.Collections.Immutable;
using GateSplit.Core.Charts;
using GateSplit.Core.Quantities;
using GateSplit.Core.Splits;

namespace GateSplit.Core.StandIns;

/// <summary>The notes of a struck voice: each sounds until it has died away, whoever strikes next.</summary>
/// <param name="notes">In order of start.</param>
/// <param name="patch">How they sound.</param>
/// <param name="shapeAt">How the voice is set at a frame.</param>
/// <param name="seed">Its own number, for its noise.</param>
/// <param name="sampleRate">Frames a second.</param>
internal sealed class StruckNotes(ImmutableArray<PlayedNote> notes, DrumPatch patch, Func<Frames, UnitVoice> shapeAt, uint seed, SampleRate sampleRate)
{
    private readonly List<DrumSound> _sounding = [];
    private int _next;

    /// <summary>Adds the next samples.</summary>
    /// <param name="start">The frame of the first; it follows the last of the stretch before.</param>
    /// <param name="samples">Silence.</param>
    public void Render(Frames start, Span<float> samples)
    {
        for (var i = 0; i < _sounding.Count; i++)
        {
            if (!_sounding[i].AddTo(samples))
            {
                _sounding.RemoveAt(i--);
            }
        }

        for (; _next < notes.Length && notes[_next].Start < start + samples.Length; _next++)
        {
            var sound = Begin(_next);
            if (sound.AddTo(samples[(int)(notes[_next].Start - start).Count..]))
            {
                _sounding.Add(sound);
            }
        }
    }

    /// <summary>True if anything sounds before a frame, of what has not been added yet.</summary>
    public bool Sounds(Frames before) => _sounding.Count > 0 || (_next < notes.Length && notes[_next].Start < before);

    /// <summary>Goes to a frame before the first sample is asked for: what was struck earlier sounds as if it had been heard.</summary>
    public void SkipTo(Frames frame)
    {
        for (; _next < notes.Length && notes[_next].Start < frame; _next++)
        {
            var shape = shapeAt(notes[_next].Start);
            var past = frame - notes[_next].Start;
            if (past.Count > 2 * patch.LongestDecaySeconds * shape.DecayScale * sampleRate)
            {
                continue; // below -94 dBFS, whatever its level: 60 dB fall in one decay
            }

            var sound = Begin(_next);
            if (sound.AddTo(new float[past.Count]))
            {
                _sounding.Add(sound);
            }
        }
    }

    private DrumSound Begin(int number) => new(patch, shapeAt(notes[number].Start), notes[number], sampleRate, (seed ^ (uint)number) * 16777619u);
}
