using System.Collections.Immutable;
using GateSplit.Core.Charts;
using GateSplit.Core.Quantities;
using GateSplit.Core.Signal;
using GateSplit.Core.Splits;

namespace GateSplit.Core.StandIns;

/// <summary>One voice of a simulated source, playing its notes.</summary>
internal sealed class VoiceStandIn
{
    /// <summary>Silence is looked for in stretches of this length.</summary>
    private const int StretchFrames = 512;

    private readonly ImmutableArray<PlayedNote> _notes;
    private readonly StruckNotes? _struck;
    private readonly float[][] _samples;
    private readonly bool[][] _silent;
    private readonly bool[] _still = [true, true]; // whether nothing but zeros lies on a side
    private readonly int _history;
    private int _framesBefore;

    /// <summary>Makes a voice.</summary>
    /// <param name="voice">What it is.</param>
    /// <param name="shapeAt">How it is set at a frame.</param>
    /// <param name="notes">Its notes in order of start.</param>
    /// <param name="sampleRate">Frames a second.</param>
    /// <param name="history">Samples of the past that must stay readable.</param>
    /// <param name="mostFrames">The longest block.</param>
    public VoiceStandIn(
        ChartVoice voice, Func<Frames, UnitVoice> shapeAt, ImmutableArray<PlayedNote> notes, SampleRate sampleRate, int history, int mostFrames)
    {
        Id = voice.Id;
        _notes = notes;
        _struck = voice.Drum is { } drum ? new StruckNotes(notes, drum, shapeAt, Seed(voice.Id), sampleRate) : null;
        Held = voice.Drum is null && !notes.IsEmpty ? new HeldVoice(notes, voice.Tone ?? new TonePatch(), shapeAt) : null;
        _history = history;
        _samples = notes.IsEmpty ? [] : [new float[history + mostFrames], new float[history + mostFrames]];
        var stretches = (history + mostFrames + StretchFrames - 1) / StretchFrames;
        _silent = [.. _still.Select(still => Enumerable.Repeat(still, stretches).ToArray())];
    }

    /// <summary>Its id on the chart.</summary>
    public VoiceId Id { get; }

    /// <summary>What its held notes are; null for a voice that is struck, or that never sounds.</summary>
    public HeldVoice? Held { get; }

    /// <summary>True if it never sounds.</summary>
    public bool IsIdle => _notes.IsEmpty;

    /// <summary>Goes to a frame before the first block is rendered: what was struck earlier sounds as if it had been heard.</summary>
    public void SkipTo(Frames frame) => _struck?.SkipTo(frame);

    /// <summary>The samples of a block that is rendered, as they were some samples ago.</summary>
    /// <param name="block">The last block or the one before it.</param>
    /// <param name="from">Where in the block to begin.</param>
    /// <param name="delay">How many samples ago.</param>
    /// <param name="gain">From its one side to the two sides of who hears it.</param>
    public MixedPart Part(Block block, int from, int delay, Gain2x2 gain) =>
        new(_samples[block.Side], _history + from - delay, (float)gain.LL, (float)gain.RL);

    /// <summary>True if <see cref="Part"/> would give nothing but zeros, as between two hits.</summary>
    public bool IsSilent(Block block, int from, int frames, int delay)
    {
        var first = (_history + from - delay) / StretchFrames;
        var last = (_history + from - delay + frames - 1) / StretchFrames;
        return _silent[block.Side].AsSpan(first, last - first + 1).IndexOf(false) < 0;
    }

    /// <summary>Renders the next block of a struck voice.</summary>
    public void Render(Block block)
    {
        if (!IsIdle && (Array.IndexOf(_still, false) >= 0 || _struck?.Sounds(block.Start + block.Frames) == true))
        {
            var samples = Begin(block).Span;
            samples.Clear();
            _struck?.Render(block.Start, samples);
            End(block);
        }
    }

    /// <summary>Makes space for the next block.</summary>
    /// <returns>Where its samples go.</returns>
    public Memory<float> Begin(Block block)
    {
        _samples[1 - block.Side].AsSpan(_framesBefore, _history).CopyTo(_samples[block.Side]);
        _framesBefore = block.Frames;
        return _samples[block.Side].AsMemory(_history, block.Frames);
    }

    /// <summary>Sees where the block that was rendered is silent.</summary>
    public void End(Block block)
    {
        for (var i = 0; i < _silent[block.Side].Length; i++)
        {
            var stretch = _samples[block.Side].AsSpan(i * StretchFrames);
            _silent[block.Side][i] = !stretch[..Math.Min(StretchFrames, stretch.Length)].ContainsAnyExcept(0f);
        }

        _still[block.Side] = Array.IndexOf(_silent[block.Side], false) < 0;
    }

    /// <summary>FNV-1a over the voice's id: its own noise for every voice, the same in every run.</summary>
    private static uint Seed(VoiceId id)
    {
        var hash = 2166136261u;
        foreach (var c in id.Value)
        {
            hash = (hash ^ c) * 16777619u;
        }

        return hash;
    }
}
