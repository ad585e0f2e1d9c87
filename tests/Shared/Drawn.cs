using System.Numerics.Tensors;

namespace GateSplit.Tests.Shared;

/// <summary>Moves sounds between samples and draws them out: a sinc over 32 samples under a Hann window.</summary>
public static class Drawn
{
    private const int Places = 4096;
    private const int Reach = 16;
    private static readonly float[][] Sincs = [.. Enumerable.Range(0, Places).Select(p => Enumerable.Range(1 - Reach, 2 * Reach).Select(k => Sinc((double)p / Places - k)).ToArray())];

    /// <summary>As long as the sound, of which what does not fit is lost.</summary>
    /// <param name="sound">The sound.</param>
    /// <param name="offset">Frames by which it is later.</param>
    /// <param name="ppm">By how many millionths it is slower; where 0, the offset is taken to whole frames.</param>
    public static float[] Out(float[] sound, double offset, double ppm)
    {
        var moved = new float[sound.Length];
        var exact = ppm == 0;
        const int Part = 48000;
        Parallel.For(0, sound.Length / Part + 1, part =>
        {
            for (var i = part * Part; i < Math.Min(sound.Length, (part + 1) * Part); i++)
            {
                var place = (i - offset) / (1 + ppm / 1e6);
                var whole = (int)Math.Floor(exact ? Math.Round(place) : place);
                if (whole < Reach || whole >= sound.Length - Reach || exact)
                {
                    moved[i] = whole >= 0 && whole < sound.Length ? sound[whole] : 0;
                    continue;
                }

                moved[i] = TensorPrimitives.Dot<float>(sound.AsSpan(whole + 1 - Reach, 2 * Reach), Sincs[(int)((place - whole) * Places)]);
            }
        });
        return moved;
    }

    private static float Sinc(double t) => t == 0 ? 1 : (float)(Math.Sin(Math.PI * t) / (Math.PI * t) * (0.5 + 0.5 * Math.Cos(Math.PI * t / Reach)));
}
