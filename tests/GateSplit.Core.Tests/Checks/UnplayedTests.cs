using GateSplit.Core.Charts;
using GateSplit.Core.Checks;
using GateSplit.Core.Edits;
using GateSplit.Core.Notes;
using GateSplit.Core.Planning;
using GateSplit.Core.Quantities;
using GateSplit.Core.Signal;
using GateSplit.Core.Splits;
using GateSplit.Core.Views;

namespace GateSplit.Core.Tests.Checks;

/// <summary>A song that plays nothing of a source is told, with what it has and what the source hears, and a way to let them meet.</summary>
public sealed class UnplayedTests
{
    private static readonly UnitId U1 = new("u1");

    [Fact]
    public void A_song_on_another_channel_is_told_first_and_one_press_lets_it_play()
    {
        var song = On(1, 36, 38, 42);
        var findings = AllChecks.Look(SplitView.Of(Laid, song));
        Assert.Equal("Unplayed", findings[0].Check);
        Assert.Equal(
            "The song plays nothing of Mudlark Nine, so its files would be silent: the song has notes on channel 1 (keys 36 to 42), and Mudlark Nine listens to channel 10 (keys 36 to 49).",
            findings[0].Sentence);
        Assert.Equal("Let channel 1 play Mudlark Nine on channel 10", findings[0].FixLabel);
        var mended = Sessions.After(Laid, findings[0].Fix!);
        Assert.Equal(["hat", "kick", "snare"], Sounding.Voices(mended.Units[0], song).Select(v => v.Value).Order(StringComparer.Ordinal));

        // Nothing but what the song leaves out is told of after it: all that was silent for want of notes has followed from it.
        Assert.DoesNotContain(AllChecks.Look(SplitView.Of(mended, song)), f => f.Check == "Unplayed");
        Assert.All(findings.Skip(1).Where(f => f.Place == Place.Of(new TrackId("t1"))), f => Assert.Equal(findings[0].Id, f.Under));
    }

    [Fact]
    public void A_channel_that_was_sent_elsewhere_is_named_and_let_back()
    {
        var sent = Told(On(10, 36), new RouteNotes(U1, 10, 11, 0))!;
        Assert.EndsWith("and Mudlark Nine listens to channel 10 (keys 36 to 49), but channel 10 plays it on channel 11.", sent.Sentence, StringComparison.Ordinal);
        Assert.Equal(new RouteNotes(U1, 10, null, 0), sent.Fix);

        // What was kept from it was kept by somebody: that is said, and not undone.
        var kept = Told(On(10, 36), new RouteNotes(U1, 10, NoteRoute.Nowhere, 0))!;
        Assert.EndsWith(", but channel 10 is kept from it.", kept.Sentence, StringComparison.Ordinal);
        Assert.IsNotType<RouteNotes>(kept.Fix);
    }

    [Fact]
    public void Keys_that_lie_octaves_away_are_moved_there()
    {
        var fix = Assert.IsType<RouteNotes>(Told(On(3, 60, 62, 66))!.Fix);
        Assert.Equal((3, (int?)10, -24), (fix.From, fix.To, fix.KeyShift));
    }

    [Fact]
    public void A_song_without_notes_is_played_by_hand()
    {
        var finding = Told(On(1))!;
        Assert.StartsWith("The song has no notes, so it plays nothing of Mudlark Nine", finding.Sentence, StringComparison.Ordinal);
        var byHand = Sessions.After(Laid, finding.Fix!);
        var view = SplitView.Of(byHand, On(1));
        Assert.Equal(Laid.Units[0].Chart.Elements.Where(e => e.Kind == ElementKind.Voice).Select(e => e.Id), view.SoundingElements.Where(e => e.Chart.Kind == ElementKind.Voice).Select(e => e.Chart.Id));
        Assert.DoesNotContain(AllChecks.Look(view), f => f.ToMend);
    }

    [Fact]
    public void What_plays_another_source_is_left_to_it()
    {
        // Channel 10 plays the drums; the keys hear channels 1 to 12, of which the song has none.
        var split = StartingSplit.Of([MudlarkNine.Chart, WickerKeys.Chart], 4, 48000);
        var finding = AllChecks.Look(SplitView.Of(split, On(10, 36))).Single(f => f.Check == "Unplayed");
        Assert.Equal(Place.Of(new UnitId("u2")), finding.Place);
        Assert.IsType<Several>(finding.Fix);
    }

    [Theory]
    [InlineData(36)]
    [InlineData(36, 100)]
    public void One_note_that_it_hears_is_enough_to_stay_silent(params int[] keys) => Assert.Null(Told(On(10, keys)));

    [Fact]
    public void What_somebody_has_said_of_an_element_stays() =>
        Assert.Null(Told(On(1, 36), new SetSounds(new ElementRef(U1, new ElementId("kick")), true)));

    [Fact]
    public void A_routed_note_is_heard_with_its_key_and_no_other_channel_is_touched()
    {
        var unit = Sessions.After(Laid, new RouteNotes(U1, 1, 10, -12)).Units[0];
        Assert.Equal(((10, 36), (2, 48), (10, 40)), (unit.AsHeard(1, 48), unit.AsHeard(2, 48), unit.AsHeard(10, 40)));
        var kick = unit.Chart.Voices.Single(v => v.Id.Value == "kick");
        Assert.Equal((true, false, true, false), (unit.Plays(kick, 1, 48), unit.Plays(kick, 1, 36), unit.Plays(kick, 10, 36), unit.Plays(kick, 1, 5)));
        Assert.NotNull(new RouteNotes(U1, 0, 10, 0).Apply(Laid).Trouble);
        Assert.NotNull(new RouteNotes(U1, 1, 17, 0).Apply(Laid).Trouble);
        Assert.NotNull(new RouteNotes(U1, 1, 10, 128).Apply(Laid).Trouble);
        Assert.Null(new RouteNotes(U1, 16, 1, -127).Apply(Laid).Trouble);
    }

    private static Split Laid => Sessions.Laid(MudlarkNine.Chart).Split;

    private static Finding? Told(Song song, params Edit[] edits) => AllChecks.Look(SplitView.Of(Sessions.After(Laid, edits), song)).SingleOrDefault(f => f.Check == "Unplayed");

    private static Song On(int channel, params int[] keys)
    {
        var writer = new PatternWriter(480, Tempo.Default, Metre.Common);
        for (var i = 0; i < keys.Length; i++)
        {
            writer.Hold(channel, keys[i], 100, i, 0.5);
        }

        return Song.Of(writer.ToFile("Song", 1));
    }
}
