using System.Numerics;
using GateSplit.Core.Sound;

namespace GateSplit.Core.Tests.Sound;

public sealed class RealFourierTests
{
    [Theory]
    [InlineData(2, 2)]
    [InlineData(2, 1)]
    [InlineData(4, 3)]
    [InlineData(8, 8)]
    [InlineData(64, 64)]
    [InlineData(64, 41)]
    [InlineData(256, 200)]
    public void A_spectrum_is_the_sum_of_all_samples_turned_as_its_definition_says(int size, int length)
    {
        var samples = Random(length);
        var bins = RealFourier.Forward(samples, size);
        Assert.Equal(size, bins.Length);
        for (var bin = 0; bin < size; bin++)
        {
            var sum = Complex.Zero;
            for (var i = 0; i < length; i++)
            {
                sum += samples[i] * Complex.FromPolarCoordinates(1, -2 * Math.PI * bin * i / size);
            }

            Assert.Equal(0, (sum - bins[bin]).Magnitude, 1e-9);
        }
    }

    [Theory]
    [InlineData(2, 2, 2)]
    [InlineData(16, 11, 16)]
    [InlineData(1024, 1024, 1024)]
    [InlineData(1024, 700, 13)]
    [InlineData(1024, 700, 1)]
    public void What_a_spectrum_stands_for_comes_back(int size, int length, int wanted)
    {
        var samples = Random(length);
        var back = RealFourier.Back(RealFourier.Forward(samples, size), wanted);
        Assert.Equal(wanted, back.Length);
        Assert.All(back.Index(), s => Assert.Equal(s.Index < length ? samples[s.Index] : 0, s.Item, 1e-9));
    }

    private static float[] Random(int length)
    {
        var random = new Random(length);
        return [.. Enumerable.Range(0, length).Select(_ => (float)(random.NextDouble() - 0.5))];
    }
}
