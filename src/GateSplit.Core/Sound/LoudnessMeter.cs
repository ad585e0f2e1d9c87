using System.Collections.Immutable;
using GateSplit.Core.Quantities;

namespace GateSplit.Core.Sound;

/// <summary>
/// Measures loudness (ITU-R BS.1770-4, EBU R 128) and its range (EBU Tech 3342) of channels that sound together, fed in blocks of any size, in
/// constant memory.
/// </summary>
public sealed class LoudnessMeter
{
    private const double Offset = -0.691; // BS.1770-4, annex 1: makes a 997 Hz sine of 0 dBFS in one channel read -3.01
    private const double AbsoluteGate = -70; // LUFS
    private const double RelativeGate = -10; // LU below the ungated loudness
    private const double RangeGate = -20; // LU, EBU Tech 3342
    private const double RangeLow = 0.10;
    private const double RangeHigh = 0.95;
    private const double Surround = 1.41; // BS.1770-4, table 3
    private const int SlotsASecond = 100;
    private const int Momentary = 40; // slots: 400 ms
    private const int ShortTerms = 300; // slots: 3 s
    private const int Step = 10; // slots from one gating block to the next: 100 ms, three quarters of it overlap
    private readonly SampleRate _rate;
    private readonly ImmutableArray<double> _weights;
    private readonly KWeighting[] _filters;
    private readonly (double Energy, long Frames)[] _slots = new (double, long)[ShortTerms];
    private readonly LevelHistogram _blocks = new();
    private readonly LevelHistogram _shortTerms = new();
    private long _slot;
    private long _frames;
    private double _energy;
    private double _maxMomentary;
    private double _maxShortTerm;

    /// <summary>Begins.</summary>
    /// <param name="rate">Frames a second.</param>
    /// <param name="weights">What each channel counts; see <see cref="Even"/> and <see cref="OfSurround"/>.</param>
    public LoudnessMeter(SampleRate rate, ImmutableArray<double> weights)
    {
        (_rate, _weights) = (rate, weights);
        _filters = [.. weights.Select(_ => new KWeighting(rate.Hz))];
    }

    /// <summary>All channels count alike: mono, stereo, and rows of lines.</summary>
    public static ImmutableArray<double> Even(int channels) => [.. Enumerable.Repeat(1.0, channels)];

    /// <summary>Left, right, centre, two surround channels, and for six an LFE before these, which does not count.</summary>
    public static ImmutableArray<double> OfSurround(int channels) => channels == 6 ? [1, 1, 1, 0, Surround, Surround] : [1, 1, 1, Surround, Surround];

    /// <summary>Takes the next samples in.</summary>
    /// <param name="channels">A buffer for each channel.</param>
    /// <param name="count">How many samples of each.</param>
    public void Add(IReadOnlyList<float[]> channels, int count)
    {
        for (var at = 0; at < count;)
        {
            // Where a hundredth of a second is no whole number of frames, slots differ by one; a window knows how many it holds.
            var end = (_slot + 1) * _rate.Hz / SlotsASecond;
            var part = (int)Math.Min(count - at, end - _frames);
            for (var channel = 0; channel < _filters.Length; channel++)
            {
                _energy += _weights[channel] * _filters[channel].Energy(channels[channel].AsSpan(at, part));
            }

            at += part;
            _frames += part;
            if (_frames == end)
            {
                EndSlot();
            }
        }
    }

    /// <summary>The loudness of the last 3 s, in LUFS; null where they are silent or less was heard.</summary>
    public double? ShortTerm => _slot >= ShortTerms ? Max(Power(ShortTerms)) : null;

    /// <summary>What was measured so far.</summary>
    public Loudness Result()
    {
        var (_, mean) = _blocks.From(AbsoluteGate - Offset);
        var (blocks, gated) = _blocks.From(Math.Max(AbsoluteGate - Offset, Level(mean) + RelativeGate));
        var (_, meanShort) = _shortTerms.From(AbsoluteGate - Offset);
        var floor = Math.Max(AbsoluteGate - Offset, Level(meanShort) + RangeGate);
        var range = _shortTerms.Percentile(RangeHigh, floor) - _shortTerms.Percentile(RangeLow, floor);
        return new(blocks == 0 ? null : Level(gated) + Offset, double.IsNaN(range) ? null : range, Max(_maxMomentary), Max(_maxShortTerm));
    }

    private static double? Max(double power) => power == 0 ? null : Level(power) + Offset;

    private static double Level(double power) => 10 * Math.Log10(power);

    private void EndSlot()
    {
        _slots[_slot % ShortTerms] = (_energy, _frames - _slot * _rate.Hz / SlotsASecond);
        _energy = 0;
        _slot++;
        if (_slot >= Momentary)
        {
            var power = Power(Momentary);
            _maxMomentary = Math.Max(_maxMomentary, power);
            if (_slot % Step == 0)
            {
                _blocks.Add(power);
            }
        }

        if (_slot >= ShortTerms)
        {
            var power = Power(ShortTerms);
            _maxShortTerm = Math.Max(_maxShortTerm, power);
            if (_slot % Step == 0)
            {
                _shortTerms.Add(power);
            }
        }
    }

    /// <summary>The mean square of the last slots, all channels weighed and added.</summary>
    private double Power(int slots)
    {
        var (energy, frames) = (0.0, 0L);
        for (var i = 1; i <= slots; i++)
        {
            var (part, length) = _slots[(_slot - i) % ShortTerms];
            energy += part;
            frames += length;
        }

        return energy / frames;
    }
}
