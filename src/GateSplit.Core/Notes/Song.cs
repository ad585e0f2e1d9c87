using System.Collections.Frozen;
using System.Collections.Immutable;
using GateSplit.Core.Quantities;

namespace GateSplit.Core.Notes;

/// <summary>The music of a session as notes in time, read from its MIDI file.</summary>
public sealed class Song
{
    private readonly TempoMap _toTheMicrosecond;
    private readonly TempoMap? _typed;
    private readonly Lazy<FrozenDictionary<(int Channel, int Key), int>> _strokes;

    private Song(MidiFile file, TempoMap toTheMicrosecond, TempoMap? typed, MetreMap metres, ImmutableArray<Note> notes, bool asTyped = true)
    {
        File = file;
        (_toTheMicrosecond, _typed) = (toTheMicrosecond, typed);
        Tempos = asTyped && typed is not null ? typed : toTheMicrosecond;
        Metres = metres;
        Notes = notes;
        _strokes = new(() => notes.GroupBy(n => (n.Channel, n.Key)).ToFrozenDictionary(g => g.Key, g => g.Count()));
    }

    /// <summary>The file it was read from.</summary>
    public MidiFile File { get; }

    /// <summary>Ticks to samples.</summary>
    public TempoMap Tempos { get; }

    /// <summary>Bars.</summary>
    public MetreMap Metres { get; }

    /// <summary>All notes of all tracks, ordered by start, channel and key.</summary>
    public ImmutableArray<Note> Notes { get; }

    /// <summary>How many notes there are on each MIDI channel and key that has any: who asks what is played need not go through all notes.</summary>
    public IReadOnlyDictionary<(int Channel, int Key), int> Strokes => _strokes.Value;

    /// <summary>Whole bars from the start to the end of the last note; at least 1.</summary>
    public long Bars => Math.Max(1, Metres.BarsUntil(Notes.IsEmpty ? 0 : Notes.Max(n => n.EndTick)));

    /// <summary>The one tempo that the file rounds, in quarters a minute; null if it has several, or one that no tempo of two decimals gives.</summary>
    public double? TypedTempo => _typed?.Typed;

    /// <summary>The same song with its one tempo taken as its file has it, or as the tempo that was typed.</summary>
    /// <param name="toTheMicrosecond">True for as the file has it.</param>
    public Song Read(bool toTheMicrosecond) =>
        _typed is null || ReferenceEquals(Tempos, toTheMicrosecond ? _toTheMicrosecond : _typed) ? this : new(File, _toTheMicrosecond, _typed, Metres, Notes, !toTheMicrosecond);

    /// <summary>True if the file itself says a tempo.</summary>
    public bool SaysTempo => File.Tracks.Any(t => t.Any(IsTempo));

    /// <summary>Reads notes, tempos and metres out of a file. A note that never ends lasts to the end of its track.</summary>
    public static Song Of(MidiFile file)
    {
        var tempos = new List<(Ticks, Tempo)>();
        var metres = new List<(Ticks, Metre)>();
        var notes = new List<Note>();
        foreach (var track in file.Tracks)
        {
            var open = new Dictionary<(int Channel, int Key), Queue<MidiEvent>>();
            foreach (var item in track)
            {
                if (IsTempo(item))
                {
                    tempos.Add((item.Tick, ReadTempo(item)));
                }
                else if (item is { Status: 0xFF, MetaType: MidiFile.TimeSignature, Data: [> 0, <= 5, ..] })
                {
                    metres.Add((item.Tick, new Metre(item.Data[0], 1 << item.Data[1])));
                }
                else if (item.IsNoteOn)
                {
                    var key = (item.Channel, item.Data[0]);
                    if (!open.TryGetValue(key, out var queue))
                    {
                        open[key] = queue = new Queue<MidiEvent>();
                    }

                    queue.Enqueue(item);
                }
                else if (item.IsNoteOff && open.TryGetValue((item.Channel, item.Data[0]), out var queue) && queue.TryDequeue(out var start))
                {
                    notes.Add(new Note(start.Channel, start.Data[0], start.Data[1], start.Tick, item.Tick));
                }
            }

            notes.AddRange(open.Values.SelectMany(q => q).Select(s => new Note(s.Channel, s.Data[0], s.Data[1], s.Tick, track[^1].Tick)));
        }

        return new Song(
            file,
            new TempoMap(file.TimeBase, tempos),
            !file.TimeBase.IsSmpte && tempos is [(var at, var only)] && at == 0 && only.Hundredths is { } hundredths ? new TempoMap(file.TimeBase, hundredths, only) : null,
            new MetreMap(file.TimeBase.TicksPerQuarter, metres),
            [.. notes.OrderBy(n => n.StartTick).ThenBy(n => n.Channel).ThenBy(n => n.Key)]);
    }

    /// <summary>The same file with one tempo from the start and no other.</summary>
    public static MidiFile WithTempo(MidiFile file, Tempo tempo)
    {
        var tracks = file.Tracks.Select(t => t.Where(e => !IsTempo(e)).ToImmutableArray()).ToImmutableArray();
        return file with { Tracks = tracks.SetItem(0, tracks[0].Insert(0, TempoEvent(0, tempo))) };
    }

    /// <summary>The same file with one metre from the start and no other.</summary>
    public static MidiFile WithMetre(MidiFile file, Metre metre)
    {
        var tracks = file.Tracks.Select(t => t.Where(e => e is not { Status: 0xFF, MetaType: MidiFile.TimeSignature }).ToImmutableArray()).ToImmutableArray();
        return file with { Tracks = tracks.SetItem(0, tracks[0].Insert(0, MetreEvent(0, metre))) };
    }

    /// <summary>The meta event that sets a tempo.</summary>
    public static MidiEvent TempoEvent(Ticks tick, Tempo tempo)
    {
        var value = tempo.MicrosecondsPerQuarter;
        return MidiEvent.Meta(tick, MidiFile.SetTempo, (byte)(value >> 16), (byte)(value >> 8), (byte)value);
    }

    /// <summary>The meta event that sets a metre.</summary>
    public static MidiEvent MetreEvent(Ticks tick, Metre metre) =>
        MidiEvent.Meta(tick, MidiFile.TimeSignature, (byte)metre.Beats, (byte)int.Log2(metre.BeatUnit), 24, 8);

    private static bool IsTempo(MidiEvent item) =>
        item is { Status: 0xFF, MetaType: MidiFile.SetTempo, Data.Length: 3 } && ReadTempo(item).MicrosecondsPerQuarter > 0;

    private static Tempo ReadTempo(MidiEvent item) => new((item.Data[0] << 16) | (item.Data[1] << 8) | item.Data[2]);
}
