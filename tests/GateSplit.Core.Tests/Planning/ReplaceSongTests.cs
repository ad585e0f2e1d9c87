using GateSplit.Core.Edits;
using GateSplit.Core.Notes;
using GateSplit.Core.Planning;
using GateSplit.Core.Quantities;

namespace GateSplit.Core.Tests.Planning;

/// <summary>What of a pass goes along with another song, and what somebody has set and stays.</summary>
public sealed class ReplaceSongTests
{
    [Theory]
    [InlineData(8, 1, 3, 3, 1)] // as long as the song before: as long as the new one
    [InlineData(8, 8, 3, 3, 3)] // it begins in a bar that there is
    [InlineData(8, 3, 3, 3, 3)]
    [InlineData(5, 5, 3, 5, 5)] // set by hand: it stays, and so does its beginning
    [InlineData(8, 2, 20, 20, 2)]
    public void A_pass_follows_the_song_unless_its_length_was_set(int length, int start, int bars, int newLength, int newStart)
    {
        var split = Sessions.After(Sessions.Drums.Split, new SetPass(Sessions.Drums.Split.Pass with { LengthBars = length, StartBar = start }));
        var after = ReplaceSong.Fitted(split, OfBars(8), OfBars(bars));
        Assert.Equal((newLength, newStart), (after.Pass.LengthBars, after.Pass.StartBar));
        Assert.Equal(split with { Pass = after.Pass }, after);
    }

    [Fact]
    public void A_song_that_is_longer_than_any_pass_fills_the_longest()
    {
        Assert.Equal(2000, ReplaceSong.LengthOf(OfBars(2000)));
        Assert.Equal(2000, ReplaceSong.LengthOf(OfBars(2001)));
        Assert.Equal(1, ReplaceSong.LengthOf(Song.Of(new PatternWriter(480, Tempo.Default, Metre.Common).ToFile("Nothing", 1))));
    }

    /// <summary>A song with one note in its last bar.</summary>
    private static Song OfBars(int bars)
    {
        var writer = new PatternWriter(480, Tempo.Default, Metre.Common);
        writer.Hold(1, 60, 100, 4 * bars - 1, 1);
        return Song.Of(writer.ToFile("Song", bars));
    }
}
