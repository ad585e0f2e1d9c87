using System.Collections.Frozen;
using System.Text.RegularExpressions;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Views;

/// <summary>Reads what a track is for from its name, where nothing else is known: whole names, and the short forms that sessions and stage boxes bear.</summary>
internal static partial class ShortNames
{
    /// <summary>What a short form may stand for; several readings part at a bar.</summary>
    private static readonly FrozenDictionary<string, string[][]> Forms = Read(
        """
        bd kick; kd kick; kk kick; kik kick; kck kick; bassdrum kick
        sd snare; sn snare; snr snare; sdr snare
        hh hat; hihat hat; hats hat; chh closed hat; ch closed hat; ohh open hat; oh open hat|overheads; phh pedal hat
        ovh overheads; ohs overheads; overhead overheads
        rd ride; rc ride; cc crash; cr crash; cy cymbal; cym cymbal; spl splash
        lt low tom; mt mid tom; ht high tom; ft floor tom; hi high; lo low; middle mid; toms tom
        cp clap; clp clap; hc clap; claps clap; rs rim; rim rim; rimshot rim; cb cowbell; cow cowbell; cl clave|claves; ma maracas; mc maracas
        pc percussion; perc percussion; shk shaker; sh shaker; tmb tambourine; tamb tambourine; cga conga; bng bongo
        rm room; amb ambience; bs bass; sub sub; kb keys; key keys; kbd keys; pno piano; org organ; ld lead; str strings; pd pad
        rev reverb; verb reverb; dly delay; rtn return; ret return; ext external; btm bottom; bot bottom; tp top
        """);

    /// <summary>What says nothing of what sounds.</summary>
    private static readonly FrozenSet<string> Silent = FrozenSet.ToFrozenSet(["hw", "usb", "trk", "track", "audio", "print", "rec", "mono", "stereo", "the", "of"]);

    /// <summary>The one element that a track's name tells; null if it tells none, or more than one.</summary>
    public static ElementRef? ElementOf(Split split, Track track)
    {
        var name = track.Name.Trim();
        if (name.Length == 0)
        {
            return null;
        }

        // Of two sources with an element of that name, it is that of the source to which the track listens.
        var units = split.Units.OrderByDescending(u => track.Input is { } input && split.BankOf(u).Id == input.BankId).ToList();
        return units.Select(u => Exact(u, name)).FirstOrDefault(e => e is not null)
            ?? units.Select(u => ByWords(u, name)).FirstOrDefault(e => e is not null);
    }

    private static ElementRef? Exact(Unit unit, string name) =>
        unit.Chart.Elements.Where(e => string.Equals(e.Name, name, StringComparison.OrdinalIgnoreCase)).ToList() is [var one] ? new ElementRef(unit.Id, one.Id) : null;

    private static ElementRef? ByWords(Unit unit, string name)
    {
        var readings = Readings(name).Where(r => r.Count > 0).ToList();
        var elements = unit.Chart.Elements.Select(e => (Element: e, Words: Readings(e.Name).ToList())).ToList();
        ElementRef? One(Func<HashSet<string>, HashSet<string>, bool> fit) =>
            elements.Where(e => e.Words.Any(w => readings.Any(r => fit(r, w)))).Select(e => e.Element).ToList() is [var one] ? new ElementRef(unit.Id, one.Id) : null;

        return One((read, word) => read.SetEquals(word)) ?? One((read, word) => read.IsSubsetOf(word));
    }

    /// <summary>The sets of words that a name may mean.</summary>
    private static IEnumerable<HashSet<string>> Readings(string name)
    {
        IEnumerable<HashSet<string>> readings = [[]];
        foreach (var word in Word().Matches(name).Select(m => m.Value.ToLowerInvariant()).Where(w => !Silent.Contains(w)))
        {
            var meanings = Forms.GetValueOrDefault(word) ?? [[word]];
            readings = readings.SelectMany(r => meanings.Select(m => r.Concat(m).ToHashSet()));
        }

        return readings.Select(r => Pairs.Aggregate(r, (words, pair) => words.IsSupersetOf(pair.Words) ? words.Except(pair.Words).Append(pair.Is).ToHashSet() : words));
    }

    /// <summary>A bass drum is a kick and a hi-hat a hat, however they are written.</summary>
    private static readonly (string[] Words, string Is)[] Pairs = [(["bass", "drum"], "kick"), (["high", "hat"], "hat")];

    private static FrozenDictionary<string, string[][]> Read(string forms) => forms.Split([';', '\n'], StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries)
        .Select(f => f.Split(' ', 2))
        .ToFrozenDictionary(f => f[0], f => f[1].Split('|').Select(r => r.Split(' ')).ToArray());

    [GeneratedRegex(@"[A-Z]+(?![a-z])|[A-Z]?[a-z]+|\p{L}+|\d+", RegexOptions.CultureInvariant, 1000)]
    private static partial Regex Word();
}
