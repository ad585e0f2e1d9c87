using GateSplit.Core.Charts;
using GateSplit.Core.Demo;
using GateSplit.Core.Edits;
using GateSplit.Core.Splits;
using GateSplit.Core.Templates;

namespace GateSplit.Core.Tests.Templates;

public sealed class GearTests
{
    private static readonly Split Boat = DemoSessions.All[2].Split; // cables into eight sockets, two passes
    private static readonly Split Fog = DemoSessions.All[1].Split;

    [Fact]
    public void What_a_session_has_is_taken_over_and_a_session_begins_from_it()
    {
        var gear = Read(Gear.None.TakeOver(Fog).TakeOver(Boat));
        Assert.Equal(["Mudlark Nine", "Wicker Keys", "Brindle Six"], gear.Kept.Units.Select(u => u.Name));
        Assert.Equal(["Bus", "Socket"], gear.Rows.Select(b => b.Label).Order());
        Assert.Empty(gear.Kept.Tracks);
        Assert.Equal((32, true), (Boat.Pass.LengthBars, Boat.Pass.Looped));
        Assert.Equal((1, false, Boat.Pass.SettleLoops), (gear.Kept.Pass.LengthBars, gear.Kept.Pass.Looped, gear.Kept.Pass.SettleLoops));

        // A chosen source comes with its own row and with every row that no source owns; its settings are as they were, and to be made again.
        var split = gear.Begin([gear.Kept.Units[0].Id], 8);
        Assert.Equal(["Mudlark Nine"], split.Units.Select(u => u.Name));
        Assert.Equal(["Bus", "Mudlark USB", "Socket"], split.Banks.Select(b => b.Label).Order());
        Assert.Equal(new("separate"), split.Units[0].ModeId);
        Assert.Equal(7.5, split.Units[0].Element(new ElementId("tom-low")).FaderDb.Value);
        Assert.Equal(split.Units[0].Chart.Settings.Length, split.Units[0].Simulated.NotMade.Length);
        Assert.Equal(8, split.Pass.LengthBars);
        Assert.Null(SplitRules.FirstMisfit(split));
    }

    [Fact]
    public void What_is_owned_already_becomes_as_it_is_there_and_nothing_is_owned_twice()
    {
        var first = Gear.None.TakeOver(Fog);
        var louder = Sessions.After(Fog, new SetFader(new ElementRef(Fog.Units[0].Id, new ElementId("kick")), new(-3)));
        var again = Read(first.TakeOver(louder));
        Assert.Equal(2, again.Kept.Units.Length);
        Assert.Equal(3, again.Kept.Banks.Length);
        Assert.Equal(-3, again.Kept.Units.Single(u => u.Name == "Mudlark Nine").Element(new ElementId("kick")).FaderDb.Value);

        // Another of the same kind under another name is another box.
        var renamed = Sessions.After(Fog, new RenameUnit(Fog.Units[0].Id, "Left Mudlark"));
        Assert.Equal(["Left Mudlark", "Mudlark Nine", "Wicker Keys"], Read(first.TakeOver(renamed)).Kept.Units.Select(u => u.Name).Order());
    }

    [Fact]
    public void Cables_stay_with_their_source_and_go_with_it_or_with_their_row()
    {
        var everywhere = Boat with { Cables = [.. Boat.Cables.Where(c => c.Pass == 1).Select(c => c with { Pass = null })] };
        var gear = Read(Gear.None.TakeOver(Fog).TakeOver(everywhere));
        var brindle = gear.Kept.Units.Single(u => u.Name == "Brindle Six");
        Assert.Equal(8, gear.Kept.Cables.Length);
        Assert.All(gear.Kept.Cables, c => Assert.Equal(("Socket", brindle.Id), (gear.Kept.Bank(c.Input.BankId)!.Label, c.UnitId)));
        Assert.Empty(gear.Without(brindle.Id).Kept.Cables);
        Assert.Equal(3, gear.Kept.Units.Length);
        Assert.Empty(gear.Without(gear.Rows.Single(b => b.Label == "Socket").Id).Kept.Cables);
        Assert.Empty(Gear.None.TakeOver(Boat).Kept.Cables); // those of one pass alone are not how it usually is

        // A row that is a source's own goes with its source only.
        Assert.Equal(gear, gear.Without(gear.Kept.BankOf(brindle).Id));
        Assert.Equal(gear, gear.Without(new UnitId("u99")));
    }

    [Fact]
    public void A_source_is_added_as_it_is_when_new_up_to_as_many_as_a_split_has()
    {
        var gear = Gear.None;
        for (var i = 0; i < SplitRules.MostUnits; i++)
        {
            gear = gear.Add(SiskinMono.Chart).Value!;
        }

        Assert.Equal("Siskin Mono 2", gear.Kept.Units[1].Name);
        Assert.Equal($"A split has at most {SplitRules.MostUnits} sources.", gear.Add(SiskinMono.Chart).Trouble);
        Assert.True(Gear.None.IsEmpty);
        Assert.False(gear.IsEmpty);
        Assert.Contains(gear.Begin([gear.Kept.Units[0].Id], 4).Banks, b => b.Kind == BankKind.Buses);
        Assert.False(Gear.Read("{}", SplitVersions.Current, "").Ok);
        Assert.False(Gear.Read(gear.ToJson(), SplitVersions.Current + 1, "").Ok);
    }

    [Fact]
    public void It_is_set_as_it_usually_is_by_the_edits_of_a_session_but_for_what_belongs_to_one_song()
    {
        var gear = Gear.None.Add(BrindleSix.Chart).Value!;
        var box = gear.Kept.Units[0].Id;
        gear = gear.Change(new SetMode(box, new ModeId("full"))).Value!;
        Assert.Equal((new ModeId("full"), false), (gear.Kept.Units[0].ModeId, gear.Kept.Units[0].NeedsRestart)); // it usually is so, and not to be started again each time
        gear = gear.Change(new SetFader(new ElementRef(box, BrindleSix.Chart.Elements[0].Id), new(-4.5))).Value!;
        gear = gear.Change(new AddBank(BankKind.Analog, "Desk", 8)).Value!;
        gear = gear.Change(new SetPass(gear.Kept.Pass with { LengthBars = 40, StartBar = 9, Looped = true, CountInBars = 2 })).Value!;
        Assert.Equal((1, 1, false, 2), (gear.Kept.Pass.LengthBars, gear.Kept.Pass.StartBar, gear.Kept.Pass.Looped, gear.Kept.Pass.CountInBars));
        var split = gear.Begin([box], 4);
        Assert.Equal(new ModeId("full"), split.Units[0].ModeId);
        Assert.Contains(split.Units[0].Elements, e => e.FaderDb.Value == -4.5);
        Assert.Contains("Desk", split.Banks.Select(b => b.Label));
        Assert.Null(SplitRules.FirstMisfit(split));

        Assert.Equal("What you own has no tracks and nothing that is performed: these are made in a session.", gear.Change(new AddTrack(new Track(new TrackId("t1"), "Kick", Width.Mono))).Trouble);
        Assert.Equal("What you own has no tracks and nothing that is performed: these are made in a session.", gear.Change(new AddTrackGroup("Drums", Sums: true)).Trouble);
        Assert.False(gear.Change(new SetMode(new UnitId("u9"), new ModeId("full"))).Ok);
        Assert.False(gear.Change(new SetPass(gear.Kept.Pass with { CountInBars = 9 })).Ok);
    }

    [Fact]
    public void Files_are_usually_called_by_a_pattern_that_makes_sense()
    {
        Assert.Equal("{nn} {element}", Gear.None.Pattern);
        Assert.Null(Gear.None.Misfit);
        Assert.Null((Gear.None with { Pattern = "{session} {element}" }).Misfit);
        Assert.Equal("Every file would have the same name. Put {element} or {nn} into the pattern.", (Gear.None with { Pattern = "take" }).Misfit);
        Assert.StartsWith("A name can be made of {nn}", (Gear.None with { Pattern = "{track}" }).Misfit, StringComparison.Ordinal);
        Assert.Equal("{nn}", Read(Gear.None with { Pattern = "{nn}" }).TakeOver(Fog).Pattern); // a session has none of its own
    }

    private static Gear Read(Gear gear)
    {
        Assert.Null(SplitRules.FirstMisfit(gear.Kept));
        return Gear.Read(gear.ToJson(), SplitVersions.Current, gear.Pattern).Value!;
    }
}
