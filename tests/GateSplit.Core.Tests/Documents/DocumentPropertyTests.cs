using System.Text;
using System.Text.Json.Nodes;
using GateSplit.Core.Charts;
using GateSplit.Core.Checks;
using GateSplit.Core.Demo;
using GateSplit.Core.Drawing;
using GateSplit.Core.Handoff;
using GateSplit.Core.Notes;
using GateSplit.Core.Planning;
using GateSplit.Core.Quantities;
using GateSplit.Core.Splits;
using GateSplit.Core.StandIns;
using GateSplit.Tests.Shared;

namespace GateSplit.Core.Tests.Documents;

/// <summary>Whatever is done to a document, in the program or outside: it is refused with a sentence, or everything can be done with it.</summary>
public sealed class DocumentPropertyTests : IDisposable
{
    private static readonly string[] Wild =
    [
        "null", "\"\"", "\"three\"", "\"u1\"", "\"t1\"", "\"a\\u0000b\"", "-1", "0", "1", "2", "50", "99", "9000", "1e308", "-1e308", "2147483647", "99999999999999999999", "true", "[]", "[null]", "{}", "[{}]",
    ];

    private readonly TempFolder _folder = new();

    public static TheoryData<int> Seeds => [.. Enumerable.Range(1, 12)];

    public void Dispose() => _folder.Dispose();

    [Theory]
    [MemberData(nameof(Seeds))]
    public void Edits_and_undos_in_any_order_give_sound_documents_with_which_everything_can_be_done(int seed)
    {
        var random = new Random(seed);
        var edits = new WildEdits(random);
        var demo = DemoSessions.All[seed % DemoSessions.All.Length];
        var history = new Stack<Split>([demo.Split]);
        var made = 0;
        for (var i = 0; i < 400; i++)
        {
            if (history.Count > 1 && random.Next(5) == 0)
            {
                history.Pop();
            }

            var edit = edits.Next(history.Peek());
            var after = edit.Apply(history.Peek());
            Assert.False(string.IsNullOrWhiteSpace(edit.Name(history.Peek())), $"{edit}");
            if (after.Ok)
            {
                made++;
                history.Push(after.Value);

                // Looked at whole, not only where it changed.
                Assert.True(SplitRules.FirstMisfit(after.Value) is null, $"{edit}: {SplitRules.FirstMisfit(after.Value)}");
            }
            else
            {
                Assert.EndsWith(".", after.Trouble, StringComparison.Ordinal);
            }
        }

        Assert.InRange(made, 20, 400); // neither all refused nor all taken
        Use(history.Peek(), Song.Of(demo.Song), print: true);
    }

    [Theory]
    [MemberData(nameof(Seeds))]
    public void A_session_damaged_anywhere_is_read_or_refused_with_its_place(int seed)
    {
        var random = new Random(seed);
        var files = Fixtures.Files(1, ".session.json");
        var (read, refused) = (0, 0);
        for (var i = 0; i < 60; i++)
        {
            var file = JsonNode.Parse(File.ReadAllText(files[random.Next(files.Count)]))!;
            var place = Damage(file, random);
            var opened = SessionFile.Read(Encoding.UTF8.GetBytes(file.ToJsonString()));
            if (opened.Ok)
            {
                read++;
                Use(opened.Value.File.Split, opened.Value.Song, print: false);
            }
            else
            {
                refused++;
                Assert.True(opened.Trouble.EndsWith('.') && opened.Trouble.Contains(':', StringComparison.Ordinal) || opened.Trouble.StartsWith("This", StringComparison.Ordinal), $"{place}: {opened.Trouble}");
            }
        }

        Assert.True(read > 0 && refused > 0, $"{read} read, {refused} refused");
    }

    [Theory]
    [MemberData(nameof(Seeds))]
    public void A_chart_damaged_anywhere_is_read_or_refused_with_its_place(int seed)
    {
        var random = new Random(seed);
        var files = Fixtures.Files(1, ".chart.json");
        for (var i = 0; i < 60; i++)
        {
            var file = JsonNode.Parse(File.ReadAllText(files[random.Next(files.Count)]))!;
            var place = Damage(file, random);
            var read = ChartJson.Read(file.ToJsonString());
            if (read.Ok)
            {
                var split = StartingSplit.Of([read.Value], 2, 48000);
                Assert.Null(SplitRules.FirstMisfit(split));
                Use(split, Song.Of(CheckPattern.Of([read.Value], Tempo.Default)), print: i == 0);
                Assert.Equal(ChartJson.Write(read.Value), ChartJson.Write(ChartJson.Read(ChartJson.Write(read.Value)).Value!));
            }
            else
            {
                Assert.True(read.Trouble.EndsWith('.') && (read.Trouble.Contains(':', StringComparison.Ordinal) || read.Trouble.StartsWith("This", StringComparison.Ordinal)), $"{place}: {read.Trouble}");
            }
        }
    }

    /// <summary>Puts something else, nothing, or the same twice in some place.</summary>
    private static string Damage(JsonNode file, Random random)
    {
        var at = file;
        for (var depth = 0; ; depth++)
        {
            var inside = at switch
            {
                JsonObject o => [.. o.Select(p => (Action: (Action<JsonNode?>)(v => o[p.Key] = v), p.Value, Name: p.Key, Drop: (Action)(() => o.Remove(p.Key))))],
                JsonArray a => [.. a.Select((v, i) => (Action: (Action<JsonNode?>)(n => a[i] = n), Value: v, Name: $"{i}", Drop: (Action)(() => a.RemoveAt(i))))],
                _ => new List<(Action<JsonNode?> Action, JsonNode? Value, string Name, Action Drop)>(),
            };
            if (inside.Count == 0)
            {
                return "nothing";
            }

            var (put, value, name, drop) = inside[random.Next(inside.Count)];
            if (value is JsonObject or JsonArray { Count: > 0 } && (depth == 0 || random.Next(8) > 0))
            {
                at = value;
                continue;
            }

            switch (random.Next(6))
            {
                case 0:
                    drop();
                    break;
                case 1 when at is JsonArray list:
                    list.Add(value?.DeepClone());
                    break;
                default:
                    put(JsonNode.Parse(Wild[random.Next(Wild.Length)]));
                    break;
            }

            return $"{at.GetPath()} {name}";
        }
    }

    /// <summary>Whatever passed can be drawn, checked, planned, kept, exported, and printed.</summary>
    private void Use(Split split, Song song, bool print)
    {
        var view = Sessions.View(split, song);
        Assert.All(AllChecks.Look(view), f => Assert.False(string.IsNullOrWhiteSpace(f.Sentence)));
        var drawing = SplitDrawing.Of(view, new DrawingWish(WithSilent: true));
        Assert.All(drawing.Rails.SelectMany(r => r.Points), p => Assert.True(double.IsFinite(p.X) && double.IsFinite(p.Y)));
        Assert.True(PassTimes.Of(view, song).Bytes >= 0);
        Layer.Propose(view, new LayWish());
        Assert.Equal(SplitJson.Write(split), SplitJson.Write(SplitVersions.Read(SplitJson.Write(split), SplitVersions.Current).Value!));
        var names = FileNames.For(FileNames.DefaultPattern, [.. split.Tracks.Select(t => t.Title)], "Session", 120);
        Assert.True(names.Ok, names.Trouble);
        if (print)
        {
            var brief = split with { Pass = split.Pass with { LengthBars = 1, StartBar = 1, TailSeconds = 0.1, SettleLoops = 0, Looped = false, CountInBars = 0 } };
            var recorder = new StandInRecorder(Sessions.View(brief, song), song);
            if (recorder.Refusal() is null)
            {
                Assert.All(
                    recorder.Print(t => Path.Combine(_folder.Root, $"{t.Id}.wav"), new DateTime(2026, 1, 1)),
                    t => Assert.All(t.Measure.Channels, c => Assert.False(double.IsNaN(c.SamplePeak.Value))));
            }
        }
    }
}
