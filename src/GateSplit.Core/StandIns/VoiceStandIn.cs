using System.Collections.Immutable;
using GateSplit.Core.Charts;
using GateSplit.Core.Splits;

namespace GateSplit.Core.StandIns;

/// <summary>One voice of a simulated source, playing its notes.</summary>
internal sealed class VoiceStandIn
{
    private readonly ChartVoice _voice;
    private readonly UnitVoice _shape;
    private readonly ImmutableArray<PlayedNote> _notes;
    private readonly int _sampleRate;
    private readonly List<ISound> _sounding = [];
    private readonly float[] _samples;
    private readonly int _history;
    private int _next;

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
        _samples = new float[history + mostFrames];
    }

    /// <summary>Its id on the chart.</summary>
    public string Id => _voice.Id;

    /// <summary>True if it never sounds.</summary>
    public bool IsIdle => _notes.IsEmpty;

    /// <summary>The samples of the block rendered last, as they were some samples ago.</summary>
    public ReadOnlySpan<float> Delayed(int samples, int frames) => _samples.AsSpan(_history - samples, frames);

    /// <summary>Renders the next block; blocks follow each other without a gap.</summary>
    /// <param name="start">First sample of the block.</param>
    /// <param name="frames">Its length.</param>
    /// <param name="framesBefore">The length of the block before it.</param>
    public void Render(long start, int frames, int framesBefore)
    {
        if (IsIdle)
        {
            return;
        }

        _samples.AsSpan(framesBefore, _history).CopyTo(_samples);
        var block = _samples.AsSpan(_history, frames);
        block.Clear();
        _sounding.RemoveAll(SoundIsOver);
        while (_next < _notes.Length && _notes[_next].Start < start + frames)
        {
            var sound = Begin(_notes[_next], (uint)_next);
            if (sound.AddTo(block[(int)(_notes[_next].Start - start)..]))
            {
                _sounding.Add(sound);
            }

            _next++;
        }

        bool SoundIsOver(ISound sound) => !sound.AddTo(_samples.AsSpan(_history, frames));
    }

    private ISound Begin(PlayedNote note, uint number) => _voice.Drum is { } drum
        ? new DrumSound(drum, _shape, note, _sampleRate, Seed(number))
        : new ToneSound(_voice.Tone ?? new TonePatch(), _shape, note, _sampleRate);

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
