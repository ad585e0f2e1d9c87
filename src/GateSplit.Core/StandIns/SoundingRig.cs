using GateSplit.Core.Notes;
using GateSplit.Core.Quantities;
using GateSplit.Core.Signal;
using GateSplit.Core.Splits;

namespace GateSplit.Core.StandIns;

/// <summary>The simulated sources and the recorder's desk, as the rig really is, for one pass of a split.</summary>
internal sealed class SoundingRig
{
    /// <summary>Sets the rig up.</summary>
    /// <param name="split">The split as it is in the pass.</param>
    /// <param name="song">The notes the sources play.</param>
    /// <param name="tracks">The tracks that are wanted; only what they need is worked out.</param>
    /// <param name="mainOf">A source whose main mix is wanted besides; null for none.</param>
    /// <param name="mostFrames">The longest block.</param>
    public SoundingRig(Split split, Song song, IEnumerable<TrackId> tracks, UnitId? mainOf, int mostFrames)
    {
        var signal = SplitSignal.InRig(split);
        var needed = signal.WithFeeding(tracks);
        var heard = signal.TrackFeeds.Where(f => needed.Contains(f.TrackId)).ToLookup(f => f.UnitId, f => f.Port);
        HashSet<int> PortsOf(Unit unit) => [.. heard[unit.Id], .. unit.Id == mainOf ? [unit.Chart.MainPort.Number] : Array.Empty<int>()];
        Sources = split.Units.ToDictionary(u => u.Id, u => new UnitStandIn(u, signal, song, split.Pass, mostFrames, ports: PortsOf(u)));
        Voices = new Voices(Sources.Values, split.Pass.SampleRate);
        Desk = new Desk(split, signal, Sources, mostFrames, needed);
    }

    /// <summary>By the ids of their units.</summary>
    public Dictionary<UnitId, UnitStandIn> Sources { get; }

    /// <summary>What they play.</summary>
    public Voices Voices { get; }

    /// <summary>What arrives on the tracks.</summary>
    public Desk Desk { get; }

    /// <summary>The frame at which the first source is first heard, 0 or before it.</summary>
    public Frames FirstFrame => Sources.Values.Select(s => s.FirstFrame).DefaultIfEmpty().Min();

    /// <summary>Renders a block of everything, one step after the other.</summary>
    public void Render(Block block)
    {
        Voices.Render(block);
        foreach (var source in Sources.Values)
        {
            source.RenderGate(block);
        }

        Desk.Mix(block);
    }
}
