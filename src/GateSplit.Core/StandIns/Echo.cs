using GateSplit.Core.Quantities;

namespace GateSplit.Core.StandIns;

/// <summary>
/// Echoes that change sides: what goes in on the left comes back on the left, then on the right, and so on, each quieter,
/// so that they have fallen by 60 dB after the wanted time. The delay is longer than a chunk, so a chunk is computed at once.
/// </summary>
internal sealed class Echo : IReturnEffect
{
    private const int Chunk = 1024;

    private readonly float[][] _rings;
    private readonly float _feedback;
    private int _place;

    /// <summary>Makes echoes at rest.</summary>
    /// <param name="echoSeconds">From one to the next, at least 0.03, which is just more than a chunk.</param>
    /// <param name="decaySeconds">Seconds until they have fallen by 60 dB.</param>
    /// <param name="sampleRate">Frames a second, at least 44100.</param>
    public Echo(double echoSeconds, double decaySeconds, SampleRate sampleRate)
    {
        var frames = (int)Math.Round(echoSeconds * sampleRate);
        _rings = [new float[frames], new float[frames]];
        _feedback = (float)Maths.Exp2(-9.965784284662087 * echoSeconds / Math.Max(decaySeconds, echoSeconds / 10));
    }

    /// <inheritdoc/>
    public void Process(ReadOnlySpan<float> inLeft, ReadOnlySpan<float> inRight, Span<float> outLeft, Span<float> outRight)
    {
        for (var at = 0; at < inLeft.Length;)
        {
            var frames = Math.Min(Math.Min(Chunk, inLeft.Length - at), _rings[0].Length - _place);
            var left = _rings[0].AsSpan(_place, frames);
            var right = _rings[1].AsSpan(_place, frames);
            left.CopyTo(outLeft[at..]);
            right.CopyTo(outRight[at..]);
            inLeft.Slice(at, frames).CopyTo(left);
            inRight.Slice(at, frames).CopyTo(right);
            Mixing.AddScaled(left, outRight.Slice(at, frames), _feedback);
            Mixing.AddScaled(right, outLeft.Slice(at, frames), _feedback);
            _place = (_place + frames) % _rings[0].Length;
            at += frames;
        }
    }
}
