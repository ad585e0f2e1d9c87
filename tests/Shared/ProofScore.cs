using System.Globalization;
using GateSplit.Core.Proofing;
using GateSplit.Core.Quantities;
using GateSplit.Core.Splits;

namespace GateSplit.Tests.Shared;

/// <summary>Counts what proofs of planted takes find, miss and invent.</summary>
public sealed class ProofScore
{
    private const double LoudNoise = -60; // dBFS
    private readonly Dictionary<string, (int Planted, int Found, int False)> _questions = [];
    private readonly Dictionary<string, List<double>> _errors = [];

    /// <summary>Questions with how many were planted, found, and found where nothing was.</summary>
    public IReadOnlyDictionary<string, (int Planted, int Found, int False)> Questions => _questions;

    /// <summary>Estimates with their errors.</summary>
    public IReadOnlyDictionary<string, List<double>> Errors => _errors;

    /// <summary>What went wrong, one line each.</summary>
    public List<string> Wrong { get; } = [];

    /// <summary>Compares a proof with the truth.</summary>
    /// <param name="seed">The seed of the take, for the lines of what went wrong.</param>
    /// <param name="take">The truth.</param>
    /// <param name="proof">What the program says.</param>
    public void Add(int seed, PlantedTake take, TakeProof proof)
    {
        string where = $"seed {seed} ({take.ChartName}, {take.Count} tracks, noise {take.Noise:0}, drift {take.Drift:0}, offset {take.Offset:0.000}{(take.HasReference ? ", reference" : "")})";
        if (take.HasReference && proof.FromReference is not null)
        {
            // One sample is asked for at a signal to noise ratio of 40 dB: a mix is at about -23 dBFS, most files are softer.
            Within($"offset from reference{(take.Noise > LoudNoise ? " in loud noise" : "")}, samples", (proof.OffsetSeconds!.Value - take.Offset) * take.Rate, 1, $"{where} drift said {proof.DriftPpm:0.0}");
            Within("drift from reference, ppm", proof.DriftPpm!.Value - take.Drift, 1, where);
        }

        Count("reference matched", take.HasReference && take.Silent.Contains(false), proof.FromReference is not null, where);
        if (proof.FromNotes is { } time)
        {
            var (offset, drift) = ((time.Offset - take.Offset) * 1000, time.Drift * 1e6 - take.Drift);
            if (time.About)
            {
                Within("offset said as about, ms", offset, 20, where);
                if (time.Spread > 0)
                {
                    Within("drift from the same, ppm", drift, Math.Max(10, 5e6 * time.Spread), where);
                }
            }
            else if (IsAnyStruckOnTime(take))
            {
                Within("offset from notes, ms", offset, 1, where);
                Within("drift from notes, ppm", drift, 10, where);
            }

            double[] apart = [.. Enumerable.Range(0, take.Count).Where(f => proof.Tracks[f] is { OffsetSeconds: null, Double: null, Identity.Part: not null } && !take.Parts[take.Is[f]].Held && !take.Parts[take.Is[f]].IsFromAfar(take.Parts)).Select(f => take.Late[f])];
            Count("late, nobody knows which", apart.Length > 0 && apart.Max() - apart.Min() > 0.0015, ProofFindings.Of(proof).Any(f => f.Fault == ProofFault.Apart), where);
        }

        for (var i = 0; i < take.Count; i++)
        {
            var (track, at) = (proof.Tracks[i], $"{where} {take.Parts[i].Name}");
            Count("silent", take.Silent[i], track.Scan.IsSilent, at);
            if (take.Silent[i])
            {
                continue;
            }

            if (take.Is[i] != i && take.Parts[i].IsAsPlayed(take.Parts[take.Is[i]]))
            {
                // By their notes, two microphones that hear the same are one.
                Count("is its partner, which no notes tell", true, track.Identity.Part != i, at);
            }
            else
            {
                // Where it is said that nothing can be made out, nothing is said of what it is.
                Count("made out", true, track.Identity.Part is not null, $"{at} is {take.Parts[take.Is[i]].Name}");
                if (track.Identity is { Part: { } part, Certainty: var certainty })
                {
                    Count("is another element", take.Is[i] != i, part != i, $"{at} is {take.Parts[take.Is[i]].Name}, said {take.Parts[part].Name} {certainty:0.00}");
                    if (take.Is[i] != i)
                    {
                        Count("and the right one", true, part == take.Is[i], at);
                    }
                }
            }

            var twin = take.Double[i] ?? (Array.FindIndex(take.Double, d => d?.File == i) is >= 0 and var copy && take.Double[copy] is var (_, back) ? (copy, -back) : null);
            // Of two that the same notes play, nobody can tell which is the copy.
            var other = twin is var (partner, _) && take.Parts[i].IsAsPlayed(take.Parts[partner]) && proof.Tracks[partner].Double?.File == i;
            Count("double", take.Double[i] is not null, (take.Double[i] is not null && other) || (track.Double is not null && (take.Double[i] is not null || twin is null)), $"{at} {take.Double[i]} said {track.Double}");
            if (take.Double[i] is var (of, lag) && track.Double is { } said && said.File == of)
            {
                Within("lag of a double, samples", said.LagFrames - lag, 1, at);
            }

            if (twin is null && track.Polarity is not null)
            {
                // Against its partner, what counts is how the two lie to each other: below a drum all is turned.
                var turned = track.PolarityAgainst is { } against ? take.Upside[against] ^ take.IsTurned(i, against) : false;
                Count("upside down", take.Upside[i] ^ turned, track.Polarity < 0, at);
            }
            else if (twin is null && take.HasReference)
            {
                Count("polarity told", true, track.Polarity is not null, at);
            }

            Count("clips", take.Clipped[i], track.Scan.Levels.Channels[0].ClippedRuns > 0, at);
            Count("dropouts", take.Dropped[i], track.Scan.Dropouts > 0, at);
            if (!take.Dropped[i])
            {
                // The edge of a hole in a sound is a click as well.
                Count("clicks", take.Clicked[i], track.Scan.Clicks > 0, $"{at} {(track.Scan.Clicks > 0 ? track.Scan.ClickPlaces[0].At.Seconds(take.Rate) : 0):0.0000}");
            }

            Count("cut off", take.CutOff[i], track.Scan.EndsInSound is not null, $"{at} {track.Scan.EndsInSound}");
            bool[] inFile = [.. take.Parts[take.Is[i]].Notes.Take(take.EntersAt[i]).Select(n => (n * (1 + (take.Drift / 1e6))) + take.Offset >= -0.01)];
            if (inFile.Count(there => there) is var missing && (missing >= 2 || inFile.All(there => there) || !take.Parts[take.Is[i]].Held))
            {
                // What is held and begins before the file would sound on in it: one may miss it or not.
                Count("enters late", missing >= 2, proof.MissingAtStart(i) > 0, $"{at} {take.EntersAt[i]} said {proof.MissingAtStart(i)}");
            }

            if (take.Double[i] is null && track.OffsetSeconds is { } late && !take.Parts[take.Is[i]].Held && !take.Parts[take.Is[i]].IsFromAfar(take.Parts))
            {
                Within("one track, ms", (late - take.Late[i]) * 1000, 1, at);
                Count("late against its take", take.Late[i] != 0, ProofFindings.Of(proof).Any(f => f.Fault == ProofFault.TrackOff && f.File == i), $"{at} {take.Late[i] * 1000:0.00} said {late * 1000:0.00}");
            }

            Bled(take, proof, i, at);
        }

        foreach (var mend in MendOffers.AllSure(proof, [.. Enumerable.Range(0, take.Count).Select(TrackOf)]))
        {
            if (IsRight(take, mend) is { } right)
            {
                Count("sure mends that are right", true, right, $"{where} {mend}");
            }
        }
    }

    /// <summary>Compares the reading of a roll call with the truth.</summary>
    /// <param name="seed">The seed of the room.</param>
    /// <param name="room">The truth.</param>
    /// <param name="reading">What the program says; null if it found no order.</param>
    public void Add(int seed, PlantedRoom room, RollCallReading? reading)
    {
        var where = $"seed {seed} ({room.ChartName}, {room.Call.Turns.Length} turns{(room.ByHand ? ", by hand" : "")}{(room.NotSeparate ? ", not separate" : "")}{(room.Clips ? ", clips" : "")}, noise {room.Noise:0}, drift {room.Drift:0})";
        Count("order found", !room.IsSilent, reading is not null, where);
        if (reading is null)
        {
            return;
        }

        if (reading.DriftPpm is { } drift)
        {
            Within("drift, ppm", drift - room.Drift, 10, $"{where} latencies {room.Latency.Min() * 1000:0} to {room.Latency.Max() * 1000:0}");
        }

        var channels = room.Energies.GetLength(1);
        for (var turn = 0; turn < reading.Turns.Length; turn++)
        {
            var (heard, plan, at) = (reading.Turns[turn], room.Call.Turns[turn].Planned, $"{where} {room.Call.Turns[turn].Name}");
            var energies = Enumerable.Range(0, channels).Select(c => room.Energies[turn, c]).ToArray();
            var loudest = energies.Max();
            var noise = Math.Pow(10, room.Noise / 10);
            if (loudest > 0 && loudest < 30 * noise)
            {
                continue; // under the noise nobody can tell
            }

            var there = Enumerable.Range(0, channels).Where(c => loudest > 1e-9 && energies[c] > 0.01 * loudest && energies[c] > 10 * noise).Select(c => c + 1).ToHashSet();
            if (Enumerable.Range(0, channels).Any(c => energies[c] > noise / 10 && energies[c] <= 10 * noise && plan.All(p => p.Channel != c + 1)))
            {
                continue; // where it should not be, and near the noise: one may hear it or not
            }

            var direct = plan.Where(p => p.Direct).ToList();
            if (direct.Exists(p => energies[p.Channel - 1] > noise / 10 && energies[p.Channel - 1] <= 10 * noise))
            {
                continue; // the same of where it should be
            }

            var gains = direct.Count == 0 ? 0 : direct.Max(p => p.Gain.Value);
            var right = there.Count > 0 && direct.Where(p => p.Gain.Value > gains - 15).All(p => there.Contains(p.Channel)) && there.All(c => plan.Any(p => p.Channel == c));
            if (right && plan.Any(p => !p.Direct && room.Cables[p.Channel - 1] != p.Channel - 1))
            {
                continue; // what bleeds in comes elsewhere: no fault of this element, but told or not
            }

            Count("not as planned", !right, !heard.AsPlanned, $"{at} truly on {string.Join(' ', there)}, planned {string.Join(' ', plan.Select(p => $"{p.Channel}{(p.Direct ? "" : "b")}"))}, said {string.Join(' ', heard.Arrivals.Select(a => $"{a.Channel}:{a.Level}"))}");
            foreach (var arrival in heard.Main.Where(a => there.Contains(a.Channel) && !room.Call.Turns[turn].Held && !room.Clips && energies[a.Channel - 1] > 10 * noise))
            {
                Within("level, dB", arrival.Level.Value - (10 * Math.Log10(energies[arrival.Channel - 1])), 0.5, $"{at} channel {arrival.Channel} at {arrival.Level}");
                if (arrival.Channel != heard.Arrivals[0].Channel && !room.View.Split.Units[0].Chart.Elements.SelectMany(e => e.Hears).Any(h => h.Metres > 0) && arrival.LatencySeconds is { } latency && energies[arrival.Channel - 1] > 100 * noise)
                {
                    Within("latency, ms", (latency - (room.Latency[arrival.Channel - 1] - room.Latency[heard.Arrivals[0].Channel - 1])) * 1000, 0.1, $"{at} channel {arrival.Channel}");
                }
            }
        }
    }

    /// <summary>A table.</summary>
    public IEnumerable<string> Table()
    {
        yield return $"  {"question",-28}{"planted",9}{"found",9}{"missed",9}{"invented",9}";
        foreach (var (question, (planted, found, invented)) in _questions)
        {
            yield return $"  {question,-28}{planted,9}{found,9}{planted - found,9}{invented,9}";
        }

        yield return $"  {"estimate",-34}{"number",8}{"median",10}{"95 %",10}{"worst",10}";
        foreach (var (name, errors) in _errors)
        {
            var sizes = errors.Select(Math.Abs).Order().ToList();
            yield return string.Create(CultureInfo.InvariantCulture, $"  {name,-34}{sizes.Count,8}{sizes[sizes.Count / 2],10:0.000}{sizes[(int)(0.95 * (sizes.Count - 1))],10:0.000}{sizes[^1],10:0.000}");
        }
    }

    private static TrackId TrackOf(int file) => new($"t{file}");

    /// <summary>True if a mend puts right what was planted; null where it is of something else.</summary>
    private static bool? IsRight(PlantedTake take, Mend mend)
    {
        const double Near = 0.0015; // s
        int FileOf(TrackId track) => Enumerable.Range(0, take.Count).First(f => TrackOf(f) == track);
        double Late(int file) => take.Double[file] is var (of, lag) ? Late(of) + (lag / take.Rate) : take.Late[file];
        return mend switch
        {
            MoveTake move => Math.Abs(move.Seconds - take.Offset) < Near && (move.DriftPpm == 0 || Math.Abs(move.DriftPpm - take.Drift) <= 10),
            MoveTrack move => Math.Abs(move.Seconds - Late(FileOf(move.TrackId))) < Near,
            TurnPolarity turn => take.Upside[FileOf(turn.TrackId)],
            ExchangeNames exchange => take.Is[FileOf(exchange.One)] == FileOf(exchange.Other) && take.Is[FileOf(exchange.Other)] == FileOf(exchange.One),
            _ => null,
        };
    }

    /// <summary>False where all that is struck is late by itself: then no notes tell where the take lies.</summary>
    private static bool IsAnyStruckOnTime(PlantedTake take) =>
        Enumerable.Range(0, take.Count).Where(f => !take.Silent[f] && !take.Parts[take.Is[f]].Held).Select(f => take.Late[f]).DefaultIfEmpty().Contains(0);

    private void Bled(PlantedTake take, TakeProof proof, int file, string at)
    {
        for (var from = 0; from < take.Count; from++)
        {
            var owner = Enumerable.Range(0, take.Count).FirstOrDefault(f => take.Is[f] == from && !take.Silent[f] && take.Double[f] is null, -1);
            if (owner < 0 || take.Is[file] == from || proof.NeverAlone.Contains(owner) || proof.Tracks[owner].Identity.Part != from || take.Double[file] is not null || take.Clipped[file] || take.Clipped[owner])
            {
                continue;
            }

            if (Enumerable.Range(0, take.Count).Any(o => o != from && take.Parts[o].Shares(take.Parts[from]) && take.Bleeds[file, o] is not null))
            {
                continue; // another microphone of the same bleeds in as well
            }

            var told = proof.Tracks[file].Bleed.Where(b => b.From == owner).Select(b => (Bleed?)b).FirstOrDefault();
            var said = told?.Level;
            var hidden = proof.Tracks[file].Hidden.Where(b => b.From == owner).Select(b => (Decibels?)b.Level).FirstOrDefault();
            if (take.Bleeds[file, from] is { } level)
            {
                if (said is null && hidden is { } upTo && upTo.Value >= level)
                {
                    Count("bleed that may be hidden", true, true, at);
                    continue;
                }

                Count("bleed", true, said is not null, $"{at} {level:0.0} of {take.Parts[from].Name}, hidden up to {hidden}");
                if (said is { } heard)
                {
                    Error(told!.Value.About ? "bleed said as about, dB" : "bleed, dB", heard.Value - level);
                    if (Math.Abs(heard.Value - level) > 1)
                    {
                        Wrong.Add($"{at}: bleed {level:0.0} of {take.Parts[from].Name} said {(told.Value.About ? "about " : "")}{heard.Value:0.0}");
                    }
                }
            }
            else
            {
                Count("bleed", false, said is { Value: > -50 }, $"{at} {said} of {take.Parts[from].Name}");
            }
        }
    }

    /// <summary>An estimate, and what it may be wrong by.</summary>
    private void Within(string name, double error, double most, string where)
    {
        Error(name, error);
        if (Math.Abs(error) > most)
        {
            Wrong.Add($"{where}: {name} {error:0.00} wrong");
        }
    }

    private void Error(string name, double error)
    {
        if (!_errors.TryGetValue(name, out var errors))
        {
            _errors[name] = errors = [];
        }

        errors.Add(error);
    }

    private void Count(string question, bool planted, bool found, string where)
    {
        var (all, right, wrong) = _questions.GetValueOrDefault(question);
        _questions[question] = (all + (planted ? 1 : 0), right + (planted && found ? 1 : 0), wrong + (!planted && found ? 1 : 0));
        if (planted != found)
        {
            Wrong.Add($"{where}: {question} {(planted ? "missed" : "invented")}");
        }
    }
}
