using System.Text.Json;
using GateSplit.Core.Demo;
using GateSplit.Core.Handoff;
using GateSplit.Core.Notes;
using GateSplit.Tests.Shared;

namespace GateSplit.Cli.Tests;

/// <summary>Proof, align and roll call as a shell calls them, on sounds and notes of other tools.</summary>
public sealed class ProofCommandTests : IDisposable
{
    private const double Seconds = 30;
    private readonly string _folder = Directory.CreateTempSubdirectory("gate-split-cli-").FullName;
    private readonly Dictionary<string, double[]> _times = SoxTake.Times(Seconds, 3);
    private readonly SoxTake _sox;
    private readonly string _take;

    public ProofCommandTests()
    {
        _take = Directory.CreateDirectory(Path.Combine(_folder, "take")).FullName;
        _sox = new SoxTake(_take);
    }

    public void Dispose() => Directory.Delete(_folder, recursive: true);

    [Fact]
    public void Odd_files_and_very_many_of_them_get_a_sentence_each()
    {
        var crack = Path.Combine(_take, "Crack.wav");
        Save(new() { ["Crack"] = Stems()["Crack"] });
        foreach (var (name, arguments) in new Dictionary<string, string[]>
        {
            ["Slow"] = ["-r", "44100"],
            ["Wide"] = ["-c", "2"],
            ["Short"] = ["trim", "0", "4"],
            ["One"] = ["trim", "1", "1s"],
            ["None"] = ["trim", "0", "0s"],
            ["Small"] = ["-b", "8"],
        })
        {
            var effects = arguments[0] == "trim" ? arguments : [];
            Programs.Run("sox", ["-D", crack, .. effects.Length == 0 ? arguments : [], Path.Combine(_take, $"{name}.wav"), .. effects]);
        }

        File.WriteAllBytes(Path.Combine(_take, "Empty.wav"), []);
        for (var i = 0; i < 194; i++)
        {
            File.Copy(Path.Combine(_take, "Short.wav"), Path.Combine(_take, $"Copy {i:000}.wav"));
        }

        var (code, output, errors) = Cli.Run("proof", _take, "--song", Song(), "--elements", Elements());
        Assert.Equal(0, code);
        Assert.Contains("Empty.wav: ", errors);
        var tracks = output.Split('\n').Select(l => l.Split(".wav: ")).Where(l => l.Length == 2).ToDictionary(l => l[0].Trim(), l => l[1]);
        Assert.Equal(201, tracks.Count);
        Assert.All(tracks, t => Assert.NotEmpty(t.Value));
        Assert.Contains("It has 44100 Hz and was not compared with the others, which have 48000 Hz.", tracks["Slow"]);
        Assert.Contains("Nothing is in it", tracks["None"]);
        Assert.StartsWith("This is Crack", tracks["Crack"]);
        Assert.All(tracks.Where(t => t.Key.StartsWith("Copy", StringComparison.Ordinal) && t.Key != "Copy 000"), t => Assert.Contains("It holds what Copy 000 holds", t.Value));
        Assert.Contains("The files have 5 lengths: some end before others.", output);
    }

    [Theory]
    [InlineData("struck", false)]
    [InlineData("held", true)]
    public void Proof_says_where_the_notes_tell_the_place_of_a_take_not_to_the_millisecond(string sounds, bool about)
    {
        Save(Stems());
        var (code, output, _) = Cli.Run("proof", _take, "--song", Song(), "--elements", Elements(sounds), "--json");
        var take = JsonDocument.Parse(output).RootElement.GetProperty("take");
        Assert.Equal((0, about), (code, take.GetProperty("offsetAbout").GetBoolean()));
        Assert.Equal(about, take.GetProperty("verdict").GetString()!.Contains("; about ", StringComparison.Ordinal));
    }

    [Fact]
    public void Proof_says_what_each_file_holds_with_the_names_that_are_documented()
    {
        var stems = Stems();
        (stems["Crack"], stems["Tick"]) = (stems["Tick"], stems["Crack"]);
        stems["Chirp"] = [.. stems["Chirp"].Select(s => -s)];
        Save(stems);
        var (code, output, errors) = Cli.Run("proof", _take, "--song", Song(), "--elements", Elements(), "--reference", Mix(), "--json");
        Assert.Equal((0, ""), (code, errors));
        var root = JsonDocument.Parse(output).RootElement;
        var take = root.GetProperty("take");
        Assert.Equal(0, take.GetProperty("offsetMs").GetDouble(), 0.02);
        Assert.Equal(0, take.GetProperty("driftPpm").GetDouble(), 1.0);
        Assert.False(take.GetProperty("offsetAbout").GetBoolean());
        Assert.InRange(take.GetProperty("nullResidualDb").GetDouble(), double.MinValue, -100);
        Assert.Contains("3 of 5 files hold what their names say", take.GetProperty("verdict").GetString());
        var tracks = root.GetProperty("tracks").EnumerateArray().ToDictionary(t => t.GetProperty("track").GetString()!);
        Assert.Equal(["Chirp", "Crack", "Pluck", "Thud", "Tick"], tracks.Keys.Order());
        Assert.Equal(("Crack.wav", "Tick"), (tracks["Crack"].GetProperty("file").GetString(), tracks["Crack"].GetProperty("is").GetString()));
        Assert.Equal(("Crack", -1, 1), (tracks["Tick"].GetProperty("is").GetString(), tracks["Chirp"].GetProperty("polarity").GetInt32(), tracks["Thud"].GetProperty("polarity").GetInt32()));
        foreach (var (name, track) in tracks)
        {
            Assert.InRange(track.GetProperty("certainty").GetDouble(), 0.6, 1);
            Assert.Equal(_times[name].Length, track.GetProperty("hitsExpected").GetInt32());
            Assert.Equal(_times[track.GetProperty("is").GetString()!].Length, track.GetProperty("hits").GetInt32());
            Assert.Equal(0, track.GetProperty("offsetMs").GetDouble(), 0.3);
            Assert.Equal(JsonValueKind.Null, track.GetProperty("doubleOf").ValueKind);
            Assert.Equal(JsonValueKind.Null, track.GetProperty("doubleLagSamples").ValueKind);
            Assert.Equal((false, false, false, 0, 0), (track.GetProperty("oneChannel").GetBoolean(), track.GetProperty("silent").GetBoolean(), track.GetProperty("cutOff").GetBoolean(), track.GetProperty("clippedRuns").GetInt32(), track.GetProperty("dropouts").GetInt32()));
            Assert.Equal("[]", track.GetProperty("bleed").GetRawText());
            Assert.Equal(("[]", false), (track.GetProperty("mayHide").GetRawText(), track.GetProperty("neverAlone").GetBoolean()));
            Assert.NotEmpty(track.GetProperty("sentence").GetString()!);
        }

        // Without a reference there is no null test, and the words are there for people too.
        var told = Cli.Run("proof", _take, "--song", Song(), "--elements", Elements());
        Assert.Contains("Crack.wav: This is Tick:", told.Output);
        var none = JsonDocument.Parse(Cli.Run("proof", _take, "--song", Song(), "--elements", Elements(), "--json").Output).RootElement;
        Assert.Equal(JsonValueKind.Null, none.GetProperty("take").GetProperty("nullResidualDb").ValueKind);
    }

    [Fact]
    public void What_bleeds_in_is_told_with_whose_it_is_how_loud_and_whether_that_is_exact()
    {
        var stems = Stems();
        SoxTake.Add(stems["Tick"], stems["Pluck"], 120, 0.1);
        Save(stems);
        var root = JsonDocument.Parse(Cli.Run("proof", _take, "--song", Song(), "--elements", Elements(), "--json").Output).RootElement;
        var bleed = Assert.Single(root.GetProperty("tracks").EnumerateArray().SelectMany(t => t.GetProperty("bleed").EnumerateArray()));
        Assert.Equal(("Pluck", false), (bleed.GetProperty("from").GetString(), bleed.GetProperty("about").GetBoolean()));
        Assert.Equal(-20, bleed.GetProperty("levelDb").GetDouble(), 1.0);
    }

    [Theory]
    [InlineData("track,channel\n", "must begin with the header")]
    [InlineData("track,midiChannel,keys,sounds\n", "names no tracks")]
    [InlineData("track,midiChannel,keys,sounds\nThud,17,36,struck\n", "Line 2")]
    [InlineData("track,midiChannel,keys,sounds\nThud,10,128,struck\n", "numbers from 0 to 127")]
    [InlineData("track,midiChannel,keys,sounds\nThud,10,36,loud\n", "struck or held")]
    [InlineData("track,midiChannel,keys,sounds\nThud,10,36,struck\nTHUD,10,37,struck\n", "twice")]
    [InlineData("track,midiChannel,keys,sounds\nThud,10\n", "Line 2")]
    public void A_table_that_makes_no_sense_is_refused_with_its_line(string table, string sentence)
    {
        Save(Stems());
        var path = Path.Combine(_folder, "elements.csv");
        File.WriteAllText(path, table);
        var (code, _, errors) = Cli.Run("proof", _take, "--song", Song(), "--elements", path);
        Assert.NotEqual(0, code);
        Assert.Contains(sentence, errors);
    }

    [Fact]
    public void A_folder_without_recordings_and_files_that_are_none_are_told()
    {
        var empty = Directory.CreateDirectory(Path.Combine(_folder, "empty")).FullName;
        Assert.Contains("There are no recordings in empty.", Cli.Run("proof", empty, "--song", Song(), "--elements", Elements()).Errors);
        File.WriteAllText(Path.Combine(empty, "notes.txt"), "no sound");
        _ = new SoxTake(empty).Save("Thud", Stems()["Thud"]);
        var run = Cli.Run("proof", empty, "--song", Song(), "--elements", Elements());
        Assert.Equal(0, run.Code);
        Assert.Contains("notes.txt", run.Errors);
        Assert.Contains("Thud.wav: This is Thud", run.Output);
        Assert.NotEqual(0, Cli.Run("proof", Path.Combine(_folder, "nowhere"), "--song", Song(), "--elements", Elements()).Code);
    }

    [Fact]
    public void Align_puts_the_files_where_the_reference_lies_and_leaves_them_as_they_are()
    {
        var stems = Stems();
        Save(stems.ToDictionary(s => s.Key, s => Drawn.Out([.. s.Value, .. new float[SoxTake.Rate]], 12000, 80)));
        var before = File.ReadAllBytes(Path.Combine(_take, "Thud.wav"));
        var target = Path.Combine(_folder, "aligned");
        var run = Cli.Run("align", _take, "--to", Mix(), "--out", target);
        Assert.Equal((0, ""), (run.Code, run.Errors));
        Assert.StartsWith("5 files were ", run.Output, StringComparison.Ordinal);
        Assert.Contains("(250.00 ms) late and", run.Output);
        Assert.Equal(before, File.ReadAllBytes(Path.Combine(_take, "Thud.wav")));
        var sum = Path.Combine(_folder, "sum.wav");
        Programs.Run("sox", ["-m", .. stems.Keys.SelectMany(n => new[] { "-v", "1", Path.Combine(target, $"{n}.wav") }), sum]);
        var found = JsonDocument.Parse(Cli.Run("compare", Mix(), sum, "--json").Output).RootElement;
        Assert.Equal(0, found.GetProperty("offsetSamples").GetDouble(), 0.2);
        Assert.Equal(0, found.GetProperty("driftPpm").GetDouble(), 0.3);
        Assert.Equal(0, found.GetProperty("gainDb").GetDouble(), 0.1);
        Assert.Contains("another folder", Cli.Run("align", _take, "--to", Mix(), "--out", _take).Errors);
        var noise = Path.Combine(_folder, "noise.wav");
        Programs.Run("sox", "-n", "-R", "-r", "48000", noise, "synth", "30", "whitenoise");
        Assert.Contains("nothing in common", Cli.Run("align", _take, "--to", noise, "--out", target).Errors);
    }

    [Fact]
    public void A_roll_call_is_written_and_read_back()
    {
        var session = Path.Combine(_folder, "session.json");
        File.WriteAllBytes(session, SessionFile.Of("Fog Signal", MidiWriter.Write(FogSignal.Session.Song), FogSignal.Session.Split).ToJson());
        var midi = Path.Combine(_folder, "call.mid");
        var written = Cli.Run("rollcall", session, "--midi", midi);
        Assert.Equal((0, ""), (written.Code, written.Errors));
        Assert.Contains("record all inputs", written.Output);

        // The marker, as another tool reads it: four hits of one note at 0, 0.5, 1.25 and 1.75 s; a quarter is half a second.
        var notes = Programs.Run("midicsv", midi).Split('\n').Select(l => l.Split(", ")).Where(f => f[2] == "Note_on_c" && f[5].Trim() != "0").Select(f => (Tick: int.Parse(f[1]), Key: int.Parse(f[4]), Velocity: int.Parse(f[5]))).OrderBy(n => n.Tick).ToList();
        Assert.Equal([0, 480, 1200, 1680, 2640, 3600, 4560], notes.Take(7).Select(n => n.Tick));
        Assert.Single(notes.Take(7).Select(n => n.Key).Distinct());
        Assert.Equal([64, 96, 127], notes.Skip(4).Take(3).Select(n => n.Velocity));

        var silence = Path.Combine(_folder, "silence.wav");
        Programs.Run("sox", "-n", "-r", "48000", "-c", "12", silence, "trim", "0", "60");
        var read = Cli.Run("rollcall", session, "--read", silence, "--json");
        Assert.NotEqual(0, read.Code);
        Assert.Contains("silence or noise only", read.Errors);
        Assert.Contains("is needed", Cli.Run("rollcall", session).Errors);
        Assert.Contains("one pass", Cli.Run("rollcall", session, "--midi", midi, "--pass", "2").Errors);
    }

    private Dictionary<string, float[]> Stems() => SoxTake.Names.ToDictionary(n => n, n => _sox.Placed(n, _times[n], Seconds));

    private void Save(Dictionary<string, float[]> stems)
    {
        foreach (var (name, stem) in stems)
        {
            _sox.Save(name, stem);
        }

        foreach (var raw in Directory.GetFiles(_take, "*.f32"))
        {
            File.Delete(raw);
        }
    }

    private string Mix()
    {
        var mix = new float[(int)(Seconds * SoxTake.Rate)];
        foreach (var stem in new SoxTake(_folder) is var sox ? SoxTake.Names.Select(n => sox.Placed(n, _times[n], Seconds)) : [])
        {
            SoxTake.Add(mix, stem, 0, 1);
        }

        return new SoxTake(_folder).Save("mix", mix);
    }

    private string Elements(string sounds = "struck")
    {
        var path = Path.Combine(_folder, "elements.csv");
        File.WriteAllText(path, "track,midiChannel,keys,sounds\n" + string.Concat(SoxTake.Names.Select((n, i) => $"{n},10,{36 + i},{sounds}\n")));
        return path;
    }

    /// <summary>The notes as a MIDI file: 120 quarters a minute, 480 ticks each, so that a second has 960 ticks.</summary>
    private string Song()
    {
        var path = Path.Combine(_folder, "song.mid");
        var events = SoxTake.Names.SelectMany((name, i) => _times[name].SelectMany(t => new[] { (Tick: (int)Math.Round(t * 960), Line: $"Note_on_c, 9, {36 + i}, 100"), (Tick: (int)Math.Round(t * 960) + 60, Line: $"Note_off_c, 9, {36 + i}, 0") })).OrderBy(e => e.Tick);
        var csv = Path.Combine(_folder, "song.csv");
        File.WriteAllText(csv, string.Join('\n', ["0, 0, Header, 0, 1, 480", "1, 0, Start_track", "1, 0, Tempo, 500000", .. events.Select(e => $"1, {e.Tick}, {e.Line}"), $"1, {(int)(Seconds * 960)}, End_track", "0, 0, End_of_file"]) + "\n");
        Programs.Run("csvmidi", csv, path);
        return path;
    }
}
