using System.Text.RegularExpressions;
using GateSplit.Core.Charts;
using GateSplit.Core.Demo;
using GateSplit.Core.Edits;
using GateSplit.Core.Notes;
using GateSplit.Core.Planning;
using GateSplit.Core.Quantities;
using GateSplit.Core.Setup;
using GateSplit.Core.Sound;
using GateSplit.Core.Splits;
using GateSplit.Core.Views;
using GateSplit.Tests.Shared;

namespace GateSplit.Core.Tests.Setup;

public sealed class SetupSheetTests
{
    public static TheoryData<string> Demos => [.. DemoSessions.All.Select(d => d.Name)];

    [Theory]
    [MemberData(nameof(Demos))]
    public void Who_follows_it_to_the_letter_has_the_split_of_a_demo_session(string name)
    {
        var demo = DemoSessions.All.Single(d => d.Name == name);
        var split = demo.Steps.OfType<DemoEdit>().Aggregate(demo.Split, (s, step) => step.Edit.Apply(s).Value!);
        Holds(SplitView.Of(split, Song.Of(demo.Song)));
    }

    [Theory]
    [InlineData(0)]
    [InlineData(1)]
    [InlineData(2)]
    [InlineData(3)]
    public void Who_follows_it_to_the_letter_has_any_split(int part)
    {
        for (var seed = 50 * part; seed < 50 * (part + 1); seed++)
        {
            Holds(AnySplit(seed));
        }
    }

    [Theory]
    [InlineData("Switch the box off and on again.", SettingEffect.MainOnly, false)] // the chart's own words
    [InlineData("Restart it.", SettingEffect.MainOnly, false)]
    [InlineData("Choose sixteen channels.", SettingEffect.MainOnly, true)]
    [InlineData("Set restart with the song to off.", SettingEffect.NoStart, true)] // another restart
    public void A_restart_is_told_once(string setting, SettingEffect effect, bool told)
    {
        var chart = BrindleSix.Chart with { Settings = [new("Choose the driver.", "Two channels.", SettingEffect.MainOnly), new(setting, "As before.", effect)] };
        var split = StartingSplit.Of([chart], 4, 48000);
        split = Sessions.After(split, new SetMode(split.Units[0].Id, new ModeId("full")), new MarkRestarted(split.Units[0].Id));
        var sentences = SetupSheet.Of(SplitView.Of(split, Song.Of(CheckPattern.Of([chart], Tempo.Default)))).Steps.Select(s => s.Sentence).ToList();
        Assert.Equal(told, sentences.Contains("Start it again, so that its outputs are there."));
        Assert.Single(sentences, setting);

        // One that is asked for before the mode is chosen is another.
        if (!told)
        {
            var early = split.With(split.Units[0] with { Chart = chart with { Settings = [chart.Settings[1], chart.Settings[0]] } });
            var steps = SetupSheet.Of(SplitView.Of(early, Song.Of(CheckPattern.Of([chart], Tempo.Default)))).Steps.Select(s => s.Sentence).ToList();
            Assert.Single(steps, setting);
            Assert.Contains("Choose the driver: the output mode “Full driver, sixteen channels”.", steps);
            Assert.Contains("Start it again, so that its outputs are there.", steps);
        }

        // As it is when new there is nothing to restart for.
        var fresh = StartingSplit.Of([chart], 4, 48000);
        Assert.DoesNotContain("Start it again, so that its outputs are there.", SetupSheet.Of(SplitView.Of(fresh, Song.Of(CheckPattern.Of([chart], Tempo.Default)))).Steps.Select(s => s.Sentence));
    }

    [Fact]
    public void Each_step_has_a_name_of_its_own_that_stays_when_others_change()
    {
        var twice = new SetupStep("Do it.");
        var sheet = new SetupSheet([new SetupPart("Here", [twice, twice, new SetupStep("Do that.")]), new SetupPart("There", [twice])]);
        Assert.Equal(4, sheet.Keys.Distinct().Count());
        var other = new SetupSheet([new SetupPart("Here", [new SetupStep("Something new."), twice, new SetupStep("Do that.") { Note = "Noted." }])]);
        Assert.Equal([sheet.Keys[0], sheet.Keys[2]], other.Keys.Skip(1));
    }

    [Fact]
    public void Names_that_count_are_one_action_and_names_that_only_look_like_it_are_not()
    {
        var split = Sessions.Drums.Split;
        Split Named(params string[] names) => split with { Tracks = [.. split.Tracks.Select((t, i) => t with { Name = names[i % names.Length] })] };
        string[] Of(Split named)
        {
            var view = SplitView.Of(named, Sessions.Drums.Song);
            Holds(view);
            return [.. SetupSheet.Of(view).Steps.Select(s => s.Sentence).Where(s => s.StartsWith("Name ", StringComparison.Ordinal))];
        }

        Assert.Equal(["Name tracks 1 to 9 “Pad 7” to “Pad 15”, counting upward."], Of(Named([.. Enumerable.Range(7, 9).Select(n => $"Pad {n}")])));
        Assert.StartsWith("Name single tracks: 1 “Pad 01”, 2 “Pad 02”", Assert.Single(Of(Named([.. Enumerable.Range(1, 9).Select(n => $"Pad 0{n}")]))));
        Assert.Equal(["Name tracks 1 to 9 “Pad”, all the same."], Of(Named("Pad")));
        Assert.StartsWith("Name single tracks: 1 “1”, 2 “2”", Assert.Single(Of(Named([.. Enumerable.Range(1, 9).Select(n => $"{n}")]))));
    }

    [Theory]
    [MemberData(nameof(Demos))]
    public void A_step_left_out_is_noticed(string name)
    {
        var demo = DemoSessions.All.Single(d => d.Name == name);
        var split = demo.Steps.OfType<DemoEdit>().Aggregate(demo.Split, (s, step) => step.Edit.Apply(s).Value!);
        EachIsNeeded(SplitView.Of(split, Song.Of(demo.Song)));
    }

    [Fact]
    public void A_step_of_any_split_left_out_is_noticed()
    {
        for (var seed = 0; seed < 40; seed++)
        {
            EachIsNeeded(AnySplit(seed));
        }
    }

    [Theory]
    [MemberData(nameof(Demos))]
    public void Steps_exchanged_are_noticed_wherever_the_order_counts(string name)
    {
        var demo = DemoSessions.All.Single(d => d.Name == name);
        var view = SplitView.Of(demo.Split, Song.Of(demo.Song));
        var sheet = SetupSheet.Of(view);
        var wanted = SplitJson.Write(BareRoom.Seen(view.Split));
        List<(string Title, bool AnyOrder, string Sentence)> steps = [.. sheet.Parts.SelectMany(p => p.Steps.Select(s => (p.Title, p.AnyOrder, s.Sentence)))];
        var harmless = 0;
        for (var a = 0; a < steps.Count; a++)
        {
            for (var b = a + 1; b < steps.Count; b++)
            {
                // Who exchanges two steps still stands at the same place of the gear when doing each.
                var order = steps.ToList();
                (order[a], order[b]) = (order[b], order[a]);
                var (split, stuck) = SetupRobot.Follow(order.Select(s => (s.Title, (IReadOnlyList<string>)[s.Sentence])), view.Split);
                var same = stuck is null && SplitJson.Write(split!) == wanted;
                Assert.True(same || !(steps[a].AnyOrder && steps[a].Title == steps[b].Title), $"The sheet says that these can be done in any order: {steps[a].Sentence} {steps[b].Sentence} {stuck}");
                Assert.False(same && MustFollow(steps[a].Sentence, steps[b].Sentence), $"Nobody noticed that these were exchanged: {steps[a].Sentence} {steps[b].Sentence}");
                harmless += same ? 1 : 0;
            }
        }

        // The rest does no harm, since it comes to the same; but most orders count.
        Assert.InRange(harmless, 0, steps.Count * (steps.Count - 1) / 4);
    }

    /// <summary>What stands in that order wherever people set up gear, whatever the gear is.</summary>
    private static bool MustFollow(string first, string then) => Order.Any(o => Begins(first, o.First) && Begins(then, o.Then));

    private static bool Begins(string sentence, string pattern) => Regex.IsMatch(sentence, "^" + pattern, RegexOptions.None, TimeSpan.FromSeconds(10));

    private static readonly (string First, string Then)[] Order =
    [
        ("Begin an empty song", ""), ("Make \\d", "Name "), ("Make \\d", "Set the inputs"), ("Make tracks \\d+ to \\d+ (mono|stereo)", "Set the inputs of tracks 1 to"), ("Set the inputs", "(Always m|M)onitor"), ("Arm", "Record the roll call"),
        ("Record the roll call", "Turn what comes in"), ("Turn what comes in", "Go to bar 1"), ("Set a count-in", "Disarm"), ("Go to bar 1", "Stop the sources"), ("Stop the sources", "Disarm"),
        ("Go to bar 1", "Silence"), ("Disarm", "Switch the monitoring"), ("Silence", "Listen back"), ("Listen back", "Bring the files in"), ("Load “", "Give “"), ("Switch on “", "Connect"), ("Arm", "Go to bar 1"),
    ];

    private static void EachIsNeeded(SplitView view)
    {
        var parts = Parts(SetupSheet.Of(view));
        var wanted = SplitJson.Write(BareRoom.Seen(view.Split));
        foreach (var part in parts)
        {
            for (var i = 0; i < part.Sentences.Count; i++)
            {
                var without = parts.Select(p => ReferenceEquals(p.Sentences, part.Sentences) ? (p.Title, [.. p.Sentences.Where((_, at) => at != i)]) : p);
                var (split, stuck) = SetupRobot.Follow(without, view.Split);
                Assert.True(stuck is not null || SplitJson.Write(split!) != wanted, $"Nobody noticed that this was left out: {part.Sentences[i]}");
            }
        }
    }

    private static List<(string Title, IReadOnlyList<string> Sentences)> Parts(SetupSheet sheet) => [.. sheet.Parts.Select(p => (p.Title, (IReadOnlyList<string>)[.. p.Steps.Select(s => s.Sentence)]))];

    private static void Holds(SplitView view)
    {
        var sheet = SetupSheet.Of(view);
        var (split, stuck) = SetupRobot.Follow(Parts(sheet), view.Split);
        Assert.True(stuck is null, stuck + "\n" + sheet.ToText("Sheet"));
        Assert.Equal(SplitJson.Write(BareRoom.Seen(view.Split)), SplitJson.Write(split!));
        Assert.True(sheet.Actions <= sheet.OneByOne, $"{sheet.Actions} actions, and {sheet.OneByOne} one at a time");
    }

    /// <summary>A split with nothing to mend, and then whatever a person may have set besides.</summary>
    private static SplitView AnySplit(int seed)
    {
        var planter = new FaultPlanter(seed);
        var random = new Random(seed);
        var split = planter.Clean;
        foreach (var kind in new[] { (BankKind.Loopback, "Loop", 4), (BankKind.Analog, "Socket", 8) })
        {
            split = random.Next(2) == 0 ? Applied(split, new AddBank(kind.Item1, kind.Item2, kind.Item3)) : split;
        }

        for (var i = 0; i < 25; i++)
        {
            split = Applied(split, AnyEdit(random, split));
        }

        return SplitView.Of(split, planter.Song);
    }

    private static Split Applied(Split split, Edit edit) => edit.Apply(split) is { Ok: true } done ? done.Value : split;

    private static Edit AnyEdit(Random random, Split split)
    {
        T Any<T>(IReadOnlyList<T> list) => list[random.Next(list.Count)];
        var unit = Any(split.Units);
        var element = new ElementRef(unit.Id, Any(unit.Elements).ElementId);
        var track = Any(split.Tracks);
        var bank = Any(split.Banks);
        var port = Any(unit.Chart.Ports).Number;
        var level = new Decibels(Math.Round(-30 + 40 * random.NextDouble(), 1));
        var pan = new Pan(random.Next(-100, 101) / 100.0);
        var on = random.Next(2) == 0;
        var input = new InputRef(bank.Id, 1 + random.Next(bank.Count));
        int? pass = on ? 1 + random.Next(3) : null;
        return random.Next(31) switch
        {
            0 => new SetFader(element, level),
            1 => new Several("Faders", [.. unit.Elements.Skip(random.Next(4)).Take(1 + random.Next(6)).Select(e => (Edit)new SetFader(new ElementRef(unit.Id, e.ElementId), level))]),
            2 => new SetPan(element, pan),
            3 => new SetMuted(element, on),
            4 => new SetInsert(element, on),
            5 => new SetSend(element, level, on ? pan : null),
            6 => new SetStraight(element, on ? new StraightSend(port) { LevelDb = level, BeforeEffects = random.Next(2) == 0 } : null),
            7 when unit.Chart.Groups is { IsEmpty: false } groups => new SetGroup(unit.Id, new UnitGroup(Any(groups).Name) { Port = on ? port : null, FaderDb = level, Muted = random.Next(3) == 0 }),
            8 => new SetPortLevel(unit.Id, port, level),
            9 => new RouteNotes(unit.Id, 1 + random.Next(16), random.Next(17), random.Next(-24, 25)),
            10 => new SetClock(unit.Id, Any(Enum.GetValues<ClockMode>())),
            11 => new ShapeVoice(unit.Id, Any(unit.Voices) with { TuneSemitones = random.Next(-24, 25), DecayScale = random.Next(1, 30) / 10.0, LevelDb = new(random.Next(-20, 12)) }),
            12 => new AddTrackGroup($"Group {random.Next(4)}", on),
            13 when split.TrackGroups is { IsEmpty: false } groups => new Several("Group", [.. split.Tracks.Where(_ => random.Next(2) == 0).Select(t => (Edit)new PutInGroup(t.Id, groups[0].Id))]),
            14 when split.TrackGroups is { IsEmpty: false } groups => new SetTrackGroup(Any(groups) with { LevelDb = level, Bus = on ? new InputRef(new BankId("buses"), 1 + random.Next(7)) : null }),
            15 when split.TrackGroups is { Length: > 1 } groups => new SetTrackGroup(groups[0] with { ParentId = groups[1].Id, Bus = null }),
            16 => new SetTrackLevel(track.Id, level),
            17 => new SetTrackPan(track.Id, pan),
            18 => new SetMonitor(track.Id, Any(Enum.GetValues<MonitorMode>())),
            19 => new SetLive(track.Id, on),
            20 => new SetKeepsNotes(track.Id, on),
            21 => new SetTrackBus(track.Id, on ? input : null),
            22 => new SetTrackInput(track.Id, on ? input : null),
            23 => new SwitchInputs(bank.Id, input.Channel, Math.Min(bank.Count, input.Channel + 3), on),
            24 => new SetBank(bank with { HeardDirectly = on }),
            25 => new PlugCables(unit.Id, 1 + random.Next(unit.Chart.Channels), 1 + random.Next(4), input, pass),
            26 => new SetTrackPass(track.Id, 1 + random.Next(3)),
            27 => new SetElementPass(element, pass),
            28 => new SetRide(new Ride(element, Any(Enum.GetValues<RideControl>()), [new RidePoint(1, 1), new RidePoint(1.75, 1)])),
            29 => new AddStep(new PerformedStep(element, Any(Enum.GetValues<StepKind>()), 1, 1.5, 1)),
            _ => new SetPass(split.Pass with
            {
                CountInBars = random.Next(5),
                TailSeconds = on ? random.Next(30) / 4.0 : null,
                SampleRate = Any(PassSettings.SampleRates),
                Format = Any([SampleFormat.Pcm16, SampleFormat.Pcm24, SampleFormat.Float32]),
                Looped = random.Next(2) == 0,
                SettleLoops = random.Next(4),
                TargetPeakDb = new(-random.Next(30)),
            }),
        };
    }
}
