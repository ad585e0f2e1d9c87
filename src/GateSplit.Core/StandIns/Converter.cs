using GateSplit.Core.Splits;

namespace GateSplit.Core.StandIns;

/// <summary>
/// One channel of the simulated interface: late, with noise, and cut off above full scale. The noise is the difference of
/// two even ones, whose RMS is 1 / sqrt 6 of its width; every input has its own, the same in every run.
/// </summary>
internal sealed class Converter
{
    private const double RmsOfDifference = 0.4082482904638631;

    private readonly DelayLine? _late;
    private readonly float _noise;
    private readonly bool _clips;
    private uint _state;

    /// <summary>Makes one.</summary>
    /// <param name="simulated">How the interface behaves.</param>
    /// <param name="seed">Its own number.</param>
    /// <param name="mostFrames">The longest block.</param>
    public Converter(SimulatedInterface simulated, int seed, int mostFrames)
    {
        _late = simulated.LatencySamples > 0 ? new DelayLine(simulated.LatencySamples, mostFrames) : null;
        _noise = simulated.NoiseDb is { } db ? (float)(db.Ratio / RmsOfDifference) : 0;
        _clips = simulated.Clips;
        _state = (uint)seed * 2654435761u | 1;
    }

    /// <summary>
    /// The converters of a track, one for each side: what comes in over USB or sockets goes through them, what stays inside
    /// the recorder does not; a looped-back pair has the noise of its outboard. None if they would change nothing.
    /// </summary>
    public static Converter[] Of(Track track, Split split, int mostFrames)
    {
        if (track.Input is not { } input || split.Bank(input.BankId) is not { } bank)
        {
            return [];
        }

        var way = bank.Kind switch
        {
            BankKind.Usb or BankKind.Analog => split.Interface,
            BankKind.Loopback => new SimulatedInterface { NoiseDb = bank.OutboardNoiseDb },
            _ => new SimulatedInterface(),
        };
        return way is { NoiseDb: null, LatencySamples: 0, Clips: false }
            ? []
            : [.. Enumerable.Range(0, (int)track.Width).Select(side => new Converter(way, 1000 * split.Banks.IndexOf(bank) + input.Channel + side, mostFrames))];
    }

    /// <summary>Converts samples in place.</summary>
    public void Process(Span<float> samples)
    {
        if (_late is not null)
        {
            _late.Process(samples).Span.CopyTo(samples);
        }

        if (_noise > 0)
        {
            var state = _state;
            foreach (ref var sample in samples)
            {
                sample += _noise * (Next(ref state) - Next(ref state));
            }

            _state = state;
        }

        if (_clips)
        {
            foreach (ref var sample in samples)
            {
                sample = Math.Clamp(sample, -1f, 1f);
            }
        }
    }

    /// <summary>The next even number from 0 to 1 (Marsaglia, "Xorshift RNGs", J. Stat. Software 8 (2003)).</summary>
    private static float Next(ref uint state)
    {
        state ^= state << 13;
        state ^= state >> 17;
        state ^= state << 5;
        return state * (1f / 4294967296f);
    }
}
