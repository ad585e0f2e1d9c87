using GateSplit.Core.Charts;
using GateSplit.Core.Demo;
using GateSplit.Core.Edits;
using GateSplit.Core.Notes;
using GateSplit.Core.Planning;
using GateSplit.Core.Quantities;
using GateSplit.Core.Splits;
using GateSplit.Core.Views;

namespace GateSplit.Core.Tests;

/// <summary>Small sessions for tests.</summary>
internal static class Sessions
{
    /// <summary>A drum machine with every voice on a line of its own, nothing wrong.</summary>
    public static readonly (Split Split, Song Song) Drums = Laid(MudlarkNine.Chart);

    /// <summary>A kit with every microphone on a line of its own, nothing wrong.</summary>
    public static readonly (Split Split, Song Song) Kit = Laid(OstlerKitRoom.Chart);

    /// <summary>The faulty demo session.</summary>
    public static readonly (Split Split, Song Song) Fog = (FogSignal.Session.Split, Song.Of(FogSignal.Session.Song));

    /// <summary>What checks look at.</summary>
    public static SplitView View(Split split, Song song) => SplitView.Of(split, song);

    /// <summary>A split after edits that must all succeed.</summary>
    public static Split After(Split split, params Edit[] edits)
    {
        foreach (var edit in edits)
        {
            var result = edit.Apply(split);
            Assert.True(result.Ok, result.Trouble);
            split = result.Value!;
        }

        return split;
    }

    /// <summary>The track of this name.</summary>
    public static Track TrackOf(Split split, string name) => split.Tracks.Single(t => t.Name == name);

    /// <summary>An element of the first unit.</summary>
    public static ElementRef Element(Split split, string id) => new(split.Units[0].Id, new ElementId(id));

    /// <summary>A session of one source, every voice alone once, laid.</summary>
    public static (Split Split, Song Song) Laid(Chart chart)
    {
        var song = Song.Of(CheckPattern.Of([chart], Tempo.Default));
        var split = StartingSplit.Of([chart], (int)song.Bars, 48000);
        return (Layer.Propose(View(split, song), new LayWish(HardPan: false) { Unity = true }).Edit!.Apply(split).Value!, song);
    }
}
