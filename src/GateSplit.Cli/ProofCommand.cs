using System.CommandLine;
using System.Text.Json;
using GateSplit.Core;
using GateSplit.Core.Notes;
using GateSplit.Core.Proofing;
using GateSplit.Core.Quantities;
using GateSplit.Core.Splits;

namespace GateSplit.Cli;

/// <summary>Says what the files of a take really hold.</summary>
internal static class ProofCommand
{
    /// <summary>Builds the command.</summary>
    public static Command Create()
    {
        var folder = new Argument<DirectoryInfo>("folder") { Description = "The folder with one file a track; a file is a track's by its name." };
        var song = new Option<FileInfo>("--song") { Description = "The song as a Standard MIDI File.", Required = true };
        var elements = new Option<FileInfo>("--elements") { Description = "A table with the header track,midiChannel,keys,sounds.", Required = true };
        var reference = new Option<FileInfo?>("--reference") { Description = "A recording of all tracks together, such as the main mix." };
        var json = new Option<bool>("--json") { Description = "Print a JSON object." };
        var command = new Command("proof", "Say of every file of a take what it holds, where it sits, and what is wrong with it.") { folder, song, elements, reference, json };
        command.SetAction((parsed, cancel) => Task.FromResult(Guarded.Run(() =>
            Run(parsed.GetValue(folder)!, parsed.GetValue(song)!, parsed.GetValue(elements)!, parsed.GetValue(reference), parsed.GetValue(json), cancel))));
        return command;
    }

    private static int Run(DirectoryInfo folder, FileInfo songFile, FileInfo elements, FileInfo? referenceFile, bool json, CancellationToken cancel)
    {
        var midi = MidiReader.Read(File.ReadAllBytes(songFile.FullName));
        if (!midi.Ok)
        {
            return Guarded.Refuse($"{songFile.Name}: {midi.Trouble}");
        }

        using var text = elements.OpenText();
        var table = ElementTable.Read(text, Song.Of(midi.Value));
        if (!table.Ok)
        {
            return Guarded.Refuse($"{elements.Name}: {table.Trouble}");
        }

        using var recordings = Recordings.Of(folder, referenceFile, cancel);
        if (recordings.Trouble is { } trouble)
        {
            return Guarded.Refuse(trouble);
        }

        var parts = table.Value;
        var files = recordings.Files.Select(f => new ProofFile(f.Name, f.Recording.Wave, PartOf(parts, f.Name))).ToList();
        using var progress = new ConsoleProgress();
        var proof = TakeProof.Of(files, parts, recordings.Reference?.Wave, progress, cancel);
        foreach (var (name, remark) in recordings.Remarks)
        {
            Console.Error.WriteLine($"gatesplit: {name}: {remark}");
        }

        Console.Out.WriteLine(json ? JsonSerializer.Serialize(ProofRow.Of(proof, [.. recordings.Files.Select(f => f.File.Name)]), SplitJson.Options) : Text(proof, recordings));
        return ExitCodes.Good;
    }

    /// <summary>The part a file's name says; names are compared as they would be written as files.</summary>
    private static int? PartOf(IReadOnlyList<Part> parts, string name)
    {
        var at = Enumerable.Range(0, parts.Count).FirstOrDefault(i => Same(parts[i].Name, name) || Same(FileName.Clean(parts[i].Name), name), -1);
        return at < 0 ? null : at;
        static bool Same(string one, string other) => one.Equals(other, StringComparison.OrdinalIgnoreCase);
    }

    private static string Text(TakeProof proof, Recordings recordings) =>
        string.Join('\n', [ProofWords.Verdict(proof), .. ProofFindings.Of(proof).Where(f => f.File is null).Select(f => f.Sentence), .. recordings.Files.Select((f, i) => $"  {f.File.Name}: {ProofWords.Sentence(proof, i)}")]);

    private sealed record ProofRow(TakeRow Take, IReadOnlyList<TrackRow> Tracks)
    {
        public static ProofRow Of(TakeProof proof, IReadOnlyList<string> names) => new(
            new(
                Milliseconds(proof.OffsetSeconds),
                proof.DriftPpm,
                ProofWords.Verdict(proof),
                Finite(proof.Null?.Fitted),
                Finite(proof.Null?.Unity),
                Milliseconds(proof.FromNotes?.Offset),
                Milliseconds(proof.FromReference is var (start, _) ? start / proof.Rate.Hz : null),
                proof.IsAbout),
            [
                .. proof.Tracks.Select((track, i) => new TrackRow(
                    names[i],
                    track.Named is { } named ? proof.Parts[named].Name : track.File,
                    track.Identity.Part is { } part ? proof.Parts[part].Name : null,
                    track.Identity.Certainty,
                    track.Identity.Hits,
                    track.Named is { } expected ? proof.Parts[expected].Notes.Length : null,
                    Milliseconds(track.OffsetSeconds),
                    track.Polarity,
                    track.Double is { } twin ? proof.Tracks[twin.File].File : null,
                    track.Double?.LagFrames,
                    track.Scan.Pair == PairState.OneChannel,
                    track.Scan.IsSilent,
                    track.Scan.Levels.Channels.Sum(c => c.ClippedRuns),
                    track.Scan.Dropouts,
                    track.Scan.EndsInSound is not null,
                    [.. track.Bleed.Select(b => new BleedRow(proof.Tracks[b.From].File, b.Level, b.About))],
                    ProofWords.Sentence(proof, i),
                    track.Scan.Clicks,
                    [.. track.Hidden.Select(b => new HiddenRow(proof.Tracks[b.From].File, b.Level))],
                    proof.NeverAlone.Contains(i))),
            ]);

        private static double? Milliseconds(double? seconds) => seconds * 1000;

        /// <summary>JSON has no infinity: nothing at all is null.</summary>
        private static Decibels? Finite(Decibels? level) => level is { Value: > double.NegativeInfinity } ? level : null;
    }

    private sealed record TakeRow(double? OffsetMs, double? DriftPpm, string Verdict, Decibels? NullResidualDb, Decibels? NullUnityDb, double? OffsetFromNotesMs, double? OffsetFromReferenceMs, bool OffsetAbout);

    private sealed record TrackRow(
        string File,
        string Track,
        string? Is,
        double Certainty,
        int Hits,
        int? HitsExpected,
        double? OffsetMs,
        int? Polarity,
        string? DoubleOf,
        double? DoubleLagSamples,
        bool OneChannel,
        bool Silent,
        long ClippedRuns,
        long Dropouts,
        bool CutOff,
        IReadOnlyList<BleedRow> Bleed,
        string Sentence,
        long Clicks,
        IReadOnlyList<HiddenRow> MayHide,
        bool NeverAlone);

    private sealed record BleedRow(string From, Decibels LevelDb, bool About);

    /// <summary>What may be in a file, and up to which level other sounds would hide it.</summary>
    private sealed record HiddenRow(string From, Decibels UpToDb);
}
