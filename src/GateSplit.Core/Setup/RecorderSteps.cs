using System.Collections.Immutable;
using System.Globalization;
using GateSplit.Core.Charts;
using GateSplit.Core.Notes;
using GateSplit.Core.Quantities;
using GateSplit.Core.Sound;
using GateSplit.Core.Splits;
using GateSplit.Core.Views;
using static GateSplit.Core.Setup.SetupWords;

namespace GateSplit.Core.Setup;

/// <summary>What is made in the recorder: the song, then tracks, and only then what they listen to.</summary>
internal static class RecorderSteps
{
    /// <summary>The empty song.</summary>
    public static SetupPart Song(SplitView view)
    {
        var pass = view.Split.Pass;
        var format = pass.Format switch { SampleFormat.Pcm16 => "16 bit", SampleFormat.Pcm24 => "24 bit", _ => "32 bit float" };
        var rate = (pass.SampleRate.Hz / 1000.0).ToString("0.###", CultureInfo.InvariantCulture);
        return new SetupPart("A new song in the recorder",
        [
            new SetupStep($"Begin an empty song at {rate} kHz, {format}."),
            new SetupStep(Tempo(view.Song, pass)),
        ]);
    }

    /// <summary>The tracks, their groups, and how they are mixed.</summary>
    public static IEnumerable<SetupPart> Tracks(SplitView view)
    {
        var split = view.Split;
        if (split.Tracks.IsEmpty)
        {
            yield break;
        }

        yield return new SetupPart("Tracks", [.. Made(split), .. Names(split), .. Inputs(view)]);
        yield return new SetupPart("Groups of tracks", [.. Groups(split)]);
        yield return new SetupPart("How they are heard", [.. Mix(split)]) { AnyOrder = true };
    }

    private static string Tempo(Song? song, PassSettings pass)
    {
        const string All = "Take tempo and metre from the song's MIDI file.";
        if (song?.TypedTempo is not { } tempo || song.Metres.Changes.Count() > 1)
        {
            return All;
        }

        var metre = song.Metres.First;
        return pass.TempoToMicrosecond ? $"Set the metre to {metre}, and take the tempo to the microsecond from the song's MIDI file."
            : $"Set the tempo to {Number(tempo)} quarters a minute and the metre to {metre}.";
    }

    /// <summary>All at once, of the width after which the fewest have to be changed.</summary>
    private static ImmutableArray<SetupStep> Made(Split split)
    {
        Width[] widths = [.. split.Tracks.Select(t => t.Width)];
        ImmutableArray<SetupStep> From(Width width) =>
        [
            new SetupStep($"Make {Core.Words.Count(widths.Length, $"{SetupWords.Of(width)} track")}.") { OneByOne = widths.Length },
            .. Column<Width>(
                [.. widths.Select(_ => width)],
                widths,
                s => $"Make {SetupWords.Tracks(s)} {SetupWords.Of(s.Value)}.",
                "Make single tracks",
                s => $"track {s.First + 1} {SetupWords.Of(s.Value)}").Select(s => s with { OneByOne = 0 }),
        ];
        var (mono, stereo) = (From(Width.Mono), From(Width.Stereo));
        return mono.Sum(s => s.Actions) <= stereo.Sum(s => s.Actions) ? mono : stereo;
    }

    /// <summary>Names that count upward in one action, the others one by one.</summary>
    private static ImmutableArray<SetupStep> Names(Split split)
    {
        (string Stem, int? Number)[] names = [.. split.Tracks.Select(t => Counted(t.Name))];
        return Column<(string Stem, int? Number)>(
            [.. names.Select(_ => ("", (int?)null))],
            names,
            s => s is { Counts: true, Rows: > 1 }
                ? $"Name {SetupWords.Tracks(s)} {Quoted(Text(s.Value))} to {Quoted(Text((s.Value.Stem, s.Value.Number + s.Rows - 1)))}, counting upward."
                : $"Name {SetupWords.Tracks(s)} {Quoted(Text(s.Value))}{(s.Rows == 1 ? "" : ", all the same")}.",
            "Name single tracks",
            s => $"{s.First + 1} {Quoted(Text(s.Value))}",
            (a, b, counts) => counts
                ? names[a].Number is { } number ? new((names[a].Stem, number + (b - a))) : null
                : new(names[a]));
    }

    /// <summary>"Pad 12" is the stem "Pad " and 12; what would not be written like that again has no number.</summary>
    private static (string Stem, int? Number) Counted(string name)
    {
        var digits = name.Length - name.AsSpan().TrimEnd("0123456789").Length;
        return digits is > 0 and < 7 && digits < name.Length && name[^digits] != '0' ? (name[..^digits], int.Parse(name[^digits..], CultureInfo.InvariantCulture)) : (name, null);
    }

    private static string Text((string Stem, int? Number) name) => $"{name.Stem}{name.Number}";

    private static ImmutableArray<SetupStep> Inputs(SplitView view)
    {
        var split = view.Split;
        var offsets = new int[split.Tracks.Length];
        for (var i = 1; i < offsets.Length; i++)
        {
            offsets[i] = offsets[i - 1] + (int)split.Tracks[i - 1].Width;
        }

        return Routed(split, split.Tracks.Select(t => t.Input), "input", offsets, i => string.Join(" and ", view.Signal.Into(split.Tracks[i].Id).Select(f => (f.UnitId, f.Port)).Distinct()
            .Select(f => $"{split.Tracks[i].Title}: {split.Unit(f.UnitId)!.Name} output {f.Port}")));
    }

    /// <summary>Where tracks listen, or go: nowhere at first.</summary>
    private static ImmutableArray<SetupStep> Routed(Split split, IEnumerable<InputRef?> ends, string what, int[] offsets, Func<int, string>? note)
    {
        InputRef?[] wanted = [.. ends];
        string Place(int track, InputRef? at) => at is null ? what == "output" ? "the main output" : "no input" : Input(split, at, split.Tracks[track].Width);
        Strokes.Held<InputRef?>? At(int a, int b, bool counts)
        {
            if (wanted[a] is not { } first)
            {
                return counts ? null : new(null);
            }

            var to = counts ? first with { Channel = first.Channel + offsets[b] - offsets[a] } : first;
            return split.Fits(to, split.Tracks[b].Width) && split.Bank(to.BankId)!.Trouble(to.Channel, split.Tracks[b].Width) is null ? new(to) : null;
        }

        return Column<InputRef?>(
            [.. wanted.Select(_ => (InputRef?)null)],
            wanted,
            s => s.Rows == 1
                ? $"Set the {what} of {SetupWords.Tracks(s)} to {Place(s.First, s.Value)}."
                : s.Counts
                ? $"Set the {what}s of {SetupWords.Tracks(s)} from {Place(s.First, s.Value)} on, counting upward."
                : $"Set the {what}s of {SetupWords.Tracks(s)} to {Place(s.First, s.Value)}, all the same.",
            $"Set single {what}s",
            s => $"track {s.First + 1} {Place(s.First, s.Value)}",
            At,
            note);
    }

    private static IEnumerable<SetupStep> Groups(Split split)
    {
        foreach (var group in split.TrackGroups)
        {
            var name = Told(split, group);
            yield return new SetupStep(group.Sums ? $"Make a group {name} that sums its tracks." : $"Make a group {name} that only sets levels.");
            int[] members = [.. Enumerable.Range(0, split.Tracks.Length).Where(i => split.Tracks[i].GroupId == group.Id || split.Tracks[i].LevelGroups.Contains(group.Id)).Select(i => i + 1)];
            if (members.Length > 0)
            {
                yield return new SetupStep($"Put tracks {Core.Words.Runs(members)} into the group {name}.") { OneByOne = members.Length };
            }

            if (group.LevelDb != Decibels.Unity)
            {
                yield return new SetupStep($"Set the level of the group {name} to {Level(group.LevelDb)}.");
            }

            if (group.Bus is { } bus)
            {
                yield return new SetupStep($"Send the group {name} to {Input(split, bus, Width.Stereo)}.");
            }
        }

        foreach (var group in split.TrackGroups.Where(g => g.ParentId is not null))
        {
            yield return new SetupStep($"Let the group {Told(split, group)} feed the group {Told(split, split.TrackGroup(group.ParentId)!)}.");
        }
    }

    private static string Told(Split split, TrackGroup group) => SourceSteps.Told(split.TrackGroups.Select(g => g.Name))[split.TrackGroups.IndexOf(group)];

    private static IEnumerable<SetupStep> Mix(Split split)
    {
        var tracks = split.Tracks;
        IEnumerable<SetupStep> Same<T>(IEnumerable<T> now, IEnumerable<T> wanted, Func<T, string, string> words)
        {
            string Sentence(Stroke<T> s) => words(s.Value, SetupWords.Tracks(s));
            return Column<T>([.. now], [.. wanted], s => $"{Sentence(s)}.", "One by one", s => $"{char.ToLowerInvariant(Sentence(s)[0])}{Sentence(s)[1..]}");
        }

        return
        [
            .. Routed(split, tracks.Select(t => t.Bus), "output", [.. tracks.Select((_, i) => i)], null),
            .. Same(tracks.Select(_ => false), tracks.Select(t => t.Live), (on, at) => on ? $"Keep {at} for listening only" : $"Let {at} be recorded"),
            .. Same(tracks.Select(_ => true), tracks.Select(t => t.KeepsNotes), (on, at) => on ? $"Keep the notes beside {at}" : $"Keep no notes beside {at}"),
            .. Same(tracks.Select(_ => "0 dB"), tracks.Select(t => Level(t.LevelDb)), (level, at) => $"Set {at} to {level}"),
            .. Same(tracks.Select(_ => "the centre"), tracks.Select(t => Place(t.Pan)), (pan, at) => $"Pan {at} to {pan}"),
            .. Same(tracks.Select(_ => MonitorMode.Never), tracks.Select(t => t.Monitor), Monitoring),
        ];
    }

    private static string Monitoring(MonitorMode mode, string tracks) => mode switch
    {
        MonitorMode.Never => $"Never monitor {tracks}",
        MonitorMode.WhileArmed => $"Monitor {tracks} while armed",
        _ => $"Always monitor {tracks}",
    };
}
