using GateSplit.Core.Charts;
using GateSplit.Core.Notes;
using GateSplit.Core.Planning;
using GateSplit.Core.Quantities;
using GateSplit.Core.Views;

namespace GateSplit.Core.Demo;

/// <summary>Lamp Lit: 24 bars of 6/8 for the kit in the room, every microphone on a line of its own, nothing wrong.</summary>
public static class LampLit
{
    private const int Bars = 24;
    private const int Channel = 10;
    private const int Kick = 36, Snare = 38, Closed = 42, Open = 46, High = 48, Mid = 45, Floor = 41, Ride = 51, Crash = 49;

    /// <summary>The session.</summary>
    public static DemoSession Session { get; } = Build();

    private static DemoSession Build()
    {
        // A dotted quarter of 76 is a quarter of 114.
        var writer = new PatternWriter(480, Tempo.FromQuartersPerMinute(114), new Metre(6, 8)) { ByHand = true };
        for (var bar = 0; bar < Bars; bar++)
        {
            Bar(writer, bar);
        }

        var file = writer.ToFile("Lamp Lit", Bars);
        var song = Song.Of(file);
        var start = StartingSplit.Of([OstlerKitRoom.Chart], Bars, 48000);
        var lay = Layer.Propose(SplitView.Of(start, song), new LayWish(HardPan: false) { Unity = true }).Edit!;
        return new DemoSession("Lamp Lit", file, lay.Apply(start).Value!, [new DemoPrint()]);
    }

    private static void Bar(PatternWriter writer, int bar)
    {
        var part = bar / 8;
        var within = bar % 8;
        var fill = within == 7;
        if (within == 0)
        {
            writer.Hits(Channel, Crash, bar, "X.....");
        }

        writer.Hits(Channel, Kick, bar, (part, within % 2) switch
        {
            (0, 0) => "X.........g.",
            (0, _) => "X...g...x...",
            (1, 0) => "X.....x...g.",
            (1, _) => "X...x.....x.",
            (_, 0) => "X.....x.x...",
            _ => "X...x.....xg",
        });
        writer.Hits(Channel, Snare, bar, fill ? "....g.f.g.xx" : part == 2 ? "..g...X..g.g" : within % 2 == 0 ? "......X....." : "...g..X..g..");
        if (part < 2)
        {
            writer.Hits(Channel, Closed, bar, fill ? "X.x.X......." : part == 0 ? "X.x.x.X.x.x." : "X.xgx.X.xgx.");
            if (within % 4 == 3 && !fill)
            {
                writer.Hits(Channel, Open, bar, "..........x.");
            }
        }
        else
        {
            writer.Hits(Channel, Ride, bar, fill ? "X..x.." : "XxxXxx");
        }

        if (fill)
        {
            writer.Hits(Channel, High, bar, "......xx....");
            writer.Hits(Channel, Mid, bar, "........Xx..");
            writer.Hits(Channel, Floor, bar, "..........XX");
        }
        else if (part == 1 && within % 4 == 1)
        {
            writer.Hits(Channel, Floor, bar, ".........x.X");
        }
    }
}
