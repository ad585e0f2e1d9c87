using System.CommandLine;
using System.Text.Json;
using GateSplit.Core.Notes;
using GateSplit.Core.Proofing;
using GateSplit.Core.Quantities;
using GateSplit.Core.Sound;
using GateSplit.Core.Splits;
using GateSplit.Core.Views;

namespace GateSplit.Cli;

/// <summary>Writes the notes of a roll call, and reads a recording of one.</summary>
internal static class RollCallCommand
{
    /// <summary>Builds the command.</summary>
    public static Command Create()
    {
        var session = new Argument<FileInfo>("session") { Description = "An exported session." };
        var midi = new Option<FileInfo?>("--midi") { Description = "Write the roll call as a Standard MIDI File; of a split of several passes, one file each." };
        var read = new Option<FileInfo[]>("--read") { Description = "Read recordings of it: one file with a channel for each input, or one file each, in the order of the inputs.", AllowMultipleArgumentsPerToken = true };
        var pass = new Option<int>("--pass") { Description = "The pass that was recorded.", DefaultValueFactory = _ => 1 };
        var byHand = new Option<bool>("--by-hand") { Description = "It was played by hand, in the listed order." };
        var json = new Option<bool>("--json") { Description = "Print a JSON object." };
        var command = new Command("rollcall", "Call every element in turn on the real gear, and read from the recording what arrives where.") { session, midi, read, pass, byHand, json };
        command.SetAction((parsed, cancel) => Task.FromResult(Guarded.Run(() =>
            Run(parsed.GetValue(session)!, parsed.GetValue(midi), parsed.GetValue(read) ?? [], parsed.GetValue(pass), parsed.GetValue(byHand), parsed.GetValue(json), cancel))));
        return command;
    }

    private static int Run(FileInfo sessionFile, FileInfo? midi, FileInfo[] recordings, int pass, bool byHand, bool json, CancellationToken cancel)
    {
        var session = SessionArgument.Open(sessionFile);
        if (!session.Ok)
        {
            return Guarded.Refuse(session.Trouble);
        }

        var view = SessionArgument.View(session.Value);
        if (pass < 1 || pass > view.Split.Passes)
        {
            return Guarded.Refuse($"This split has {(view.Split.Passes == 1 ? "one pass" : $"the passes 1 to {view.Split.Passes}")}.");
        }

        return recordings.Length > 0 ? Read(view, RollCall.Of(view, pass), recordings, byHand, json, cancel)
            : midi is not null ? Write(view, session.Value.File.Name, midi)
            : Guarded.Refuse("Either --midi, to write the roll call, or --read, to read a recording of it, is needed.");
    }

    private static int Write(SplitView view, string name, FileInfo midi)
    {
        for (var pass = 1; pass <= view.Split.Passes; pass++)
        {
            var call = RollCall.Of(view, pass);
            if (call.Turns.IsEmpty)
            {
                return Guarded.Refuse("Nothing in this split takes notes, so there is nobody to call.");
            }

            var path = pass == 1 ? midi.FullName : Path.Combine(midi.DirectoryName!, $"{Path.GetFileNameWithoutExtension(midi.Name)} {pass}{midi.Extension}");
            File.WriteAllBytes(path, MidiWriter.Write(call.ToMidi($"Roll call of {name}")));
            Console.Out.WriteLine(string.Join('\n', [$"{Path.GetFileName(path)}:", .. call.Instructions.Select(i => $"  {i}"), .. call.NotCalled.Select(n => $"  {n} is not called: it takes no notes, or is heard when others are.")]));
        }

        return ExitCodes.Good;
    }

    private static int Read(SplitView view, RollCall call, FileInfo[] files, bool byHand, bool json, CancellationToken cancel)
    {
        var opened = new List<Recording>();
        try
        {
            foreach (var file in files)
            {
                var one = Recording.Open(file, Path.GetTempPath(), cancel);
                if (!one.Ok)
                {
                    return Guarded.Refuse($"{file.Name}: {one.Trouble}");
                }

                opened.Add(one.Value);
                foreach (var remark in one.Value.Remarks)
                {
                    Console.Error.WriteLine($"gatesplit: {file.Name}: {remark}");
                }
            }

            if (opened.Select(o => o.Wave.Format.SampleRate).Distinct().Count() > 1)
            {
                return Guarded.Refuse("The files have several sample rates: bring them to one first.");
            }

            var channels = opened.SelectMany(o => Enumerable.Range(0, o.Wave.Format.Channels).Select(c => (IMonoSound)new MonoReader(o.Wave, c))).ToList();
            var reading = RollCallReading.Of(call, channels, byHand, cancel);
            if (!reading.Ok)
            {
                return Guarded.Refuse(reading.Trouble);
            }

            if (channels.Count != call.Inputs.Length)
            {
                Console.Error.WriteLine($"gatesplit: The recording has {channels.Count} channels where the split has {call.Inputs.Length} inputs; they are taken in order.");
            }

            Console.Out.WriteLine(json ? JsonSerializer.Serialize(Row.Of(view, reading.Value), SplitJson.Options) : Text(view, reading.Value));
            return ExitCodes.Good;
        }
        finally
        {
            opened.ForEach(o => o.Dispose());
        }
    }

    private static string Text(SplitView view, RollCallReading reading) => string.Join(
        '\n', [.. RollCallFindings.Causes(view.Split, reading), .. reading.Turns.Select(t => RollCallFindings.Sentence(view.Split, reading, t))]);

    private sealed record Row(double? StartSeconds, double? DriftPpm, IReadOnlyList<string> Causes, IReadOnlyList<ElementRow> Elements, IReadOnlyList<string> NotCalled)
    {
        public static Row Of(SplitView view, RollCallReading reading) => new(
            reading.StartSeconds,
            reading.DriftPpm,
            [.. RollCallFindings.Causes(view.Split, reading)],
            [
                .. from turn in reading.Turns
                   from element in turn.Turn.Elements
                   select new ElementRow(
                       view.Split.NameOf(element),
                       view.Split.Unit(element.UnitId)!.Name,
                       [.. turn.Arrivals.Select(a => new ChannelRow(a.Channel, a.Level, a.Peak, a.LatencySeconds * 1000, a.Polarity))],
                       turn.AsPlanned,
                       turn.BesideSeconds * 1000,
                       RollCallFindings.Sentence(view.Split, reading, turn)),
            ],
            reading.Call.NotCalled);
    }

    private sealed record ElementRow(string Element, string Source, IReadOnlyList<ChannelRow> Channels, bool AsPlanned, double? BesideMs, string Sentence);

    private sealed record ChannelRow(int Channel, Decibels LevelDb, Decibels PeakDb, double? LatencyMs, int? Polarity);
}
