using System.Collections.Immutable;
using GateSplit.Core.Quantities;

namespace GateSplit.Core.Notes;

/// <summary>Writes a song from grids of steps, as a drum machine's pattern is written.</summary>
/// <param name="ticksPerQuarter">Ticks of a quarter note.</param>
/// <param name="tempo">The tempo throughout.</param>
/// <param name="metre">The metre throughout.</param>
public sealed class PatternWriter(int ticksPerQuarter, Tempo tempo, Metre metre)
{
    private const int MostBeside = 3; // ticks of 480 that a hand plays beside the grid, twice thrown
    private const int Breath = 7; // of a velocity
    private readonly Dictionary<int, List<MidiEvent>> _channels = [];
    private uint _random = 0x9E3779B9;

    /// <summary>True for what a hand plays: a few milliseconds beside the grid, with velocities that breathe over four bars. The same every time.</summary>
    public bool ByHand { get; init; }

    /// <summary>Bars of another metre, 0-based, in order; those between them have the metre throughout.</summary>
    public IReadOnlyList<(long Bar, Metre Metre)> Others { get; init; } = [];

    /// <summary>Ticks of a bar.</summary>
    public Ticks TicksPerBar => metre.BarOf(ticksPerQuarter);

    /// <summary>Where a bar begins.</summary>
    /// <param name="bar">0-based.</param>
    public Ticks BarStart(long bar) => Others.Where(o => o.Bar < bar).Aggregate(TicksPerBar * bar, (at, other) => at + other.Metre.BarOf(ticksPerQuarter) - TicksPerBar);

    /// <summary>
    /// Adds a bar of hits. Each character is a step: '.' nothing, 'g' a ghost note, 'x' a hit, 'X' an accent, 'f' a
    /// flam just before the step. Velocities waver a little, the same way every time.
    /// </summary>
    /// <param name="channel">1 to 16.</param>
    /// <param name="key">0 to 127.</param>
    /// <param name="bar">0-based.</param>
    /// <param name="steps">The bar, in equal steps.</param>
    public void Hits(int channel, int key, long bar, string steps)
    {
        var step = TicksPerBar.Count / steps.Length;
        for (var i = 0; i < steps.Length; i++)
        {
            var velocity = steps[i] switch { 'g' => 38, 'x' => 88, 'X' => 116, 'f' => 104, _ => 0 };
            if (velocity == 0)
            {
                continue;
            }

            var tick = BarStart(bar) + new Ticks(i * step);
            if (steps[i] == 'f')
            {
                Add(channel, key, 52, Ticks.Max(0, tick - ticksPerQuarter / 16), new(step / 4));
            }

            Add(channel, key, velocity + Waver(), tick, new(step / 2));
        }
    }

    /// <summary>Adds a held note.</summary>
    /// <param name="channel">1 to 16.</param>
    /// <param name="key">0 to 127.</param>
    /// <param name="velocity">1 to 127.</param>
    /// <param name="quarter">Where it begins, in quarters from the start.</param>
    /// <param name="quarters">How long it is held.</param>
    public void Hold(int channel, int key, int velocity, double quarter, double quarters) =>
        Add(channel, key, velocity, TicksOf(quarter), Ticks.Max(1, TicksOf(quarters)));

    /// <summary>The file: a tempo track, then one track a channel.</summary>
    /// <param name="name">The song's name.</param>
    /// <param name="bars">Its length; the file ends there.</param>
    public MidiFile ToFile(string name, long bars)
    {
        var end = BarStart(bars);
        var tracks = ImmutableArray.CreateBuilder<ImmutableArray<MidiEvent>>();
        tracks.Add(
        [
            MidiEvent.Meta(0, MidiFile.TrackName, System.Text.Encoding.ASCII.GetBytes(name)),
            Song.MetreEvent(0, metre),
            Song.TempoEvent(0, tempo),
            .. from other in Others
               from change in new[] { Song.MetreEvent(BarStart(other.Bar), other.Metre), Song.MetreEvent(BarStart(other.Bar + 1), metre) }
               select change,
            MidiEvent.Meta(end, MidiFile.EndOfTrack),
        ]);
        foreach (var events in _channels.OrderBy(c => c.Key).Select(c => c.Value))
        {
            var ordered = events.OrderBy(e => e.Tick).ThenBy(e => e.IsNoteOn).ToList();
            tracks.Add([.. ordered, MidiEvent.Meta(Ticks.Max(end, ordered[^1].Tick), MidiFile.EndOfTrack)]);
        }

        return new MidiFile(1, TimeBase.Metrical(ticksPerQuarter), tracks.ToImmutable());
    }

    private void Add(int channel, int key, int velocity, Ticks tick, Ticks length)
    {
        if (!_channels.TryGetValue(channel, out var events))
        {
            _channels[channel] = events = [];
        }

        if (ByHand)
        {
            // Up and down once in four bars, as somebody does who plays a phrase.
            var phrase = 4 * TicksPerBar.Count;
            var rise = Math.Abs(2 * (tick.Count % phrase) - phrase) * 2 - phrase;
            velocity += Waver() / 2 - (int)(Breath * rise / phrase);
            tick = Ticks.Max(0, tick + new Ticks((Beside() + Beside()) * ticksPerQuarter / 480));
        }

        events.Add(MidiEvent.Message(tick, 0x90, channel, (byte)key, (byte)Math.Clamp(velocity, 1, 127)));
        events.Add(MidiEvent.Message(tick + length, 0x80, channel, (byte)key, 0));
    }

    private Ticks TicksOf(double quarters) => new((long)Math.Round(quarters * ticksPerQuarter));

    private int Waver() => (int)(Random() % 13) - 6;

    private int Beside() => (int)(Random() % (2 * MostBeside + 1)) - MostBeside;

    private uint Random()
    {
        _random ^= _random << 13;
        _random ^= _random >> 17;
        _random ^= _random << 5;
        return _random;
    }
}
