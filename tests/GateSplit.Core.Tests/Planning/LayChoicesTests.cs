using GateSplit.Core.Charts;
using GateSplit.Core.Edits;
using GateSplit.Core.Notes;
using GateSplit.Core.Planning;
using GateSplit.Core.Quantities;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Tests.Planning;

/// <summary>What laying leaves alone, and what it offers where there is not enough.</summary>
public sealed class LayChoicesTests
{
    private static readonly UnitId U1 = new("u1");

    [Fact]
    public void Faders_stay_where_they_are_and_unity_is_a_choice_that_says_what_it_changes()
    {
        var start = Sessions.After(StartingSplit.Of([MudlarkNine.Chart], 4, 48000), new SetFader(Of("kick"), new Decibels(-4)), new SetFader(Of("snare"), new Decibels(2)));
        var view = Sessions.View(start, Sessions.Drums.Song);
        var stays = Layer.Propose(view, new LayWish());
        Assert.Equal(start.Units[0].Elements.Select(e => e.FaderDb), stays.After.Units[0].Elements.Select(e => e.FaderDb));
        Assert.DoesNotContain(stays.Reasons, r => r.Contains("unity", StringComparison.Ordinal));
        var choice = LayChoices.Of(view, new LayWish()).Single(c => c.What.Contains("unity", StringComparison.Ordinal));
        var unity = Layer.Propose(view, choice.Wish!);
        Assert.Contains("Faders go to unity: Kick from −4.0 dB and Snare from +2.0 dB.", unity.Reasons);
        Assert.All(unity.Lines, l => Assert.Equal(Decibels.Unity, unity.After.Units[0].Element(l.Elements[0].ElementId).FaderDb));

        // Where nothing would change it is no choice.
        var flat = Sessions.After(start, new SetFader(Of("kick"), Decibels.Unity), new SetFader(Of("snare"), Decibels.Unity));
        Assert.DoesNotContain(LayChoices.Of(Sessions.View(flat, Sessions.Drums.Song), new LayWish()), c => c.What.Contains("unity", StringComparison.Ordinal));
    }

    [Fact]
    public void In_a_group_that_prints_as_one_the_faders_are_its_balance_and_stay()
    {
        var song = Song.Of(CheckPattern.Of([TansyGrid.Chart], Tempo.Default));
        var start = Sessions.After(StartingSplit.Of([TansyGrid.Chart], 4, 48000), new SetFader(Of("a1"), new Decibels(-5)), new SetFader(Of("b2"), new Decibels(-6)));
        var after = Layer.Propose(Sessions.View(start, song), new LayWish(ByGroup: true) { Unity = true }).After;
        Assert.Equal((new Decibels(-5), new Decibels(-6)), (after.Units[0].Element(new ElementId("a1")).FaderDb, after.Units[0].Element(new ElementId("b2")).FaderDb));

        var merged = Layer.Propose(Sessions.View(start, song), new LayWish { Unity = true, Merged = [Of("a1"), Of("a2")] }).After;
        Assert.Equal((new Decibels(-5), Decibels.Unity), (merged.Units[0].Element(new ElementId("a1")).FaderDb, merged.Units[0].Element(new ElementId("b2")).FaderDb));
    }

    [Fact]
    public void Ports_and_merges_that_were_chosen_by_hand_stay()
    {
        var song = Sessions.Kit.Song;
        var start = StartingSplit.Of([OstlerKitRoom.Chart], 4, 48000);
        var set = Sessions.After(start, new AssignPort(Of("hat"), 11), new AssignPort(Of("tom1"), 4), new AssignPort(Of("tom2"), 4));
        var proposal = Layer.Propose(Sessions.View(set, song), new LayWish());
        Assert.Equal(11, proposal.Lines.Single(l => l.Name == "Hat").Port.Number);
        var both = Assert.Single(proposal.Lines, l => l.Elements.Length == 2);
        Assert.Equal((4, "u1/tom1, u1/tom2", Width.Stereo), (both.Port.Number, string.Join(", ", both.Elements), both.Width));
        Assert.Contains("High tom and Mid tom stay together on port 4 of Ostler Kit Room, where they were put.", proposal.Reasons);
        Assert.Equal(11, proposal.Lines.Select(l => l.Port.Number).Distinct().Count());

        // Hard apart on a pair they are two lines, each on its side.
        var apart = Layer.Propose(Sessions.View(Sessions.After(set, new SetPan(Of("tom1"), Pan.HardRight), new SetPan(Of("tom2"), Pan.HardLeft)), song), new LayWish());
        Assert.Equal([(4, 1), (4, 0)], apart.Lines.Where(l => l.Elements[0].ElementId.Value is "tom1" or "tom2").Select(l => (l.Port.Number, l.Side)));

        // Laid anew on request, each is a line again, and the one track too few is made.
        var anew = Layer.Propose(Sessions.View(proposal.After, song), new LayWish(Anew: true));
        Assert.All(anew.Lines, l => Assert.Single(l.Elements));
        Assert.Equal(anew.Lines.Length, anew.After.Tracks.Length);
    }

    [Fact]
    public void A_group_that_was_given_a_port_stays_there()
    {
        var song = Song.Of(CheckPattern.Of([TansyGrid.Chart], Tempo.Default));
        var start = Sessions.After(StartingSplit.Of([TansyGrid.Chart], 4, 48000), new SetGroup(U1, new UnitGroup("Group B") { Port = 9 }));
        var line = Assert.Single(Layer.Propose(Sessions.View(start, song), new LayWish()).Lines, l => l.Group is not null);
        Assert.Equal(("Group B", 9, 12), (line.Group, line.Port.Number, line.Elements.Length));
    }

    [Fact]
    public void The_sum_that_is_short_is_said_and_each_way_out_spares_a_pass()
    {
        // Thirteen lines on three pairs beside the main.
        var song = Song.Of(CheckPattern.Of([WickerKeys.Chart], Tempo.Default));
        var view = Sessions.View(StartingSplit.Of([WickerKeys.Chart], 4, 48000), song);
        var apart = Layer.Propose(view, new LayWish(HardPan: false));
        Assert.Equal(["Wicker Keys: 13 lines needed, 4 ports there, 9 short (14 channels needed, 8 there)."], apart.Limits);
        var choices = LayChoices.Of(view, new LayWish());
        Assert.All(choices.Where(c => c.Wish is { HardPan: true } or { Merged.IsEmpty: false } or { AsMono.IsEmpty: false }), c => Assert.True(Layer.Propose(view, c.Wish!).Passes < apart.Passes, c.What));
        Assert.DoesNotContain(choices, c => c.What == "two mono lines hard apart on a pair"); // that is what the fewest passes do
        Assert.Equal(2, Layer.Propose(view, choices.Single(c => c.What == "in the fewest passes").Wish!).Passes);
        Assert.Equal(choices.Length, choices.Select(c => c.Wish is null ? c.What : SplitJson.Write(Layer.Propose(view, c.Wish).After)).Distinct().Count());
        Assert.Contains(choices, c => c.What.EndsWith("merged into one", StringComparison.Ordinal) && Layer.Propose(view, c.Wish!).Lines.Count(l => l.Elements.Length > 1) == 1);
        Assert.Empty(Layer.Propose(Sessions.View(Sessions.Kit.Split, Sessions.Kit.Song), new LayWish()).Limits);
    }

    [Fact]
    public void Over_cables_the_inputs_are_what_is_short()
    {
        var split = Sessions.After(Sessions.Kit.Split, new AddBank(BankKind.Analog, "Analog", 13), new SetBank(Sessions.Kit.Split.Banks[0] with { Connected = false }));
        var view = Sessions.View(split, Sessions.Kit.Song);
        Assert.Equal(["15 channels needed over cables, 13 inputs there, 2 short."], Layer.Propose(view, new LayWish(Anew: true)).Limits);
        var choices = LayChoices.Of(view, new LayWish(Anew: true));
        Assert.Contains(choices, c => c.Wish is null && c.What.StartsWith("two mono lines hard apart on a pair: ", StringComparison.Ordinal));

        // Three of nine mono microphones as one are two inputs less.
        var merged = choices.Single(c => c.Wish is { Merged.IsEmpty: false });
        Assert.Equal(3, merged.Wish!.Merged.Count);
        Assert.Equal(1, Layer.Propose(view, merged.Wish).Passes);
    }

    [Fact]
    public void A_looped_back_pair_takes_what_finds_no_socket_and_nothing_is_laid_without_an_input()
    {
        var start = StartingSplit.Of([SiskinMono.Chart, MudlarkNine.Chart], 4, 48000);
        var looped = Sessions.After(start, new AddBank(BankKind.Loopback, "Back", 2), new SetBank(start.Banks[1] with { Connected = false }));
        var song = Song.Of(CheckPattern.Of([SiskinMono.Chart, MudlarkNine.Chart], Tempo.Default));
        var proposal = Layer.Propose(Sessions.View(looped, song), new LayWish());
        var loop = looped.Banks.Single(b => b.Kind == BankKind.Loopback).Id;
        Assert.All(proposal.Lines.Where(l => l.UnitId == new UnitId("u2")), l => Assert.Equal(loop, l.Input!.BankId));
        Assert.Equal(5, proposal.Passes); // nine mono lines, two at a time

        // What plays into it already keeps it; then there is no input, and that is told.
        var busy = Sessions.After(looped, new AddTrack(new Track(new TrackId("t50"), "Out", Width.Stereo) { Bus = new InputRef(loop, 1) }));
        var none = Layer.Propose(Sessions.View(busy, song), new LayWish());
        Assert.DoesNotContain(none.Lines, l => l.UnitId == new UnitId("u2"));
        Assert.DoesNotContain(none.After.Tracks, t => t.Input is null && t.Id.Value != "t50");
        Assert.Contains(none.Reasons, r => r.Contains("Not laid: Kick", StringComparison.Ordinal));

        // A socket comes first.
        var socket = Layer.Propose(Sessions.View(Sessions.After(looped, new AddBank(BankKind.Analog, "Analog", 9)), song), new LayWish());
        Assert.Equal((1, true), (socket.Passes, socket.Lines.Where(l => l.UnitId == new UnitId("u2")).All(l => l.Input!.BankId != loop)));
    }

    [Fact]
    public void Sharers_of_a_voice_are_laid_in_passes_of_their_own_in_one_action()
    {
        var (split, song) = Sessions.Laid(HeronTen.Chart);
        var view = Sessions.View(split, song);
        var shared = view.SoundingElements.Where(e => e.Chart.SharedVoice is not null).GroupBy(e => e.Chart.SharedVoice).Select(g => g.Select(e => e.Ref).ToList()).Where(g => g.Count > 1).ToList();
        var choice = LayChoices.Of(view, new LayWish(Anew: true)).Single(c => c.Wish?.SharersApart == true);
        var proposal = Layer.Propose(view, choice.Wish!);
        Assert.Equal(2, proposal.Passes);
        foreach (var sharers in shared)
        {
            Assert.Equal(sharers.Count, proposal.Lines.Where(l => l.Elements.Any(sharers.Contains)).Select(l => l.Pass).Distinct().Count());
        }

        // Each is alone on a track of its own name, and no track is left that holds what two of them had.
        foreach (var line in proposal.Lines)
        {
            var seen = Sessions.View(proposal.After, song).InPass(line.Pass);
            Assert.Equal(line.Elements, seen.SoundingIn(Assert.Single(seen.Split.Tracks, t => t.Name == line.Name)));
        }

        Assert.Equal(proposal.Lines.Length, proposal.After.Tracks.Length);
    }

    [Fact]
    public void The_main_pair_is_used_where_that_spares_a_pass_and_nothing_else_is_on_it()
    {
        // Twelve lines on eleven outputs beside the main.
        var chart = OstlerKitRoom.Chart;
        var song = Sessions.Kit.Song;
        var start = StartingSplit.Of([chart], 4, 48000);
        Assert.Equal((1, true), (Layer.Propose(Sessions.View(start, song), new LayWish(HardPan: false)).Passes, Layer.Propose(Sessions.View(start, song), new LayWish(HardPan: false)).Lines.Any(l => l.Port.IsMain)));

        // An effect on it colours whatever is there.
        var coloured = start with { Units = [start.Units[0] with { Chart = chart with { Master = new MasterPatch { Drive = 1 } } }] };
        Assert.DoesNotContain(Layer.Propose(Sessions.View(coloured, song), new LayWish(HardPan: false)).Lines, l => l.Port.IsMain);

        // A track that records the mix keeps it.
        var mix = Sessions.After(start, new AddTrack(new Track(new TrackId("t9"), "Mix", Width.Stereo) { Input = start.InputOf(start.Units[0], chart.MainPort.FirstChannel) }));
        Assert.DoesNotContain(Layer.Propose(Sessions.View(mix, song), new LayWish()).Lines, l => l.Port.IsMain);
    }

    private static ElementRef Of(string element) => new(U1, new ElementId(element));
}
