using GateSplit.Core.Charts;
using GateSplit.Core.Quantities;

namespace GateSplit.Core.StandIns;

/// <summary>
/// The tone of one channel of a microphone: a shelf that takes all but the lows where it stands near, one that takes the highs where it is turned away,
/// and the other polarity beneath a drum.
/// </summary>
internal sealed class MicTone
{
    private const double NearHz = 90;
    private const double AsideHz = 5000;
    private const double MostLift = 8; // dB
    private const double MostLoss = 12; // dB
    private const double RightAngle = 90;
    private readonly float _lowShare;
    private readonly float _highShare;
    private readonly float _lift;
    private readonly float _loss;
    private readonly float _sign;
    private float _low;
    private float _high;

    /// <summary>Works the shelves out.</summary>
    public MicTone(MicPlace place, SampleRate sampleRate)
    {
        (_lowShare, _highShare) = ((float)(1 - Maths.OnePoleShare(NearHz, sampleRate)), (float)(1 - Maths.OnePoleShare(AsideHz, sampleRate)));
        _lift = (float)(new Decibels(MostLift * place.Nearness).Ratio - 1);
        _loss = (float)(1 - new Decibels(-MostLoss * place.Angle / RightAngle).Ratio);
        _sign = (float)((place.Under ? -1 : 1) * new Decibels(-MostLift * place.Nearness).Ratio); // the lows stay as loud as they are
    }

    /// <summary>Gives a stretch its tone.</summary>
    public void Process(Span<float> samples)
    {
        const float Rest = 1e-15f;
        var (low, high) = (_low, _high);
        foreach (ref var sample in samples)
        {
            low += _lowShare * (sample - low);
            high += _highShare * (sample - high);
            sample = _sign * (sample + _lift * low - _loss * (sample - high));
        }

        // What dies away in silence would become numbers too small to reckon with quickly.
        (_low, _high) = (Math.Abs(low) < Rest ? 0 : low, Math.Abs(high) < Rest ? 0 : high);
    }
}
