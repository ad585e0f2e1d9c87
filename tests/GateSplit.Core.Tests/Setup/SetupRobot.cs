using System.Collections.Immutable;
using System.Globalization;
using System.Text.RegularExpressions;
using GateSplit.Core.Charts;
using GateSplit.Core.Quantities;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Tests.Setup;

/// <summary>
/// Follows a setup sheet to the letter on gear that was just unpacked. It knows the words of the steps and how gear behaves, and nothing of the split
/// that the sheet was made of. It stops where gear would: an output that is not there yet, a track that does not exist, a recording that nobody began.
/// </summary>
internal sealed class SetupRobot
{
    private readonly List<(string Pattern, Action<Match> Do)> _steps;
    private readonly List<Unit> _boxes;
    private readonly HashSet<UnitId> _silenced = [];
    private readonly Dictionary<int, (HashSet<int> Armed, List<Ride> Rides, List<PerformedStep> Steps)> _recorded = [];
    private readonly List<Ride> _rides = [];
    private readonly List<PerformedStep> _performed = [];
    private readonly HashSet<string> _done = [];
    private Split _split;
    private string _part = "";

    private static readonly TimeSpan Patience = TimeSpan.FromSeconds(10);

    static SetupRobot() => Regex.CacheSize = 200; // more than there are sentences, so that each is read once

    private SetupRobot(Split wanted)
    {
        // The room has the gear of the split, as it was when it was new.
        _boxes = [.. wanted.Units.Select(BareRoom.Unit)];
        _split = new Split([], BareRoom.Banks(wanted), [], new PassSettings(1, 0, 0, 44100, Core.Sound.SampleFormat.Pcm16) { TargetPeakDb = default });
        _steps = Steps();
    }

    /// <summary>Follows a sheet to its end.</summary>
    /// <param name="parts">Titles and sentences: all that it gets to see.</param>
    /// <param name="wanted">Whose gear stands in the room.</param>
    /// <returns>What stands there when everything was done, as it can be seen; or where it stuck.</returns>
    public static (Split? Split, string? Stuck) Follow(IEnumerable<(string Title, IReadOnlyList<string> Sentences)> parts, Split wanted)
    {
        var robot = new SetupRobot(wanted);
        try
        {
            foreach (var (title, sentences) in parts)
            {
                robot._part = title;
                foreach (var sentence in sentences)
                {
                    robot.Do(sentence);
                }
            }

            return (BareRoom.Seen(robot.End()), null);
        }
        catch (StuckException stuck)
        {
            return (null, stuck.Message);
        }
    }

    private int Pass => _part.StartsWith("Pass ", StringComparison.Ordinal) ? int.Parse(_part[5..], CultureInfo.InvariantCulture) : 1;

    private Unit It => _split.Units.FirstOrDefault(u => u.Name == _part) ?? _split.Units.LastOrDefault(u => u.Chart.Name == _part || _boxes.All(b => b.Id != u.Id)) ?? throw new StuckException($"What is “it” at {_part}?");

    private void Do(string sentence)
    {
        foreach (var (pattern, act) in _steps)
        {
            if (Found(sentence, $"^{pattern}$") is { Success: true } match)
            {
                act(match);
                return;
            }
        }

        // What the chart itself asks for is said in its own words.
        var unit = It;
        var setting = Enumerable.Range(0, unit.Chart.Settings.Length).Cast<int?>().FirstOrDefault(i => unit.Chart.Settings[i!.Value].What == sentence && unit.Simulated.NotMade.Contains(i.Value));
        Make(unit, setting ?? throw new StuckException($"Nobody understands: {sentence}"));
        if (sentence.Contains("off and on", StringComparison.Ordinal))
        {
            Set(It with { ModeInForceId = null, UnloadedPorts = [] });
        }
    }

    /// <summary>Nothing may be left as it was while recording.</summary>
    private Split End()
    {
        Must(_done.Contains("tempo") && _done.Contains("listened") && _done.Contains("brought") && !_done.Contains("rolling"), "something is not finished");
        Must(_armed.Count == 0 && _plugged.Count == 0, "something is still armed or plugged for one pass");
        Must(_split.Tracks.IsEmpty || _done.Contains("unmonitored"), "something is still monitored");
        Must(_split.Units.All(u => _silenced.Contains(u.Id) && u.Simulated.NotMade.IsEmpty && !u.NeedsRestart), "a source still plays, or was not set");
        Must(_split.Units.All(u => !_modes.TryGetValue(u.Id, out var mode) || mode == u.Chart.Modes[0].Id), "a source is still in its other mode");
        Must(_recorded.Count == 0 || _recorded.Values.Select(r => string.Join(';', r.Rides.Select(x => $"{x.Element}{x.Control}")) + string.Join(';', r.Steps)).Distinct().Count() == 1, "passes were played in different ways");
        return _split with
        {
            Units = [.. _split.Units.Select(u => u with { ModeId = _chosen.GetValueOrDefault(u.Id, u.ModeId) })],
            Tracks = [.. _split.Tracks.Select((t, i) => _recorded.FirstOrDefault(r => r.Value.Armed.Contains(i)) is { Value.Armed: not null } in1 ? t with { Armed = true, Pass = in1.Key } : t with { Armed = false })],
            Rides = [.. _recorded.Values.Select(r => r.Rides).FirstOrDefault() ?? []],
            Steps = [.. _recorded.Values.Select(r => r.Steps).FirstOrDefault() ?? []],
        };
    }

    private readonly HashSet<int> _armed = [];
    private readonly List<Cable> _plugged = [];
    private readonly Dictionary<UnitId, ModeId> _chosen = [];
    private readonly Dictionary<UnitId, ModeId> _modes = [];

    private List<(string, Action<Match>)> Steps()
    {
        const string Name = "(“[^”]*”(?: no\\. \\d+)?)";
        const string Quoted = "“([^”]*)”";
        const string Span = $"{Name}(?: up to {Name})?";
        const string Rows = "tracks? (\\d+)(?: to (\\d+))?";
        const string Level = "(-?[\\d.]+|-∞|-Infinity) dB";
        return
        [
            // The song.
            ("Begin an empty song at ([\\d.]+) kHz, (.*)\\.", m =>
            {
                Must(_split.Units.IsEmpty && _split.Tracks.IsEmpty && _done.Add("song"), "there is a song already");
                _split = _split with { Pass = _split.Pass with { SampleRate = (int)Math.Round(Number(m, 1) * 1000), Format = BareRoom.Format(m.Groups[2].Value) } };
            }),
            ("Take tempo and metre from the song's MIDI file\\.", _ => Tempo("")),
            ("Set the metre to (\\d+/\\d+), and take the tempo to the microsecond from the song's MIDI file\\.", m =>
            {
                Tempo(m.Groups[1].Value);
                _split = _split with { Pass = _split.Pass with { TempoToMicrosecond = true } };
            }),
            ("Set the tempo to ([\\d.]+) quarters a minute and the metre to (\\d+/\\d+)\\.", m => Tempo($"{m.Groups[1].Value} {m.Groups[2].Value}")),

            // A source.
            ($"(?:Load|Switch on|Open|Take the recorder's own groups as) {Quoted}(?: in the recorder|, with nothing changed on it| on the tablet)?\\.", m =>
            {
                Must(_done.Contains("song"), "there is no song yet");
                var box = _boxes.FirstOrDefault(b => b.Chart.Name == m.Groups[1].Value) ?? throw new StuckException($"There is no {m.Groups[1].Value} any more.");
                _boxes.Remove(box);
                _split = _split with { Units = _split.Units.Add(box with { Name = box.Chart.Name }) };
            }),
            ($"Call it {Quoted}\\.", m => Set(_split.Units[^1] with { Name = m.Groups[1].Value })),
            ("Declare its outputs: (.*)\\.", m =>
            {
                var unit = It;
                Must(unit.Chart.DeclaresPorts && unit.Chart.Ports.All(p => p.IsMain), "its outputs cannot be declared now");
                var channel = 1;
                var ports = ImmutableArray.CreateBuilder<ChartPort>();
                foreach (Match port in AllFound(m.Groups[1].Value, "(\\d+) “([^”]*)” (mono|stereo)(?:, |$)"))
                {
                    var width = port.Groups[3].Value == "mono" ? Width.Mono : Width.Stereo;
                    var number = int.Parse(port.Groups[1].Value, CultureInfo.InvariantCulture);
                    ports.Add((unit.Chart.Port(number) ?? new ChartPort(number, "", 0, width, Tap.AfterFader)) with { Name = port.Groups[2].Value, FirstChannel = channel, Width = width });
                    channel += (int)width;
                }

                Set(unit with { Chart = unit.Chart with { Ports = ports.ToImmutable() }, UnloadedPorts = [.. ports.Where(p => !p.IsMain).Select(p => p.Number)] });
            }),
            ($"(.*): the output mode {Quoted}\\.", m =>
            {
                Choose(It, m.Groups[2].Value);
                var unit = It;
                Make(unit, Enumerable.Range(0, unit.Chart.Settings.Length).Cast<int?>().FirstOrDefault(i => unit.Chart.Settings[i!.Value].What == m.Groups[1].Value + ".") ?? throw new StuckException("no such setting"));
            }),
            ($"Choose its output mode {Quoted}\\.", m => Choose(It, m.Groups[1].Value)),
            ("(?:Load it once more|Start it again), so that its outputs are there\\.", _ =>
            {
                Must(It.NeedsRestart, "nothing asks for a restart");
                Set(It with { ModeInForceId = null, UnloadedPorts = [] });
            }),
            ($"(?:Connect it by USB: its|Join its) channels 1 to (\\d+)(?: arrive on| to) {Quoted} 1 to (\\d+)(?:, one by one)?\\.", m =>
            {
                var bank = Row(m.Groups[2].Value);
                Must(bank.UnitId == It.Id && !bank.Connected && Whole(m, 1) == bank.Count && Whole(m, 3) == bank.Count && It.Chart.Channels == bank.Count, "the two sides do not fit");
                Set(bank with { Connected = true });
            }),
            ("Let it lead with its clock, and let the recorder follow\\.", _ => Clock(ClockMode.Leads)),
            ("Let it follow the recorder's clock, start and stop, and let the recorder send them\\.", _ => Clock(ClockMode.Follows)),
            ("Let it hear nothing of MIDI channel (\\d+)\\.", m => Hear(new NoteRoute(Whole(m, 1), NoteRoute.Nowhere))),
            ("Let it hear MIDI channel (\\d+) as channel (\\d+)(?:, (\\d+) keys (up|down))?\\.", m => Hear(new NoteRoute(Whole(m, 1), Whole(m, 2), m.Groups[3].Success ? Whole(m, 3) * (m.Groups[4].Value == "up" ? 1 : -1) : 0))),

            // Its groups.
            ($"Send the group {Quoted} to output (\\d+)\\.", m => Group(m, g => g with { Port = Out(It, Whole(m, 2)) })),
            ($"Leave the group {Quoted} in the main mix\\.", m => Group(m, g => g with { Port = null })),
            ($"Set the fader of the group {Quoted} to {Level}\\.", m => Group(m, g => g with { FaderDb = new(Number(m, 2)) })),
            ($"Mute the group {Quoted}\\.", m => Group(m, g => g with { Muted = true })),
            ($"Feed the group {Quoted} straight to output (\\d+) too, at {Level}, (before|behind) effects\\.", m => Group(m, g => g with { Straight = Straight(m, 2) })),

            // Its elements.
            ($"Give {Span} outputs (\\d+) to (\\d+), counting upward\\.", m =>
            {
                var (first, last) = Of(m);
                Must(Whole(m, 4) - Whole(m, 3) == last - first, "the outputs do not come out even");
                Each(first, last, i => Assign(i, Whole(m, 3) + i - first));
            }),
            ($"Give {Span} (?:output (\\d+)|no output of its own)(?:, all the same)?\\.", m => Each(Of(m), i => Assign(i, m.Groups[3].Success ? Whole(m, 3) : null))),
            ("Give single outputs: (.*)\\.", m => List(m, $"{Name} (?:output (\\d+)|no output of its own)", x => Assign(Element(x.Groups[1].Value), x.Groups[2].Success ? Whole(x, 2) : null))),
            ($"(Keep in|Take out of) the main mix {Span}\\.", m => Each(Of(m, 2), i => Change(i, e => e with { InMain = m.Groups[1].Value == "Keep in" }))),
            ($"(Let follow their groups|Send past their groups) {Span}\\.", m => Each(Of(m, 2), i => Change(i, e => e with { FollowsGroup = m.Groups[1].Value[0] == 'L' }))),
            ($"(Mute|Unmute) {Span}\\.", m => Each(Of(m, 2), i => Change(i, e => e with { Muted = m.Groups[1].Value == "Mute" }))),
            ($"Switch (off|on) the effects of {Span}\\.", m => Each(Of(m, 2), i => Change(i, e => e with { InsertOff = m.Groups[1].Value == "off" }))),
            ($"Set the (fader|send|bleed)s? of {Span} to {Level}\\.", m => Each(Of(m, 2), i => Turn(i, m.Groups[1].Value, Number(m, 4)))),
            ($"Set single (fader|send|bleed)s: (.*)\\.", m => List(m, $"{Name} {Level}", x => Turn(Element(x.Groups[1].Value), m.Groups[1].Value, Number(x, 2)), 2)),
            ($"Set the pans? of {Span} to (.*)\\.", m => Each(Of(m), i => Change(i, e => e with { Pan = Place(m.Groups[3].Value) }))),
            ("Set single pans: (.*)\\.", m => List(m, $"{Name} (hard left|hard right|the centre|[\\d.]+ % (?:left|right))", x => Change(Element(x.Groups[1].Value), e => e with { Pan = Place(x.Groups[2].Value) }))),
            ($"Set the pan of the send of {Name} to (.*)\\.", m => Change(Element(m.Groups[1].Value), e => e with { SendPan = Place(m.Groups[2].Value) })),
            ($"Feed {Name} straight to output (\\d+) too, at {Level}, (before|behind) its effects\\.", m => Change(Element(m.Groups[1].Value), e => e with { Straight = Straight(m, 2) })),
            ($"Feed {Name} straight to no output\\.", m => Change(Element(m.Groups[1].Value), e => e with { Straight = null })),
            ($"Turn outputs? (\\d+)(?: to (\\d+))? to {Level}\\.", m => Each(Whole(m, 1), m.Groups[2].Success ? Whole(m, 2) : Whole(m, 1), port => TurnPort(port, Number(m, 3)))),
            ("Turn single outputs: (.*)\\.", m => List(m, $"(\\d+) to {Level}", x => TurnPort(Whole(x, 1), Number(x, 2)))),
            ($"Tune the voice {Name} by (-?[\\d.]+) semitones\\.", m => Voice(m, v => v with { TuneSemitones = Number(m, 2) })),
            ($"Let the voice {Name} decay ([\\d.]+) times as long\\.", m => Voice(m, v => v with { DecayScale = Number(m, 2) })),
            ($"Set the level of the voice {Name} to {Level}\\.", m => Voice(m, v => v with { LevelDb = new(Number(m, 2)) })),

            // Cables and inputs.
            ($"Plug channels? (\\d+)(?: to (\\d+))? of {Quoted} into {Quoted} (\\d+)(?: to (\\d+))?\\.", m =>
            {
                var unit = Named(m.Groups[3].Value);
                var bank = Row(m.Groups[4].Value);
                var count = m.Groups[2].Success ? Whole(m, 2) - Whole(m, 1) + 1 : 1;
                Must(bank.TakesCables && Whole(m, 1) + count - 1 <= unit.Chart.Channels && Whole(m, 5) + count - 1 <= bank.Count && (count == 1 || Whole(m, 6) == Whole(m, 5) + count - 1), "a plug has no socket");
                int? pass = _part == "Cables and inputs" ? null : Pass;
                Cable[] cables = [.. Enumerable.Range(0, count).Select(n => new Cable(unit.Id, Whole(m, 1) + n, new InputRef(bank.Id, Whole(m, 5) + n), pass))];
                Must(!cables.Any(_split.Cables.Contains), "it is plugged already");
                _split = _split with { Cables = _split.Cables.AddRange(cables) };
                _plugged.AddRange(pass is null ? [] : cables);
            }),
            ($"Switch (on|off) inputs? (\\d+)(?: to (\\d+))? of {Quoted} in the recorder\\.", m => Each(Whole(m, 2), m.Groups[3].Success ? Whole(m, 3) : Whole(m, 2), i => Switch(m.Groups[4].Value, i, m.Groups[1].Value == "on"))),
            ($"On {Quoted}, one by one: (.*)\\.", m => List(m, "switch (on|off) (\\d+)", x => Switch(m.Groups[1].Value, Whole(x, 2), x.Groups[1].Value == "on"), 2)),
            ($"(Let|Do not let) {Quoted} be heard directly at the interface\\.", m =>
            {
                Must(Row(m.Groups[2].Value).HeardDirectly == (m.Groups[1].Value != "Let"), "it is so already");
                Set(Row(m.Groups[2].Value) with { HeardDirectly = m.Groups[1].Value == "Let" });
            }),
            ($"Lead spare outputs of the recorder back to {Quoted} 1 to (\\d+), and nothing else\\.", m =>
            {
                Must(Row(m.Groups[1].Value) is { Kind: BankKind.Loopback, Connected: false } bank && bank.Count == Whole(m, 2), "nothing can be led there");
                Set(Row(m.Groups[1].Value) with { Connected = true });
            }),

            // Tracks.
            ("Make (\\d+) (mono|stereo) tracks?\\.", m =>
            {
                Must(_done.Contains("song") && _split.Tracks.IsEmpty, "there are tracks already, or no song");
                var width = m.Groups[2].Value == "mono" ? Width.Mono : Width.Stereo;
                _split = _split with { Tracks = [.. Enumerable.Range(1, Whole(m, 1)).Select(n => new Track(new TrackId(n), "", width) { Armed = false, Monitor = MonitorMode.Never })] };
            }),
            ($"Make {Rows} (mono|stereo)\\.", m => Tracks(m, (t, _) => Widened(t, m.Groups[3].Value))),
            ("Make single tracks: (.*)\\.", m => List(m, $"{Rows} (mono|stereo)", x => Tracks(x, (t, _) => Widened(t, x.Groups[3].Value)))),
            ($"Name {Rows} {Quoted} to {Quoted}, counting upward\\.", m =>
            {
                var (stem, number) = (m.Groups[3].Value.TrimEnd([.. "0123456789"]), int.Parse(Found(m.Groups[3].Value, "\\d+$").Value, CultureInfo.InvariantCulture));
                Must(m.Groups[4].Value == $"{stem}{number + Whole(m, 2) - Whole(m, 1)}", "the names do not come out even");
                Tracks(m, (t, i) => t with { Name = $"{stem}{number + i}" });
            }),
            ($"Name {Rows} {Quoted}(?:, all the same)?\\.", m => Tracks(m, (t, _) => t with { Name = m.Groups[3].Value })),
            ("Name single tracks: (.*)\\.", m => List(m, "(\\d+) “([^”]*)”", x => Track(Whole(x, 1), t => t with { Name = x.Groups[2].Value }))),
            ($"Set the (input|output)s? of {Rows} from {Quoted} (\\d+)(?:-\\d+)? on, counting upward\\.", m =>
            {
                var (bank, channel) = (Row(m.Groups[4].Value), Whole(m, 5));
                for (var i = Whole(m, 2); i <= (m.Groups[3].Success ? Whole(m, 3) : Whole(m, 2)); i++)
                {
                    Route(i, m.Groups[1].Value, new InputRef(bank.Id, channel));
                    channel += m.Groups[1].Value == "output" ? 1 : (int)_split.Tracks[i - 1].Width;
                }
            }),
            ($"Set the (input|output)s? of {Rows} to (?:{Quoted} (\\d+)(?:-\\d+)?|(?:no input|the main output))(?:, all the same)?\\.", m =>
                Each(Whole(m, 2), m.Groups[3].Success ? Whole(m, 3) : Whole(m, 2), i => Route(i, m.Groups[1].Value, m.Groups[4].Success ? new InputRef(Row(m.Groups[4].Value).Id, Whole(m, 5)) : null))),
            ("Set single (input|output)s: (.*)\\.", m => List(m, $"track (\\d+) (?:{Quoted} (\\d+)(-\\d+)?|(?:no input|the main output))", x =>
            {
                Must(!x.Groups[2].Success || (_split.Tracks.Length >= Whole(x, 1) && _split.Tracks[Whole(x, 1) - 1].Width == (x.Groups[4].Success ? Width.Stereo : Width.Mono)), "the track has another width");
                Route(Whole(x, 1), m.Groups[1].Value, x.Groups[2].Success ? new InputRef(Row(x.Groups[2].Value).Id, Whole(x, 3)) : null);
            }, 2)),

            // Groups of tracks.
            ($"Make a group {Name} that (sums its tracks|only sets levels)\\.", m =>
                _split = _split with { TrackGroups = _split.TrackGroups.Add(new TrackGroup(new TrackGroupId($"g{_split.TrackGroups.Length + 1}"), Bare(m.Groups[1].Value), m.Groups[2].Value[0] == 's')) }),
            ($"Put tracks ([\\d, -]+) into the group {Name}\\.", m =>
            {
                var group = TrackGroup(m.Groups[2].Value);
                foreach (var i in m.Groups[1].Value.Split(", ").SelectMany(Range))
                {
                    Track(i, t => group.Sums ? t with { GroupId = group.Id } : t with { LevelGroups = t.LevelGroups.Add(group.Id) });
                }
            }),
            ($"Set the level of the group {Name} to {Level}\\.", m => TrackGroup(m.Groups[1].Value, g => g with { LevelDb = new(Number(m, 2)) })),
            ($"Send the group {Name} to {Quoted} (\\d+)-\\d+\\.", m => TrackGroup(m.Groups[1].Value, g => g with { Bus = new InputRef(Row(m.Groups[2].Value).Id, Whole(m, 3)) })),
            ($"Let the group {Name} feed the group {Name}\\.", m => TrackGroup(m.Groups[1].Value, g => g with { ParentId = TrackGroup(m.Groups[2].Value).Id })),

            // How they are heard.
            .. HeardWords.Select(w => ($"{w.Words.Replace("@", Rows, StringComparison.Ordinal)}\\.", (Action<Match>)(m => Tracks(m, (t, _) => w.Change(t, m.Groups[3].Value))))),
            ("One by one: (.*)\\.", m =>
            {
                foreach (var part in m.Groups[1].Value.Split(", "))
                {
                    One(part, Name, Rows);
                }
            }),

            // A pass.
            ($"On {Quoted}, let play in this pass alone: (.*)\\.", m =>
            {
                List(m, Name, x => Change(Named(m.Groups[1].Value), Element(x.Groups[1].Value, Named(m.Groups[1].Value)), e => e.Pass is null ? e with { Pass = Pass } : throw new StuckException("it plays in another pass alone")), 2);
            }),
            ("Listen to tracks ([\\d, -]+) in this pass; they are not recorded\\.", m =>
            {
                foreach (var i in m.Groups[1].Value.Split(", ").SelectMany(Range))
                {
                    Track(i, t => t with { Pass = Pass });
                }
            }),
            ($"(Arm|Disarm) {Rows}\\.", m => Each(Whole(m, 2), m.Groups[3].Success ? Whole(m, 3) : Whole(m, 2), i => Arm(i, m.Groups[1].Value == "Arm"))),
            ("Record the roll call, and read it at the station Line check\\.", _ => Must(_armed.Count > 0 && _done.Add($"called {Pass}"), "nothing is armed for the roll call")),
            ("Turn what comes in so that the loudest peaks stand at (-?[\\d.]+) dBFS\\.", m =>
            {
                Must(_done.Contains($"called {Pass}") && _done.Add($"levels {Pass}"), "nobody knows what comes in");
                _split = _split with { Pass = _split.Pass with { TargetPeakDb = new(Number(m, 1)) } };
            }),
            ("Let the sources go round and round from bar 1 to the end of bar (\\d+)\\.", m =>
            {
                _split = _split with { Pass = _split.Pass with { Looped = true } };
                Must(_done.Add($"loop of {Whole(m, 1)}"), "it goes round already");
            }),
            ("Let them go round (\\d+) times? before recording\\.", m => _split = _split with { Pass = _split.Pass with { SettleLoops = Whole(m, 1) } }),
            ("Start the sources only in bar (\\d+)\\.", m => _split = _split with { Pass = _split.Pass with { StartBar = Whole(m, 1) } }),
            ("Set a count-in of (\\d+) bars?\\.", m => _split = _split with { Pass = _split.Pass with { CountInBars = Whole(m, 1) } }),
            ($"While it records, ride the (.*) of {Name} of {Quoted}: (.*)\\.", m =>
            {
                var control = Enum.GetValues<RideControl>().First(c => new Ride(default, c, []).Word == m.Groups[1].Value);
                _rides.Add(new Ride(Ref(m, 2), control, [.. AllFound(m.Groups[4].Value, "bar ([\\d.]+) at (-?[\\d.]+)").Select(p => new RidePoint(Number(p, 1), Number(p, 2)))]));
            }),
            ($"While it records, play on {Name} of {Quoted}: (roll|repeat|variation), (?:as in bar )?(\\d+).*, bar ([\\d.]+) to ([\\d.]+)\\.", m =>
                _performed.Add(new PerformedStep(Ref(m, 1), Enum.Parse<StepKind>(m.Groups[3].Value, ignoreCase: true), Number(m, 5), Number(m, 6), Whole(m, 4)))),
            ("Go to bar 1 and record (\\d+) bars?\\.", m =>
            {
                Must(_done.Contains($"levels {Pass}") && _armed.Count > 0 && !_recorded.ContainsKey(Pass) && _done.Add("rolling"), "it is not ready to record");
                Must(!_armed.Any(a => _recorded.Values.Any(r => r.Armed.Contains(a))) && _plugged.All(c => c.Pass == Pass), "something of another pass is still armed or plugged");
                Must(!_split.Pass.Looped || _done.Contains($"loop of {Whole(m, 1)}"), "the loop has another length");
                _split = _split with { Pass = _split.Pass with { LengthBars = Whole(m, 1) } };
                _recorded[Pass] = ([.. _armed], [.. _rides], [.. _performed]);
                _rides.Clear();
                _performed.Clear();
            }),
            ("Stop the sources first, and the recorder (?:([\\d.]+) seconds later|when the last sound has gone)\\.", m =>
            {
                Must(_done.Remove("rolling"), "nothing records");
                _split = _split with { Pass = _split.Pass with { TailSeconds = m.Groups[1].Success ? Number(m, 1) : null } };
            }),
            ("Disarm all tracks\\.", _ =>
            {
                Must(!_done.Contains("rolling") && _armed.Count > 0, "it still records, or nothing is armed");
                _armed.Clear();
            }),
            ("Pull what was plugged for this pass\\.", _ =>
            {
                Must(!_done.Contains("rolling") && _plugged.Count > 0, "it still records, or nothing is plugged");
                _plugged.Clear();
            }),

            // Afterwards.
            ("Switch the monitoring of all tracks off\\.", _ => Must(_armed.Count == 0 && _split.Tracks.Length > 0 && _done.Add("unmonitored"), "something is still armed")),
            ($"Silence {Quoted}\\.", m => Must(_armed.Count == 0 && _silenced.Add(Named(m.Groups[1].Value).Id), "it is still needed")),
            ("Listen back to every track, and look at where it begins\\.", _ => Must(_silenced.Count == _split.Units.Length && (_split.Tracks.IsEmpty || _done.Contains("unmonitored")) && _done.Add("listened"), "the sources still play")),
            ("Bring the files in at the station Print: they are cut, named and proved there\\.", _ => Must(_done.Contains("listened") && _done.Add("brought"), "nobody has listened to them")),
            ($"Put {Quoted} back into the output mode {Quoted}\\.", m =>
            {
                var unit = Named(m.Groups[1].Value);
                Must(_done.Contains("brought") && _modes.ContainsKey(unit.Id), "it is still needed, or never left it");
                _modes[unit.Id] = unit.Chart.Modes.First(x => x.Name == m.Groups[2].Value).Id;
            }),
        ];
    }

    private void One(string part, string name, string rows)
    {
        if (Found(part, $"^(arm|disarm) {rows}$") is { Success: true } arm)
        {
            Arm(Whole(arm, 2), arm.Groups[1].Value == "arm");
        }
        else if (HeardWords.Select(w => (w.Change, Match: Found(char.ToUpperInvariant(part[0]) + part[1..], $"^{w.Words.Replace("@", rows, StringComparison.Ordinal)}$"))).FirstOrDefault(w => w.Match.Success) is { Match: { } heard } how)
        {
            Tracks(heard, (t, _) => how.Change(t, heard.Groups[3].Value));
        }
        else if (Found(part, $"^(keep in the main mix|take out of the main mix|let follow their groups|send past their groups|mute|unmute|switch off the effects of|switch on the effects of) {name}$") is { Success: true } element)
        {
            Change(Element(element.Groups[2].Value), e => element.Groups[1].Value switch
            {
                "keep in the main mix" => e with { InMain = true },
                "take out of the main mix" => e with { InMain = false },
                "let follow their groups" => e with { FollowsGroup = true },
                "send past their groups" => e with { FollowsGroup = false },
                "mute" => e with { Muted = true },
                "unmute" => e with { Muted = false },
                "switch off the effects of" => e with { InsertOff = true },
                _ => e with { InsertOff = false },
            });
        }
        else
        {
            throw new StuckException($"Nobody understands: {part}");
        }
    }

    private static void Must(bool holds, string otherwise)
    {
        if (!holds)
        {
            throw new StuckException(otherwise);
        }
    }

    private static double Number(Match match, int group) => double.Parse(match.Groups[group].Value, CultureInfo.InvariantCulture);

    private static int Whole(Match match, int group) => int.Parse(match.Groups[group].Value, CultureInfo.InvariantCulture);

    private static IEnumerable<int> Range(string run) => run.Split('-') is [var first, var last]
        ? Enumerable.Range(int.Parse(first, CultureInfo.InvariantCulture), int.Parse(last, CultureInfo.InvariantCulture) - int.Parse(first, CultureInfo.InvariantCulture) + 1)
        : [int.Parse(run, CultureInfo.InvariantCulture)];

    private static void Each(int first, int last, Action<int> act)
    {
        Must(first <= last, "it ends before it begins");
        for (var i = first; i <= last; i++)
        {
            act(i);
        }
    }

    private static void Each((int First, int Last) span, Action<int> act) => Each(span.First, span.Last, act);

    private static void List(Match match, string pattern, Action<Match> act, int group = 1)
    {
        var list = match.Groups[group].Value;
        var at = 0;
        foreach (Match part in AllFound(list, $"\\G{pattern}(?:, |$)"))
        {
            act(part);
            at = part.Index + part.Length;
        }

        Must(at == list.Length, $"nobody understands: {list[at..]}");
    }

    private static Match Found(string text, string pattern) => Regex.Match(text, pattern, RegexOptions.None, Patience);

    private static MatchCollection AllFound(string text, string pattern) => Regex.Matches(text, pattern, RegexOptions.None, Patience);

    private static string Bare(string told) => Found(told, "“(.*)”").Groups[1].Value;

    private static Pan Place(string words) => words switch
    {
        "hard left" => Pan.HardLeft,
        "hard right" => Pan.HardRight,
        "the centre" => Pan.Centre,
        _ => Found(words, "^([\\d.]+) % (left|right)$") is { Success: true } m ? new(Number(m, 1) / 100 * (m.Groups[2].Value == "left" ? -1 : 1)) : throw new StuckException($"Where is {words}?"),
    };

    private void Tempo(string words)
    {
        Must(_done.Contains("song") && _split.Tracks.IsEmpty && _done.Add("tempo"), "there is no song, or it has tracks already");
        TempoWords = words;
    }

    /// <summary>The tempo and the metre that it was told; empty for those of the file.</summary>
    public string TempoWords { get; private set; } = "";

    private Unit Named(string name) => _split.Units.FirstOrDefault(u => u.Name == name) ?? throw new StuckException($"There is no {name} yet.");

    private Bank Row(string label) => _split.Banks.FirstOrDefault(b => b.Label == label) ?? throw new StuckException($"There is no row {label}.");

    private void Set(Unit unit) => _split = _split.With(unit);

    private void Set(Bank bank) => _split = _split.With(bank);

    private void Make(Unit unit, int setting)
    {
        Must(unit.Simulated.NotMade.Contains(setting), "it is set already");
        Set(unit with { Simulated = unit.Simulated with { NotMade = unit.Simulated.NotMade.Remove(setting) } });
    }

    private void Choose(Unit unit, string name)
    {
        var mode = unit.Chart.Modes.FirstOrDefault(m => m.Name == name) ?? throw new StuckException($"It has no mode {name}.");
        Must(unit.ModeId != mode.Id, "it is in this mode already");
        Set(unit with { ModeId = mode.Id, ModeInForceId = mode.NeedsRestart ? unit.ModeInForce.Id : null });
        (_chosen[unit.Id], _modes[unit.Id]) = (mode.Id, mode.Id);
    }

    private void Clock(ClockMode clock)
    {
        Must(It.Chart.Clock.Any, "it has no clock");
        Set(It with { Clock = clock });
    }

    private void Hear(NoteRoute route)
    {
        Must(It.NoteRoutes.All(r => r.From != route.From), "it hears that channel otherwise already");
        Set(It with { NoteRoutes = It.NoteRoutes.Add(route) });
    }

    private static int Out(Unit unit, int port)
    {
        Must(unit.Exposes(port), $"output {port} is not there");
        return port;
    }

    private StraightSend Straight(Match m, int group) => new(Out(It, Whole(m, group))) { LevelDb = new(Number(m, group + 1)), BeforeEffects = m.Groups[group + 2].Value == "before" };

    private void Group(Match m, Func<UnitGroup, UnitGroup> change)
    {
        Must(It.Chart.Group(m.Groups[1].Value) is not null, "there is no such group");
        var group = change(It.Group(m.Groups[1].Value));
        Set(It with { Groups = [.. It.Groups.Where(g => g.Name != group.Name), group] });
    }

    private int Element(string told) => Element(told, It);

    private static int Element(string told, Unit unit) => Of([.. unit.Chart.Elements.Select(e => e.Name)], told);

    private static int Of(string[] names, string told)
    {
        var name = Bare(told);
        var at = Found(told, " no\\. (\\d+)$") is { Success: true } m ? Whole(m, 1) - 1 : Array.IndexOf(names, name);
        Must(at >= 0 && at < names.Length && names[at] == name, $"there is no {told}");
        return at;
    }

    private ElementRef Ref(Match m, int group)
    {
        var unit = Named(m.Groups[group + 1].Value);
        return new ElementRef(unit.Id, unit.Elements[Element(m.Groups[group].Value, unit)].ElementId);
    }

    private (int First, int Last) Of(Match m, int group = 1) => (Element(m.Groups[group].Value), Element(m.Groups[m.Groups[group + 1].Success ? group + 1 : group].Value));

    private void Change(int element, Func<UnitElement, UnitElement> change) => Change(It, element, change);

    private void Change(Unit unit, int element, Func<UnitElement, UnitElement> change) => Set(unit with { Elements = unit.Elements.SetItem(element, change(unit.Elements[element])) });

    /// <summary>What gets an output leaves the main mix by itself on gear that does so; what loses it comes back.</summary>
    private void Assign(int element, int? port)
    {
        var chart = It.Chart.Element(It.Elements[element].ElementId)!;
        Must(port is null || (It.Exposes(port.Value) && (chart.Ports.IsEmpty || chart.Ports.Contains(port.Value))), $"output {port} is not there for {chart.Name}");
        Change(element, e => e with { Port = port, InMain = port is null || (e.InMain && !It.Chart.AssignedLeavesMain) });
    }

    private void Turn(int element, string what, double value) => Change(element, e => what switch { "fader" => e with { FaderDb = new(value) }, "send" => e with { SendDb = new(value) }, _ => e with { BleedDb = new(value) } });

    private void TurnPort(int port, double value) => Set(It with { PortLevels = [.. It.PortLevels.Where(p => p.Port != port), new PortLevel(Out(It, port), new(value))] });

    private void Voice(Match m, Func<UnitVoice, UnitVoice> change)
    {
        var unit = It;
        var at = Of([.. unit.Chart.Voices.Select(v => v.Name)], m.Groups[1].Value);
        Set(unit with { Voices = unit.Voices.SetItem(at, change(unit.Voices[at])) });
    }

    private void Switch(string label, int input, bool on)
    {
        var bank = Row(label);
        Must(input <= bank.Count, "there is no such input");
        Set(bank with { Off = on ? bank.Off.Remove(input) : [.. bank.Off.Remove(input), input] });
    }

    private void Track(int number, Func<Track, Track> change)
    {
        Must(number >= 1 && number <= _split.Tracks.Length, $"there is no track {number}");
        _split = _split with { Tracks = _split.Tracks.SetItem(number - 1, change(_split.Tracks[number - 1])) };
    }

    private void Tracks(Match m, Func<Track, int, Track> change, int group = 1)
    {
        var first = Whole(m, group);
        Each(first, m.Groups[group + 1].Success ? Whole(m, group + 1) : first, i => Track(i, t => change(t, i - first)));
    }

    private static Track Widened(Track track, string width)
    {
        Must(track.Input is null && track.Bus is null, "it has an input already");
        return track with { Width = width == "mono" ? Width.Mono : Width.Stereo };
    }

    private void Route(int track, string what, InputRef? to) => Track(track, t =>
    {
        Must(what == "output" || t.Monitor == MonitorMode.Never, "it howls: the track is monitored while its input is chosen");
        Must(to is null || (_split.Fits(to, t.Width) && Row(_split.Bank(to.BankId)!.Label).Trouble(to.Channel, t.Width) is null), "there is no such input");
        return what == "input" ? t with { Input = to } : t with { Bus = to };
    });

    private static readonly (string Words, Func<Track, string, Track> Change)[] HeardWords =
    [
        ("Keep @ for listening only", (t, _) => t with { Live = true }),
        ("Let @ be recorded", (t, _) => t with { Live = false }),
        ("Keep the notes beside @", (t, _) => t with { KeepsNotes = true }),
        ("Keep no notes beside @", (t, _) => t with { KeepsNotes = false }),
        ("Never monitor @", (t, _) => t with { Monitor = MonitorMode.Never }),
        ("Monitor @ while armed", (t, _) => t with { Monitor = MonitorMode.WhileArmed }),
        ("Always monitor @", (t, _) => t with { Monitor = MonitorMode.Always }),
        ("Pan @ to (.*)", (t, pan) => t with { Pan = Place(pan) }),
        ("Set @ to (-?[\\d.]+) dB", (t, level) => t with { LevelDb = new(double.Parse(level, CultureInfo.InvariantCulture)) }),
    ];

    private TrackGroup TrackGroup(string told) => _split.TrackGroups[Of([.. _split.TrackGroups.Select(g => g.Name)], told)];

    private void TrackGroup(string told, Func<TrackGroup, TrackGroup> change)
    {
        var group = TrackGroup(told);
        _split = _split with { TrackGroups = _split.TrackGroups.Replace(group, change(group)) };
    }

    private void Arm(int track, bool on)
    {
        Must(track >= 1 && track <= _split.Tracks.Length && !_split.Tracks[track - 1].Live, $"there is no track {track} to arm");
        Must(!on || _recorded.Values.All(r => !r.Armed.Contains(track - 1)), "it was recorded in another pass");
        _ = on ? _armed.Add(track - 1) : _armed.Remove(track - 1);
    }

    /// <summary>It cannot go on.</summary>
    public sealed class StuckException(string message) : Exception(message);
}
