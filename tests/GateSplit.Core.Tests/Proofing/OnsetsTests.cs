using GateSplit.Core.Proofing;
using GateSplit.Tests.Shared;

namespace GateSplit.Core.Tests.Proofing;

/// <summary>Where sounds begin that are struck, and those that swell.</summary>
public sealed class OnsetsTests
{
    private const int Rate = 48000;

    [Theory]
    [InlineData(0.0001, 0.0003)]
    [InlineData(0.03, 0.0012)] // half as loud after 10 ms, and first heard after 2
    [InlineData(0.06, 0.0016)]
    [InlineData(0.1, 0.002)]
    public void What_swells_begins_where_it_is_drawn_back_to_nothing(double rise, double within)
    {
        // A rattle that rises as a sine does, twenty times.
        double[] notes = [.. Enumerable.Range(0, 20).Select(i => 0.5 + (0.4 * i) + (0.0007 * i))];
        var sound = new float[9 * Rate];
        foreach (var note in notes)
        {
            for (var i = 0; i < 0.12 * Rate; i++)
            {
                var time = (double)i / Rate;
                sound[(int)Math.Round(note * Rate) + i] = (float)(0.5 * Math.Sin(Math.PI / 2 * Math.Min(1, time / rise)) * Math.Min(1, (0.12 - time) / 0.02) * (Math.Sin(2 * Math.PI * 2417 * time) + Math.Sin(2 * Math.PI * 5303 * time) + Math.Sin(2 * Math.PI * 9011 * time)) / 3);
            }
        }

        var onsets = Onsets.Of(new Samples(sound, Rate), TestContext.Current.CancellationToken);
        Assert.Equal(notes.Length, onsets.Length);
        Assert.InRange(Math.Abs(TheilSen.Median([.. onsets.Zip(notes, (o, n) => o.Seconds - n)])), 0, within);
    }
}
