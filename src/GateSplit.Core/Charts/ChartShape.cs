using System.Collections.Immutable;

namespace GateSplit.Core.Charts;

/// <summary>Whether a chart that came from outside holds together, so that the rest of the program can rely on it.</summary>
public static class ChartShape
{
    /// <summary>The most elements, and the most voices.</summary>
    public const int MostElements = 512;

    /// <summary>The most ports, and the most channels at the gate.</summary>
    public const int MostChannels = 256;

    private const int MostLetters = 80;

    /// <summary>A sentence about the first thing that does not fit, with its place in the file; null for a sound chart.</summary>
    public static string? Trouble(Chart chart) => All(chart).FirstOrDefault();

    private static IEnumerable<string> All(Chart chart)
    {
        if (chart.Id.Length is 0 or > MostLetters || !chart.Id.All(c => char.IsAsciiLetterLower(c) || char.IsAsciiDigit(c) || c == '-'))
        {
            yield return "chart.id: small letters, digits and hyphens are needed, at most 80 of them.";
        }

        if (!IsName(chart.Name))
        {
            yield return "chart.name: a name of 1 to 80 letters is needed.";
        }

        if (chart.Voices.IsDefault || chart.Elements.IsDefaultOrEmpty || chart.Ports.IsDefaultOrEmpty || chart.Modes.IsDefaultOrEmpty
            || chart.Groups.IsDefault || chart.Settings.IsDefault)
        {
            yield return "chart: at least one element, one port and one mode are needed.";
            yield break;
        }

        if (Math.Max(chart.Elements.Length, chart.Voices.Length) > MostElements)
        {
            yield return $"chart: {Math.Max(chart.Elements.Length, chart.Voices.Length)} elements or voices are more than the {MostElements} that fit.";
            yield break;
        }

        if (chart.Master is { } master
            && (master.LowPassHz is not (null or (>= 200 and <= 20000)) || master.ThresholdDb is not (>= -60 and <= 0) || master.Ratio is not (1 or 2 or 4) || master.Drive is not (>= 0 and <= 10)))
        {
            yield return "chart.master: the filter goes from 200 to 20000 Hz, the threshold from -60 to 0 dB, the ratio is 1, 2 or 4, the drive goes from 0 to 10.";
        }

        foreach (var trouble in Ports(chart).Concat(Voices(chart)).Concat(Groups(chart)).Concat(Elements(chart)).Concat(Modes(chart)))
        {
            yield return trouble;
        }
    }

    private static IEnumerable<string> Ports(Chart chart)
    {
        if (Twice(chart.Ports, p => p.Number) is { } twice)
        {
            yield return $"chart.ports[{twice}].number: port {chart.Ports[twice].Number} is there twice.";
        }

        var taken = new Dictionary<int, int>();
        for (var i = 0; i < chart.Ports.Length; i++)
        {
            var port = chart.Ports[i];
            if (port.Number < 1 || !IsName(port.Name) || port.FirstChannel < 1 || port.LastChannel > MostChannels || !Enum.IsDefined(port.Width) || !Enum.IsDefined(port.Tap))
            {
                yield return $"chart.ports[{i}]: a number from 1, a name, a width, a tap and channels from 1 to {MostChannels} are needed.";
                continue;
            }

            for (var channel = port.FirstChannel; channel <= port.LastChannel; channel++)
            {
                if (!taken.TryAdd(channel, port.Number))
                {
                    yield return $"chart.ports[{i}]: channel {channel} belongs to port {taken[channel]} already.";
                }
            }
        }

        if (chart.Ports.Count(p => p.IsMain) != 1)
        {
            yield return "chart.ports: exactly one port carries the main mix (isMain).";
        }
    }

    private static IEnumerable<string> Voices(Chart chart)
    {
        if (Twice(chart.Voices, v => v.Id) is { } twice)
        {
            yield return $"chart.voices[{twice}].id: {chart.Voices[twice].Id} is there twice.";
        }

        for (var i = 0; i < chart.Voices.Length; i++)
        {
            var voice = chart.Voices[i];
            if (!IsName(voice.Id) || !IsName(voice.Name) || voice.Channel is < 1 or > 16 || voice.Keys.IsDefault || voice.Keys.Any(k => k is < 0 or > 127))
            {
                yield return $"chart.voices[{i}]: an id, a name, a MIDI channel from 1 to 16 and keys from 0 to 127 are needed.";
            }
            else if (voice.RingSeconds is not (>= 0 and <= 60))
            {
                yield return $"chart.voices[{i}]: a voice rings for 0 to 60 seconds.";
            }
        }
    }

    private static IEnumerable<string> Groups(Chart chart)
    {
        if (Twice(chart.Groups, g => g.Name) is { } twice)
        {
            yield return $"chart.groups[{twice}].name: {chart.Groups[twice].Name} is there twice.";
        }

        for (var i = 0; i < chart.Groups.Length; i++)
        {
            var group = chart.Groups[i];
            if (group.Parent is { } parent && chart.Group(parent) is null)
            {
                yield return $"chart.groups[{i}].parent: there is no group {parent}.";
            }

            if (group.Port is { } port && chart.Port(port) is null)
            {
                yield return $"chart.groups[{i}].port: there is no port {port}.";
            }

            if (!IsLevel(group.FaderDb))
            {
                yield return $"chart.groups[{i}].faderDb: -120 to 12 dB are possible.";
            }

            var passed = new HashSet<string>();
            for (var at = group; at is not null; at = chart.Group(at.Parent))
            {
                if (!passed.Add(at.Name))
                {
                    yield return $"chart.groups[{i}].parent: {group.Name} follows itself, by way of {Words.List([.. passed])}.";
                    yield break;
                }
            }
        }
    }

    private static IEnumerable<string> Elements(Chart chart)
    {
        if (Twice(chart.Elements, e => e.Id) is { } twice)
        {
            yield return $"chart.elements[{twice}].id: {chart.Elements[twice].Id} is there twice.";
        }

        var voices = chart.Voices.Select(v => v.Id).ToHashSet();
        for (var i = 0; i < chart.Elements.Length; i++)
        {
            var element = chart.Elements[i];
            var place = $"chart.elements[{i}]";
            if (!IsName(element.Id) || !IsName(element.Name) || !Enum.IsDefined(element.Width) || !Enum.IsDefined(element.Family) || !Enum.IsDefined(element.Kind)
                || element.Hears.IsDefault || element.Ports.IsDefault)
            {
                yield return $"{place}: an id, a name, a family, a kind and a width are needed.";
                continue;
            }

            if (element.Hears.FirstOrDefault(h => !voices.Contains(h.VoiceId)) is { } deaf)
            {
                yield return $"{place}.hears: there is no voice {deaf.VoiceId}.";
            }

            if (element.Ports.Append(element.Port ?? chart.Ports[0].Number).FirstOrDefault(p => chart.Port(p) is null, -1) is > -1 and var lost)
            {
                yield return $"{place}.ports: there is no port {lost}.";
            }

            if (element.EchoSeconds is not (null or (>= 0.03 and <= 5)))
            {
                yield return $"{place}.echoSeconds: echoes follow each other after 0.03 to 5 seconds.";
            }

            if (element.Insert is { } insert && (!IsName(insert.Name) || insert.HoldHz is not (null or (>= 500 and <= 48000)) || insert.Bits is not (null or (>= 2 and <= 16)) || insert.Drive is not (>= 0 and <= 10)))
            {
                yield return $"{place}.insert: it needs a name, 500 to 48000 samples a second, 2 to 16 bits and a drive from 0 to 10.";
            }

            if (!IsLevel(element.FaderDb) || (element.SendDb is { } send && !IsLevel(send)) || element.Pan is not (>= -1 and <= 1)
                || element.ReturnSeconds is not (>= 0 and <= 60) || element.Hears.Any(h => !IsLevel(h.GainDb) || h.Metres is not (>= 0 and <= 50) || h.Pan is not (>= -1 and <= 1)))
            {
                yield return $"{place}: levels go from -120 to 12 dB, pans from -1 to 1, distances from 0 to 50 m, returns to 60 seconds.";
            }
        }
    }

    private static IEnumerable<string> Modes(Chart chart)
    {
        if (Twice(chart.Modes, m => m.Id) is { } twice)
        {
            yield return $"chart.modes[{twice}].id: {chart.Modes[twice].Id} is there twice.";
        }

        for (var i = 0; i < chart.Modes.Length; i++)
        {
            var mode = chart.Modes[i];
            if (!IsName(mode.Id) || !IsName(mode.Name) || mode.Ports.IsDefaultOrEmpty)
            {
                yield return $"chart.modes[{i}]: an id, a name and at least one port are needed.";
            }
            else if (mode.Ports.FirstOrDefault(p => chart.Port(p) is null, -1) is > -1 and var lost)
            {
                yield return $"chart.modes[{i}].ports: there is no port {lost}.";
            }
        }
    }

    private static int? Twice<T, TKey>(ImmutableArray<T> all, Func<T, TKey> key)
    {
        var seen = new HashSet<TKey>();
        for (var i = 0; i < all.Length; i++)
        {
            if (!seen.Add(key(all[i])))
            {
                return i;
            }
        }

        return null;
    }

    private static bool IsName(string? text) => text is { Length: > 0 and <= MostLetters } && !string.IsNullOrWhiteSpace(text);

    private static bool IsLevel(double db) => db is >= -120 and <= 12;
}
