using System.Collections.Immutable;
using System.Globalization;
using System.Text;
using GateSplit.Core.Charts;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Planning;

/// <summary>
/// Says which file and which channel belong to which track, for somebody to look at and correct: by the names of
/// channels, by the names of files, of a file with all channels of a row of inputs by the inputs the tracks listen to, and of
/// a file with just as many channels as are wanted in the order of the tracks.
/// </summary>
public static class BringInPlan
{
    /// <summary>Works it out.</summary>
    /// <param name="split">The split; its armed tracks want audio.</param>
    /// <param name="files">The files.</param>
    /// <returns>At most one line a track; tracks for which nothing was found have none.</returns>
    public static ImmutableArray<BroughtLine> Of(Split split, IReadOnlyList<BroughtFile> files)
    {
        var tracks = Wanting(split);
        var lines = new Dictionary<TrackId, BroughtLine>();
        ByChannelNames(tracks, files, lines);
        ByFileNames(tracks, files, lines);
        ByInputs(split, tracks, files, lines);
        ByCount(tracks, files, lines);
        return [.. tracks.Where(t => lines.ContainsKey(t.Id)).Select(t => lines[t.Id])];
    }

    /// <summary>Gives the channels that are left, one after the other, to the armed tracks that have none.</summary>
    /// <param name="split">The split.</param>
    /// <param name="files">The files.</param>
    /// <param name="chosen">What goes where already; it fits.</param>
    /// <returns>What was chosen, and the rest.</returns>
    public static ImmutableArray<BroughtLine> RestInOrder(Split split, IReadOnlyList<BroughtFile> files, IReadOnlyCollection<BroughtLine> chosen)
    {
        var lines = chosen.ToDictionary(l => l.TrackId);
        var taken = chosen.SelectMany(l => Enumerable.Range(l.Channel, (int)split.Track(l.TrackId)!.Width).Select(c => (l.File, c))).ToHashSet();
        InOrder(Wanting(split), [.. Enumerable.Range(0, files.Count).SelectMany(i => Channels(files, i)).Where(c => !taken.Contains(c))], lines);
        return [.. split.Tracks.Where(t => lines.ContainsKey(t.Id)).Select(t => lines[t.Id])];
    }

    /// <summary>What is odd about the files, in sentences: rates that are not the split's, lengths that are not alike.</summary>
    public static ImmutableArray<string> Remarks(Split split, IReadOnlyList<BroughtFile> files)
    {
        var remarks = ImmutableArray.CreateBuilder<string>();
        remarks.AddRange(files.SelectMany(f => f.Damage.Select(d => $"{f.Name}: {d}")));
        foreach (var rate in files.GroupBy(f => f.Format.SampleRate).Where(g => g.Key != split.Pass.SampleRate))
        {
            remarks.Add($"{Words.List([.. rate.Select(f => f.Name)], most: 3)} {(rate.Count() == 1 ? "runs" : "run")} at {rate.Key}, the session at {split.Pass.SampleRate.Hz}. The samples are kept as they are, so the file plays at its own rate, unless it is converted.");
        }

        var longest = files.Select(f => f.Frames).DefaultIfEmpty().Max();
        foreach (var file in files.Where(f => f.Frames != longest && f.Format.SampleRate == files.MaxBy(o => o.Frames)!.Format.SampleRate))
        {
            remarks.Add($"{file.Name} is {longest - file.Frames} frames shorter than the longest file.");
        }

        foreach (var file in files.Where(f => f.Format.Channels == 1))
        {
            if (split.Tracks.FirstOrDefault(t => t.Armed && t.Width == Width.Stereo && Plain(t.Name).Length > 0 && IsNamed(file, t)) is { } wide)
            {
                remarks.Add($"{file.Name} has one channel, and the track {wide.Title} is stereo: make the track mono if the file is meant for it.");
            }
        }

        return remarks.ToImmutable();
    }

    /// <summary>True if a line fits: the file is there, and has a channel for each side of the track.</summary>
    public static bool Fits(Split split, IReadOnlyList<BroughtFile> files, BroughtLine line) =>
        split.Track(line.TrackId) is { } track && line.File >= 0 && line.File < files.Count
        && line.Channel >= 1 && line.Channel + (int)track.Width - 1 <= files[line.File].Format.Channels;

    private static void ByChannelNames(List<Track> tracks, IReadOnlyList<BroughtFile> files, Dictionary<TrackId, BroughtLine> lines)
    {
        foreach (var track in tracks)
        {
            for (var i = 0; i < files.Count && !lines.ContainsKey(track.Id); i++)
            {
                var channel = files[i].ChannelNames.Where(c => Plain(Side(c.Value)) == Plain(track.Name)).Select(c => c.Key).DefaultIfEmpty().Min();
                if (channel > 0 && channel + (int)track.Width - 1 <= files[i].Format.Channels)
                {
                    lines[track.Id] = new BroughtLine(track.Id, i, channel, "by the channel's name");
                }
            }
        }
    }

    /// <summary>The longest track name goes first, so that "Snare bottom" is not taken for "Snare".</summary>
    private static void ByFileNames(List<Track> tracks, IReadOnlyList<BroughtFile> files, Dictionary<TrackId, BroughtLine> lines)
    {
        var used = new HashSet<int>();
        foreach (var track in tracks.Where(t => !lines.ContainsKey(t.Id) && Plain(t.Name).Length > 0).OrderByDescending(t => Plain(t.Name).Length))
        {
            var fitting = Enumerable.Range(0, files.Count)
                .Where(i => !used.Contains(i) && files[i].Format.Channels is 1 or 2 && files[i].Format.Channels >= (int)track.Width)
                .Where(i => IsNamed(files[i], track))
                .OrderBy(i => files[i].Name.Length)
                .ToList();
            if (fitting.Count > 0)
            {
                used.Add(fitting[0]);
                lines[track.Id] = new BroughtLine(track.Id, fitting[0], 1, "by its name");
            }
        }
    }

    /// <summary>A file that has a channel for every input the tracks of a row listen to is taken for a recording of that row.</summary>
    private static void ByInputs(Split split, List<Track> tracks, IReadOnlyList<BroughtFile> files, Dictionary<TrackId, BroughtLine> lines)
    {
        foreach (var bank in split.Banks)
        {
            var waiting = tracks.Where(t => t.Input?.BankId == bank.Id && !lines.ContainsKey(t.Id)).ToList();
            var needed = waiting.Select(t => t.Input!.Channel + (int)t.Width - 1).DefaultIfEmpty().Max();
            var file = Enumerable.Range(0, files.Count)
                .Where(i => files[i].Format.Channels > 2 && files[i].Format.Channels >= needed && lines.Values.All(l => l.File != i || l.Why == "by the input"))
                .OrderBy(i => Math.Abs(files[i].Format.Channels - bank.Count))
                .Cast<int?>()
                .FirstOrDefault();
            if (needed > 0 && file is { } found)
            {
                foreach (var track in waiting)
                {
                    lines[track.Id] = new BroughtLine(track.Id, found, track.Input!.Channel, "by the input");
                }
            }
        }
    }

    /// <summary>A file of which nothing was taken, with just as many channels as the tracks still want, holds these tracks in order.</summary>
    private static void ByCount(List<Track> tracks, IReadOnlyList<BroughtFile> files, Dictionary<TrackId, BroughtLine> lines)
    {
        var wanted = tracks.Where(t => !lines.ContainsKey(t.Id)).Sum(t => (int)t.Width);
        var file = Enumerable.Range(0, files.Count)
            .Where(i => files[i].Format.Channels > 2 && files[i].Format.Channels == wanted && lines.Values.All(l => l.File != i))
            .Cast<int?>()
            .FirstOrDefault();
        if (file is { } found)
        {
            InOrder(tracks, Channels(files, found), lines);
        }
    }

    private static void InOrder(List<Track> tracks, List<(int File, int Channel)> free, Dictionary<TrackId, BroughtLine> lines)
    {
        var next = 0;
        foreach (var track in tracks.Where(t => !lines.ContainsKey(t.Id)))
        {
            var at = next;
            while (track.Width == Width.Stereo && at < free.Count && free.ElementAtOrDefault(at + 1) != (free[at].File, free[at].Channel + 1))
            {
                at++; // a channel alone is no pair
            }

            if (at < free.Count)
            {
                lines[track.Id] = new BroughtLine(track.Id, free[at].File, free[at].Channel, "in order");
                next = at + (int)track.Width;
            }
        }
    }

    private static List<Track> Wanting(Split split) => [.. split.Tracks.Where(t => t.Armed)];

    private static List<(int File, int Channel)> Channels(IReadOnlyList<BroughtFile> files, int file) =>
        [.. Enumerable.Range(1, files[file].Format.Channels).Select(c => (file, c))];

    /// <summary>True if a file's name has a track's name in it, as whole words.</summary>
    private static bool IsNamed(BroughtFile file, Track track) =>
        $" {Plain(Path.GetFileNameWithoutExtension(file.Name))} ".Contains($" {Plain(track.Name)} ", StringComparison.Ordinal);

    /// <summary>The name of a pair's channel without the side: "Overheads L" is the left of "Overheads".</summary>
    private static string Side(string name) => name switch
    {
        _ when name.EndsWith(" L", StringComparison.OrdinalIgnoreCase) || name.EndsWith(" R", StringComparison.OrdinalIgnoreCase) => name[..^2],
        _ when name.EndsWith(" left", StringComparison.OrdinalIgnoreCase) => name[..^5],
        _ when name.EndsWith(" right", StringComparison.OrdinalIgnoreCase) => name[..^6],
        _ => name,
    };

    /// <summary>Words in small letters with one space between them: "03_Snare-Top" is "03 snare top".</summary>
    private static string Plain(string name)
    {
        var plain = new StringBuilder();
        foreach (var c in name.Normalize(NormalizationForm.FormKC))
        {
            plain.Append(char.IsLetterOrDigit(c) ? char.ToLower(c, CultureInfo.InvariantCulture) : ' ');
        }

        return string.Join(' ', plain.ToString().Split(' ', StringSplitOptions.RemoveEmptyEntries));
    }
}
