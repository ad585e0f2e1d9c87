using System.Collections.Immutable;
using GateSplit.Core.Charts;
using GateSplit.Core.Splits;

namespace GateSplit.Core.StandIns;

/// <summary>One voice of a simulated source, playing its notes.</summary>
internal sealed class VoiceStandIn
{
    /// <summary>Silence is looked for in stretches of this length.</summary>
    private const int StretchFrames = 512;

    private readonly ChartVoice _voice;
    private readonly UnitVoice _shape;
    private readonly ImmutableArray<PlayedNote> _notes;
    private readonly int _sampleRate;
    private readonly List<VoiceSound> _sounding = [];
    private readonly float[][] _samples;
    private readonly bool[][] _silent;
    private readonly int _history;
    private int _next;
    private int _framesBefore;

    /// <summary>Makes a voice.</summary>
    /// <param name="voice">What it is.</param>
    /// <param name="shape">How it is set.</param>
    /// <param name="notes">Its notes in order of start.</param>
    /// <param name="sampleRate">Frames a second.</param>
    /// <param name="history">Samples of the past that must stay readable.</param>
    /// <param name="mostFrames">The longest block.</param>
    public VoiceStandIn(
        ChartVoice voice, UnitVoice shape, ImmutableArray<PlayedNote> notes, int sampleRate, int history, int mostFrames)
    {
        _voice = voice;
        _shape = shape;
        _notes = notes;
        _sampleRate = sampleRate;
        _history = history;
        _samples = notes.IsEmpty ? [] : [new float[history + mostFrames], new float[history + mostFrames]];
        var stretches = (history + mostFrames + StretchFrames - 1) / StretchFrames;
        _silent = [new bool[stretches], new bool[stretches]];
    }

    /// <summary>Its tune as somebody rides it; null if nobody does.</summary>
    public RideCurve? Tune { get; init; }

    /// <summary>Its decay as somebody rides it; null if nobody does.</summary>
    public RideCurve? Decay { get; init; }

    /// <summary>Its id on the chart.</summary>
    public string Id => _voice.Id;

    /// <summary>True if it never sounds.</summary>
    public bool IsIdle => _notes.IsEmpty;

    /// <summary>The samples of a block that is rendered, as they were some samples ago.</summary>
    /// <param name="block">The last block or the one before it.</param>
    /// <param name="from">Where in the block to begin.</param>
    /// <param name="frames">How many samples.</param>
    /// <param name="delay">How many samples ago.</param>
    public ReadOnlySpan<float> Delayed(Block block, int from, int frames, int delay) =>
        _samples[block.Side].AsSpan(_history + from - delay, frames);

    /// <summary>True if <see cref="Delayed"/> would give nothing but zeros, as between two hits.</summary>
    public bool IsSilent(Block block, int from, int frames, int delay)
    {
        var first = (_history + from - delay) / StretchFrames;
        var last = (_history + from - delay + frames - 1) / StretchFrames;
        return _silent[block.Side].AsSpan(first, last - first + 1).IndexOf(false) < 0;
    }

    /// <summary>Renders the next block.</summary>
    public void Render(Block block)
    {
        if (IsIdle)
        {
            return;
        }

        _samples[1 - block.Side].AsSpan(_framesBefore, _history).CopyTo(_samples[block.Side]);
        _framesBefore = block.Frames;
        var samples = _samples[block.Side].AsMemory(_history, block.Frames);
        samples.Span.Clear();
        _sounding.RemoveAll(sound => !sound.AddTo(samples.Span));
        while (_next < _notes.Length && _notes[_next].Start < block.Start + block.Frames)
        {
            var sound = Begin(_notes[_next], (uint)_next);
            if (sound.AddTo(samples.Span[(int)(_notes[_next].Start - block.Start)..]))
            {
                _sounding.Add(sound);
            }

            _next++;
        }

        for (var i = 0; i < _silent[block.Side].Length; i++)
        {
            var stretch = _samples[block.Side].AsSpan(i * StretchFrames);
            _silent[block.Side][i] = !stretch[..Math.Min(StretchFrames, stretch.Length)].ContainsAnyExcept(0f);
        }
    }

    private VoiceSound Begin(PlayedNote note, uint number)
    {
        var shape = _shape with
        {
            TuneSemitones = _shape.TuneSemitones + (Tune?.At(note.Start) ?? 0),
            DecayScale = _shape.DecayScale * (Decay?.At(note.Start) ?? 1),
        };
        return _voice.Drum is { } drum
            ? new DrumSound(drum, shape, note, _sampleRate, Seed(number))
            : new ToneSound(_voice.Tone ?? new TonePatch(), shape, note, _sampleRate);
    }

    /// <summary>FNV-1a over the voice's id and the note's number: its own noise for every hit, the same in every run.</summary>
    private uint Seed(uint number)
    {
        var hash = 2166136261u;
        foreach (var c in _voice.Id)
        {
            hash = (hash ^ c) * 16777619u;
        }

        return (hash ^ number) * 16777619u;
    }
}
