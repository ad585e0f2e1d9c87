namespace GateSplit.Core.Tests;

public sealed class WordsTests
{
    [Theory]
    [InlineData(0, "0:00")]
    [InlineData(59.6, "1:00")]
    [InlineData(3725, "62:05")]
    public void Lengths(double seconds, string text) => Assert.Equal(text, Words.Clock(seconds));

    [Fact]
    public void Lists()
    {
        Assert.Equal("nothing", Words.List([]));
        Assert.Equal("Kick", Words.List(["Kick"]));
        Assert.Equal("Kick and Snare", Words.List(["Kick", "Snare"]));
        Assert.Equal("Kick, Snare and Hat", Words.List(["Kick", "Snare", "Hat"]));
        Assert.Equal("a, b and 3 more", Words.List(["a", "b", "c", "d", "e"], most: 2));
        Assert.Equal("2 crosses", Words.Count(2, "cross", "crosses"));
    }

    [Theory]
    [InlineData("", new int[0])]
    [InlineData("4", new[] { 4 })]
    [InlineData("2-5, 8, 10-11", new[] { 2, 3, 4, 5, 8, 10, 11 })]
    public void Numbers_stand_in_runs(string text, int[] numbers) => Assert.Equal(text, Words.Runs(numbers));
}
