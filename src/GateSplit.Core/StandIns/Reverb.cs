namespace GateSplit.Core.StandIns;

/// <summary>
/// A stereo reverb: eight delay lines that feed each other through a Hadamard matrix, each with a damping low-pass and
/// a gain that gives the wanted decay (Jot and Chaigne, "Digital delay networks for designing artificial
/// reverberators", AES 90 (1991)).
/// </summary>
internal sealed class Reverb
{
    private const int Lines = 8;
    private const double Damping = 0.28;
    private static readonly double[] Milliseconds = [29.7, 33.1, 37.9, 41.3, 47.7, 53.9, 59.3, 67.1];

    private readonly float[][] _delays = new float[Lines][];
    private readonly int[] _places = new int[Lines];
    private readonly double[] _gains = new double[Lines];
    private readonly double[] _damped = new double[Lines];

    /// <summary>Makes a reverb at rest.</summary>
    /// <param name="decaySeconds">Seconds until it has fallen by 60 dB.</param>
    /// <param name="sampleRate">Frames a second.</param>
    public Reverb(double decaySeconds, int sampleRate)
    {
        for (var i = 0; i < Lines; i++)
        {
            _delays[i] = new float[(int)(Milliseconds[i] / 1000 * sampleRate) | 1];
            _gains[i] = Maths.Exp2(-9.965784284662087 * _delays[i].Length / (decaySeconds * sampleRate));
        }
    }

    /// <summary>Processes a block.</summary>
    /// <param name="inLeft">What is sent, left.</param>
    /// <param name="inRight">What is sent, right.</param>
    /// <param name="outLeft">Receives the effect alone.</param>
    /// <param name="outRight">Receives the effect alone.</param>
    public void Process(ReadOnlySpan<float> inLeft, ReadOnlySpan<float> inRight, Span<float> outLeft, Span<float> outRight)
    {
        Span<double> taps = stackalloc double[Lines];
        for (var n = 0; n < inLeft.Length; n++)
        {
            double left = 0, right = 0;
            for (var i = 0; i < Lines; i++)
            {
                var value = _delays[i][_places[i]];
                _damped[i] += (1 - Damping) * (value - _damped[i]);
                taps[i] = _damped[i] * _gains[i];
                if ((i & 1) == 0)
                {
                    left += value;
                }
                else
                {
                    right += value;
                }
            }

            Hadamard(taps);
            for (var i = 0; i < Lines; i++)
            {
                var feed = (i & 1) == 0 ? inLeft[n] : inRight[n];
                _delays[i][_places[i]] = (float)(taps[i] + feed * 0.5);
                _places[i] = _places[i] + 1 == _delays[i].Length ? 0 : _places[i] + 1;
            }

            outLeft[n] = (float)(left * 0.6);
            outRight[n] = (float)(right * 0.6);
        }
    }

    /// <summary>The orthogonal 8 x 8 Hadamard matrix as three rounds of sums and differences.</summary>
    private static void Hadamard(Span<double> x)
    {
        for (var step = 1; step < Lines; step *= 2)
        {
            for (var i = 0; i < Lines; i += step * 2)
            {
                for (var j = i; j < i + step; j++)
                {
                    (x[j], x[j + step]) = (x[j] + x[j + step], x[j] - x[j + step]);
                }
            }
        }

        for (var i = 0; i < Lines; i++)
        {
            x[i] *= 0.35355339059327373;
        }
    }
}
