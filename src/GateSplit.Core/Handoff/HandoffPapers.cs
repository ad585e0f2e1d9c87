using System.Collections.Immutable;
using System.Text;
using GateSplit.Core.Charts;
using GateSplit.Core.Notes;
using GateSplit.Core.Planning;
using GateSplit.Core.Quantities;

namespace GateSplit.Core.Handoff;

/// <summary>What leaves beside the audio, so that it needs no explaining: notes, sheets, split and charts, manifest and checksums.</summary>
public static class HandoffPapers
{
    /// <summary>Writes them all.</summary>
    /// <param name="material">What the handoff is of.</param>
    /// <param name="files">The audio files that were made.</param>
    /// <param name="made">When, in local time.</param>
    public static ImmutableArray<HandoffPaper> Of(HandoffMaterial material, ImmutableArray<HandoffWritten> files, DateTime made)
    {
        var papers = new List<HandoffPaper>();
        var takes = material.Takes.Where(t => material.Lines.Any(l => l.Take == t)).ToList();
        foreach (var take in takes)
        {
            // The notes and the split of each take are its own.
            var of = takes.Count == 1 ? "" : $"take {take.Number}/";
            papers.AddRange(Notes(take, $"notes/{of}"));
            papers.Add(new($"split/{of}session.json", SessionFile.Of(material.Session, take.Midi, take.View.Split).ToJson()));
            papers.AddRange(Named(take.View.Split.Units.Select(u => u.Chart).DistinctBy(c => c.Id), c => c.Name).Select(c => Text($"split/{of}charts/{c.Name}.json", ChartJson.Write(c.Item))));
        }

        papers.Add(Text("tracks.csv", TrackSheet.Write(files)));
        papers.Add(Text("track sheet.html", PrintedSheet.Write(material, takes, files, made)));
        papers.Add(Text("how to lay these out.txt", string.Join("\r\n", LayingOut.Lines(takes, files)) + "\r\n"));
        var song = takes.Select(t => t.Song).FirstOrDefault();
        papers.Add(Text("manifest.json", new Manifest(
            material.Session,
            made.ToString("yyyy-MM-ddTHH:mm:ss"),
            Math.Round(song?.Tempos.StartTempo ?? Tempo.Default.QuartersPerMinute, 3),
            (song?.Metres.First ?? new Metre(4, 4)).ToString(),
            [.. takes.Select(t => new Manifest.Take(t.Number, t.Words, t.Note))],
            material.Mends,
            [.. files.Select(Manifest.Track.Of)],
            papers.ToDictionary(p => p.Path, p => Hash(p.Body))).ToJson()));
        papers.Add(new(HashList.FileName, HashList.Write(files.Select(f => (f.File.Path, f.Sha256)).Concat(papers.Select(p => (p.Path, Hash(p.Body)))))));
        return [.. papers];
    }

    private static IEnumerable<HandoffPaper> Notes(HandoffTake take, string folder)
    {
        yield return new($"{folder}song.mid", take.Midi);
        if (MidiReader.Read(take.Midi) is not { Ok: true } midi)
        {
            yield break;
        }

        var notes = new ElementNotes(midi.Value, take.View);
        yield return new($"{folder}elements.mid", MidiWriter.Write(notes.Together()));
        foreach (var (name, element) in Named(notes.Elements(), e => e.Name))
        {
            yield return new($"{folder}elements/{name}.mid", MidiWriter.Write(notes.Alone(element.Name, element.Notes)));
        }
    }

    /// <summary>Things with file names that are all different.</summary>
    private static IEnumerable<(string Name, T Item)> Named<T>(IEnumerable<T> items, Func<T, string> name)
    {
        List<T> all = [.. items];
        return FileNames.For("{element}", [.. all.Select(name)], "", 0).Value!.Zip(all);
    }

    private static HandoffPaper Text(string path, string text) => new(path, Encoding.UTF8.GetBytes(text));

    private static string Hash(byte[] body) => HashList.Sum(body);
}
