using GateSplit.Core.Charts;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Planning;

/// <summary>
/// What is in one pass so far. Lines with ports of their own hold them; all others are only counted, since any that fit by number fit on ports.
/// </summary>
/// <param name="room">What a pass has space for.</param>
internal sealed class PassLoad(Room room)
{
    private readonly Dictionary<UnitId, Gate> _gates = [];
    private readonly HashSet<string> _voices = [];
    private int _cables;
    private int _cablePairs;

    /// <summary>The same load, to be tried on.</summary>
    public PassLoad Copy()
    {
        var copy = new PassLoad(room) { _cables = _cables, _cablePairs = _cablePairs };
        copy._voices.UnionWith(_voices);
        foreach (var (unit, gate) in _gates)
        {
            copy._gates[unit] = gate with { Held = new(gate.Held) };
        }

        return copy;
    }

    /// <summary>Takes a line into the pass.</summary>
    /// <returns>False, and nothing has changed, if there is no space for it.</returns>
    public bool TryAdd(PassPlan.Need need)
    {
        if (need.Cabled && (_cables + (int)need.Width > room.Cables || (need.Width == Width.Stereo && _cablePairs == room.CablePairs)))
        {
            return false;
        }

        if ((need.Voice is { } voice && _voices.Contains(voice)) || !Seats(need))
        {
            return false;
        }

        if (need.Voice is { } taken)
        {
            _voices.Add(taken);
        }

        _cables += need.Cabled ? (int)need.Width : 0;
        _cablePairs += need.Cabled && need.Width == Width.Stereo ? 1 : 0;
        return true;
    }

    private bool Seats(PassPlan.Need need)
    {
        var gate = _gates.GetValueOrDefault(need.UnitId) ?? new Gate(0, 0, []);
        if (need.Ports.IsEmpty)
        {
            var with = need.Width == Width.Stereo ? gate with { Stereo = gate.Stereo + 1 } : gate with { Mono = gate.Mono + 1 };
            return Keep(need.UnitId, with);
        }

        foreach (var (port, sides) in PortSeats.Possible(need, room.Gates[need.UnitId], gate.Held))
        {
            if (Keep(need.UnitId, gate with { Held = new(gate.Held) { [port.Number] = gate.Held.GetValueOrDefault(port.Number) | sides } }))
            {
                return true;
            }
        }

        return false;
    }

    private bool Keep(UnitId unitId, Gate gate)
    {
        var ports = room.Gates[unitId];
        var pairs = ports.Count(p => p.Width == Width.Stereo && !gate.Held.ContainsKey(p.Number));
        var singles = ports.Count(p => p.Width == Width.Mono && !gate.Held.ContainsKey(p.Number));
        var halves = room.HardPan ? ports.Count(p => p.Width == Width.Stereo && gate.Held.GetValueOrDefault(p.Number) is PortSeats.Left or PortSeats.Right) : 0;
        if (gate.Stereo > pairs || gate.Mono > singles + halves + (pairs - gate.Stereo) * (room.HardPan ? 2 : 1))
        {
            return false;
        }

        _gates[unitId] = gate;
        return true;
    }

    /// <summary>What is taken of one source's ports.</summary>
    /// <param name="Stereo">Stereo lines for which any pair will do.</param>
    /// <param name="Mono">Mono lines for which any port will do.</param>
    /// <param name="Held">The sides of ports that lines with ports of their own hold.</param>
    private sealed record Gate(int Stereo, int Mono, Dictionary<int, int> Held);
}
