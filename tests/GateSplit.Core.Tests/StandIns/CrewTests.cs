using GateSplit.Core.StandIns;

namespace GateSplit.Core.Tests.StandIns;

public sealed class CrewTests
{
    [Theory]
    [InlineData(1)]
    [InlineData(2)]
    [InlineData(3)]
    [InlineData(5)]
    public void Every_piece_is_done_once_and_all_are_done_when_it_comes_back(int threads)
    {
        using var crew = new Crew(threads);
        foreach (var count in Enumerable.Repeat(new[] { 0, 1, 2, 7, 100 }, 50).SelectMany(c => c))
        {
            var done = new int[count];
            crew.Do(count, i => Interlocked.Increment(ref done[i]));
            Assert.All(done, times => Assert.Equal(1, times));
        }
    }

    [Fact]
    public void Two_pieces_are_done_at_the_same_time()
    {
        using var crew = new Crew(2);
        using var both = new Barrier(2); // one alone would wait for ever
        crew.Do(2, _ => Assert.True(both.SignalAndWait(TimeSpan.FromMinutes(5))));
    }

    [Theory]
    [InlineData(1)]
    [InlineData(2)]
    [InlineData(4)]
    public void What_a_piece_throws_is_thrown_and_the_crew_goes_on(int threads)
    {
        using var crew = new Crew(threads);
        foreach (var bad in new[] { 0, 3, 6 })
        {
            var thrown = Assert.Throws<IOException>(() => crew.Do(7, i =>
            {
                if (i == bad)
                {
                    throw new IOException($"Piece {i}.");
                }
            }));
            Assert.Equal($"Piece {bad}.", thrown.Message);
            var done = 0;
            crew.Do(7, _ => Interlocked.Increment(ref done));
            Assert.Equal(7, done);
        }
    }
}
