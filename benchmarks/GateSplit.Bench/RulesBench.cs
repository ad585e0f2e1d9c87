using System.Diagnostics;
using System.Globalization;
using GateSplit.Core.Checks;
using GateSplit.Core.Planning;
using GateSplit.Core.Views;

namespace GateSplit.Bench;

/// <summary>Times signal, checks and laying on a source that is far larger than any in use.</summary>
internal static class RulesBench
{
    private const int Rounds = 200;

    public static void Run()
    {
        var (split, sounding) = LargeSource.Split(elements: 256, ports: 128, tracks: 128);
        Tell("signal and checks, 256 elements, 128 ports, 128 tracks", () => AllChecks.Look(new SplitView(split, sounding)).Length);
        var (bare, all) = LargeSource.Split(elements: 200, ports: 128, tracks: 0);
        Tell("laying 200 elements on 128 ports", () => Layer.Propose(new SplitView(bare, all), new LayWish()).Lines.Length);
    }

    private static void Tell(string what, Func<int> work)
    {
        var times = new List<double>();
        for (var round = 0; round < Rounds; round++)
        {
            var started = Stopwatch.GetTimestamp();
            work();
            times.Add(Stopwatch.GetElapsedTime(started).TotalMilliseconds);
        }

        times.Sort();
        Console.WriteLine(string.Create(CultureInfo.InvariantCulture, $"  {what,-56} {times[Rounds / 2],7:0.0} ms median   {times[0],7:0.0} ms best"));
    }
}
