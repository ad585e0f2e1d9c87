using GateSplit.Core.Proofing;
using GateSplit.Tests.Shared;

namespace GateSplit.Core.Tests.Proofing;

/// <summary>How many notes are missing where a file begins, told by their levels.</summary>
public sealed class LateEntryTests
{
    private const int Rate = 48000;
    private static readonly double[] Notes = [.. Enumerable.Range(0, 16).Select(i => 0.5 + 0.25 * i)];

    [Theory]
    [InlineData(3, 3)] // the first of them
    [InlineData(2, 2)]
    [InlineData(1, 0)] // one may be a ghost
    [InlineData(0, 0)]
    [InlineData(11, 11)]
    [InlineData(13, 0)] // too few are left to compare with
    public void The_notes_before_the_first_that_sounds_are_counted(int missing, int told) => Assert.Equal(told, Missing(Struck(i => i < missing ? 0 : 1)));

    [Fact]
    public void What_bleeds_in_at_their_places_is_softer_than_they()
    {
        Assert.Equal(4, Missing(Struck(i => i < 4 ? 0.1 : 1)));
        Assert.Equal(0, Missing(Struck(i => i < 4 ? 0.6 : 1))); // 4 dB: played so
        Assert.Equal(0, Missing(Struck(i => i % 2 == 0 ? 0.1 : 1))); // as soft later on
        Assert.Equal(0, Missing(Struck(i => i is > 4 and < 9 ? 0 : 1))); // missing in the middle
    }

    [Fact]
    public void Notes_before_the_file_begins_do_not_count() => Assert.Equal(2, Missing(Struck(i => i < 4 ? 0 : 1, -0.8), -0.8));

    private static int Missing(float[] sound, double offset = 0) =>
        LateEntry.Missing(new Samples(sound, Rate), new Part("Kick", [.. Notes], false), new TakeTime(offset, 0), 0);

    private static float[] Struck(Func<int, double> level, double offset = 0)
    {
        var random = new Random(1);
        var sound = new float[6 * Rate];
        for (var note = 0; note < Notes.Length; note++)
        {
            for (var i = 0; i < 4000; i++)
            {
                if ((int)((Notes[note] + offset) * Rate) + i is >= 0 and var at)
                {
                    sound[at] += (float)(level(note) * Math.Exp(-i / 900.0) * (2 * random.NextDouble() - 1));
                }
            }
        }

        return sound;
    }
}
