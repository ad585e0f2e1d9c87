using System.Collections.Immutable;
using CsCheck;
using GateSplit.Core.Charts;
using GateSplit.Core.Checks;
using GateSplit.Core.Edits;
using GateSplit.Core.Notes;
using GateSplit.Core.Planning;
using GateSplit.Core.Quantities;
using GateSplit.Core.Splits;
using GateSplit.Core.Views;

namespace GateSplit.Core.Tests.Planning;

/// <summary>Laying is valid for any source, takes the fewest passes, and is stable.</summary>
public sealed class LayerTests
{
    /// <summary>Ports after the main pair, and elements: their widths and, for some, the only port they can leave by.</summary>
    private static readonly Gen<(Width[] Ports, (Width Width, int? Only)[] Elements, bool HardPan)> Cases =
        from ports in Gen.Bool.Array[1, 3]
        from elements in Gen.Select(Gen.Bool, Gen.Int[-4, 3]).Array[1, 5]
        from hardPan in Gen.Bool
        let widths = ports.Select(stereo => stereo ? Width.Stereo : Width.Mono).ToArray()
        select (
            widths,
            elements.Select(e => (e.Item1 ? Width.Stereo : Width.Mono, e.Item2 >= 0 && e.Item2 < widths.Length ? e.Item2 + 2 : (int?)null)).ToArray(),
            hardPan);

    [Fact]
    public void Any_source_is_laid_validly_in_as_few_passes_as_brute_force_finds()
    {
        Cases.Sample(c =>
        {
            var chart = ChartOf(c.Ports, c.Elements);
            var view = New(chart);
            var proposal = Layer.Propose(view, new LayWish(HardPan: c.HardPan));

            // No line is dropped that fits on any port at all.
            var fitting = Enumerable.Range(0, c.Elements.Length).Where(i => Fits(c.Ports, c.Elements[i])).ToList();
            Assert.Equal(fitting.Select(i => $"e{i}"), proposal.Lines.Select(l => l.Elements.Single().ElementId).Select(i => i.Value));
            Assert.All(proposal.Lines, l =>
            {
                Assert.Equal(chart.Element(l.Elements[0].ElementId)!.Width, l.Width); // widths are kept
                Assert.True(l.Port.Width >= l.Width);
                Assert.False(l.Port.IsMain); // the main is reserved
            });

            // No channel is used twice in a pass.
            var channels = proposal.Lines.SelectMany(l => Enumerable.Range(l.Port.FirstChannel + l.Side, (int)l.Width).Select(ch => (l.Pass, ch))).ToList();
            Assert.Equal(channels.Count, channels.Distinct().Count());
            Assert.Equal(Fewest(c.Ports, [.. fitting.Select(i => c.Elements[i])], c.HardPan), proposal.Passes);

            // In each pass no other way to share out the same ports crosses less.
            foreach (var pass in proposal.Lines.GroupBy(l => l.Pass))
            {
                var places = pass.Select(l => (Line: l, Fixed: chart.Element(l.Elements[0].ElementId)!.Ports.Length > 0)).ToList();
                var fewest = Shared([.. places.Select(p => (p.Line.Width, p.Fixed, At: 2 * p.Line.Port.Number + p.Line.Side))]).Min(Inversions);
                Assert.Equal(fewest, Inversions([.. places.Select(p => 2 * p.Line.Port.Number + p.Line.Side)]));
            }

            // What is accepted is what was proposed: every element arrives alone on its track in its pass.
            foreach (var line in proposal.Lines)
            {
                var seen = New(proposal.After).InPass(line.Pass);
                var track = Assert.Single(seen.Split.Tracks, t => t.Name == line.Name);
                Assert.Equal(line.Elements, seen.SoundingIn(track));
            }

            // Laying twice changes nothing, neither keeping nor anew.
            var after = New(proposal.After);
            Assert.Null(Layer.Propose(after, new LayWish(HardPan: c.HardPan)).Edit);
            Assert.Null(Layer.Propose(after, new LayWish(Anew: true, HardPan: c.HardPan)).Edit);
        }, iter: 1000);
    }

    /// <summary>Whatever spares a pass is weighed at once: ports, the main pair, halves of pairs, further outputs, and sockets.</summary>
    [Fact]
    public void All_means_together_take_as_few_passes_as_brute_force_finds()
    {
        var cases =
            from ports in Gen.Bool.Array[1, 3]
            from elements in Gen.Select(Gen.Bool, Gen.Int[-6, 2]).Array[1, 6]
            from means in Gen.Select(Gen.Bool, Gen.Bool, Gen.Bool)
            from sockets in Gen.Int[0, 5]
            let widths = ports.Select(p => p ? Width.Stereo : Width.Mono).ToArray()
            select (
                Ports: widths,
                Elements: elements.Select(e => (e.Item1 ? Width.Stereo : Width.Mono, e.Item2 >= 0 && e.Item2 < widths.Length ? e.Item2 + 2 : (int?)null)).ToArray(),
                Leaves: means.Item1,
                HardPan: means.Item2,
                Declares: means.Item3,
                Sockets: sockets == 0 ? (int?)null : sockets);
        cases.Sample(
            c =>
            {
                var chart = ChartOf(c.Ports, c.Elements) with { AssignedLeavesMain = c.Leaves, DeclaresPorts = c.Declares };
                var start = StartingSplit.Of([chart], 1, 48000);
                if (c.Sockets is { } sockets)
                {
                    start = Sessions.After(start, new AddBank(BankKind.Analog, "Analog", sockets), new SetBank(start.Banks[0] with { Connected = false }));
                }

                var proposal = Layer.Propose(New(start), new LayWish(HardPan: c.HardPan));

                bool HasCable((Width Width, int? Only) e) => c.Sockets is not { } s || s >= (int)e.Width;

                // The main pair is a port like any other where everything leaves it, and as many outputs are declared as one likes.
                (Width Width, bool Declared)[] gate =
                [
                    .. c.Ports.Select(p => (p, false)),
                    .. c.Leaves ? [(Width.Stereo, false)] : Array.Empty<(Width, bool)>(),
                    .. c.Declares ? c.Elements.Select(e => (e.Item1, true)) : [],
                ];
                var usesMain = c.Elements.All(e => Seats(gate, e) && HasCable(e));
                gate = c.Leaves && !usesMain ? [.. gate.Where((_, i) => i != c.Ports.Length)] : gate;
                var fitting = c.Elements.Where(e => Seats(gate, e) && HasCable(e)).ToArray();
                Assert.Equal(fitting.Length, proposal.Lines.Length);
                if (fitting.Length > 0)
                {
                    Assert.Equal(FewestOver(gate, fitting, c.HardPan, c.Sockets), proposal.Passes);
                }

                var channels = proposal.Lines.SelectMany(l => Enumerable.Range(l.Port.FirstChannel + l.Side, (int)l.Width).Select(ch => (l.Pass, ch))).ToList();
                Assert.Equal(channels.Count, channels.Distinct().Count());
                var inputs = proposal.Lines.SelectMany(l => Enumerable.Range(l.Input!.Channel, (int)l.Width).Select(i => (l.Pass, l.Input.BankId, i))).ToList();
                Assert.Equal(inputs.Count, inputs.Distinct().Count());

                // Once it was loaded again, each arrives alone on its track.
                var settled = New(proposal.After).Settled;
                Assert.All(proposal.Lines, line =>
                {
                    var seen = settled.InPass(line.Pass);
                    Assert.Equal(line.Elements, seen.SoundingIn(Assert.Single(seen.Split.Tracks, t => t.Name == line.Name)));
                });
                Assert.Null(Layer.Propose(New(proposal.After), new LayWish(HardPan: c.HardPan)).Edit);
            },
            iter: 1500);

        static bool Seats((Width Width, bool Declared)[] gate, (Width Width, int? Only) element) =>
            element.Only is { } only ? gate[only - 2].Width >= element.Width : gate.Any(p => p.Width >= element.Width);
    }

    /// <summary>Tries every seat for every line, with more and more passes; each has so many sockets, of which two from an odd one on are a pair.</summary>
    private static int FewestOver((Width Width, bool Declared)[] gate, (Width Width, int? Only)[] lines, bool hardPan, int? sockets)
    {
        for (var passes = 1; ; passes++)
        {
            if (Place(0, new (bool Whole, int Halves)[passes, gate.Length], new int[passes], new int[passes]))
            {
                return passes;
            }
        }

        bool Place(int line, (bool Whole, int Halves)[,] used, int[] cables, int[] pairs)
        {
            if (line == lines.Length)
            {
                return true;
            }

            var (width, only) = lines[line];
            for (var pass = 0; pass < cables.Length; pass++)
            {
                if (sockets is { } most && (cables[pass] + (int)width > most || (width == Width.Stereo && pairs[pass] == most / 2)))
                {
                    continue;
                }

                for (var port = 0; port < gate.Length; port++)
                {
                    var before = used[pass, port];
                    if (gate[port].Width < width || (only is { } wanted && wanted != port + 2) || before.Whole)
                    {
                        continue;
                    }

                    // Mono lines share a pair if that is wished, or if neither has another port to go to.
                    var half = width == Width.Mono && gate[port].Width == Width.Stereo && (hardPan || only is not null);
                    if (before.Halves > 0 && !half)
                    {
                        continue;
                    }

                    used[pass, port] = half ? (before.Halves == 1, before.Halves + 1) : (true, 0);
                    cables[pass] += (int)width;
                    pairs[pass] += width == Width.Stereo ? 1 : 0;
                    if (Place(line + 1, used, cables, pairs))
                    {
                        return true;
                    }

                    used[pass, port] = before;
                    cables[pass] -= (int)width;
                    pairs[pass] -= width == Width.Stereo ? 1 : 0;
                }
            }

            return false;
        }
    }

    /// <summary>Every way to share the places of some lines out among those of the same width that could go elsewhere.</summary>
    private static IEnumerable<int[]> Shared((Width Width, bool Fixed, int At)[] lines)
    {
        if (lines.Length == 0)
        {
            yield return [];
            yield break;
        }

        for (var i = 0; i < lines.Length; i++)
        {
            if (i == 0 || (!lines[0].Fixed && !lines[i].Fixed && lines[i].Width == lines[0].Width))
            {
                var rest = lines[1..];
                if (i > 0)
                {
                    rest[i - 1] = lines[i] with { At = lines[0].At };
                }

                foreach (var way in Shared(rest))
                {
                    yield return [lines[i].At, .. way];
                }
            }
        }
    }

    /// <summary>The fewest passes over cables: every way of filling one, and then the rest.</summary>
    private static int Rounds(int stereo, int mono, int pairs, int sockets) => stereo + mono == 0
        ? 0
        : 1 + (from s in Enumerable.Range(0, Math.Min(stereo, pairs) + 1)
               from m in Enumerable.Range(0, Math.Max(0, Math.Min(mono, sockets - 2 * s)) + 1)
               where s + m > 0
               select Rounds(stereo - s, mono - m, pairs, sockets)).Min();

    private static int Inversions(int[] places) =>
        (from i in Enumerable.Range(0, places.Length) from j in Enumerable.Range(0, i) where places[j] > places[i] select 1).Sum();

    [Fact]
    public void Microphones_of_one_drum_are_recorded_in_one_pass_and_it_costs_none()
    {
        var song = Song.Of(CheckPattern.Of([OstlerKitRoom.Chart], Tempo.Default));
        var start = StartingSplit.Of([OstlerKitRoom.Chart], 4, 48000);
        for (var sockets = 2; sockets <= 16; sockets++)
        {
            var split = Sessions.After(start, new AddBank(BankKind.Analog, "Analog", sockets), new SetBank(start.Banks[0] with { Connected = false }));
            var lines = Layer.Propose(Sessions.View(split, song), new LayWish()).Lines;
            int PassOf(string id) => lines.Single(l => l.Elements.Single().ElementId.Value == id).Pass;
            Assert.Equal(PassOf("kick-in"), PassOf("kick-out"));
            Assert.Equal(PassOf("snare-top"), PassOf("snare-bottom"));
            Assert.Equal(Rounds(lines.Count(l => l.Width == Width.Stereo), lines.Count(l => l.Width == Width.Mono), sockets / 2, sockets), lines.Max(l => l.Pass));
        }
    }

    [Fact]
    public void Over_cables_any_source_is_laid_in_as_few_passes_as_brute_force_finds()
    {
        Gen.Select(Gen.Bool.Array[1, 7], Gen.Int[1, 6], Gen.Int[0, 7]).Sample((stereo, sockets, off) =>
        {
            var widths = stereo.Select(s => s ? Width.Stereo : Width.Mono).ToArray();
            var split = StartingSplit.Of([ChartOf(widths, [.. widths.Select(w => (w, (int?)null))])], 4, 48000);
            split = Sessions.After(
                split,
                new AddBank(BankKind.Analog, "Analog", sockets),
                new SetBank(split.Banks[0] with { Connected = false }));
            if (off >= 1 && off <= sockets)
            {
                split = Sessions.After(split, new SwitchInputs(new BankId("in1"), off, off, false));
            }

            var free = Enumerable.Range(1, sockets).Where(i => i != off).ToList();
            var pairs = free.Count(i => i % 2 == 1 && free.Contains(i + 1));
            var view = Sessions.View(split, Song.Of(CheckPattern.Of([split.Units[0].Chart], Tempo.Default)));
            var proposal = Layer.Propose(view, new LayWish());
            var seated = proposal.Lines.ToList(); // a line without an input is not laid
            Assert.All(seated, l => Assert.NotNull(l.Input));
            Assert.Equal(widths.Count(w => w == Width.Mono ? free.Count > 0 : pairs > 0), seated.Count);
            var used = seated.SelectMany(l => Enumerable.Range(l.Input!.Channel, (int)l.Width).Select(i => (l.Pass, i))).ToList();
            Assert.Equal(used.Count, used.Distinct().Count());
            Assert.DoesNotContain(used, u => u.i == off);
            Assert.All(seated.Where(l => l.Width == Width.Stereo), l => Assert.Equal(1, l.Input!.Channel % 2));
            if (seated.Count > 0)
            {
                Assert.Equal(Rounds(seated.Count(l => l.Width == Width.Stereo), seated.Count(l => l.Width == Width.Mono), pairs, free.Count), seated.Max(l => l.Pass));
            }

            foreach (var line in seated)
            {
                var seen = Sessions.View(proposal.After, Song.Of(CheckPattern.Of([split.Units[0].Chart], Tempo.Default))).InPass(line.Pass);
                Assert.Equal(line.Elements, seen.SoundingIn(Assert.Single(seen.Split.Tracks, t => t.Name == line.Name)));
            }

            Assert.Null(Layer.Propose(Sessions.View(proposal.After, Song.Of(CheckPattern.Of([split.Units[0].Chart], Tempo.Default))), new LayWish(Anew: true)).Edit);
        }, iter: 300);
    }

    [Fact]
    public void Chosen_lines_alone_are_laid_and_nobody_else_is_touched()
    {
        var song = Song.Of(CheckPattern.Of([MudlarkNine.Chart], Tempo.Default));
        var start = StartingSplit.Of([MudlarkNine.Chart], 4, 48000);
        var wish = new LayWish { Only = [new(new UnitId("u1"), new ElementId("snare")), new(new UnitId("u1"), new ElementId("hat"))] };
        var some = Layer.Propose(Sessions.View(start, song), wish);
        Assert.Equal(["Snare", "Closed hat"], some.After.Tracks.Select(t => t.Name));
        Assert.Null(Layer.Propose(Sessions.View(some.After, song), wish).Edit);

        var whole = Layer.Propose(Sessions.View(some.After, song), new LayWish()).After;
        var again = Layer.Propose(Sessions.View(whole, song), wish with { Anew = true });
        Assert.Equal(whole.Tracks.Where(t => t.Name is not ("Snare" or "Closed hat")), again.After.Tracks.Where(t => t.Name is not ("Snare" or "Closed hat")));
    }

    [Fact]
    public void The_shipped_charts_are_laid_with_nothing_left_to_mend()
    {
        foreach (var chart in Shelf.Charts)
        {
            var song = Song.Of(CheckPattern.Of([chart], Tempo.Default));
            var split = StartingSplit.Of([chart], (int)song.Bars, 48000);
            var proposal = Layer.Propose(Sessions.View(split, song), new LayWish());
            Assert.DoesNotContain(proposal.Reasons, r => r.Contains("fits on none"));
            var after = proposal.After.Unit(new UnitId("u1"))!.NeedsRestart ? Sessions.After(proposal.After, new MarkRestarted(new UnitId("u1"))) : proposal.After;
            Assert.DoesNotContain(AllChecks.Look(Sessions.View(after, song)), f => f.ToMend && f.Check != "UnheardPort");
        }
    }

    [Fact]
    public void Twelve_parts_on_four_pairs_take_four_passes_and_two_with_the_hard_pan_trick()
    {
        var song = Song.Of(CheckPattern.Of([WickerKeys.Chart], Tempo.Default));
        var view = Sessions.View(StartingSplit.Of([WickerKeys.Chart], 4, 48000), song);

        // Twelve mono parts and a stereo return on four pairs, the main among them since everything leaves it.
        Assert.Equal(4, Layer.Propose(view, new LayWish(HardPan: false)).Passes); // 13 / 4
        Assert.Equal(2, Layer.Propose(view, new LayWish()).Passes); // (12 / 2 + 1) / 4
    }

    [Fact]
    public void Groups_are_laid_as_one_line_each()
    {
        var song = Song.Of(CheckPattern.Of([TansyGrid.Chart], Tempo.Default));
        var view = Sessions.View(StartingSplit.Of([TansyGrid.Chart], 4, 48000), song);
        var proposal = Layer.Propose(view, new LayWish(ByGroup: true));
        Assert.Equal(["Group A", "Group B", "Group C", "Group D", "Group E", "Group F"], proposal.Lines.Select(l => l.Name));
        Assert.Equal([2, 3, 4, 5, 6, 7], proposal.Lines.Select(l => l.Port.Number));
        Assert.Equal(1, proposal.Passes);
        Assert.Equal(4, Layer.Propose(view, new LayWish(HardPan: false)).Passes); // 72 pads on 20 pairs
        Assert.Equal(2, Layer.Propose(view, new LayWish()).Passes);
    }

    [Fact]
    public void What_is_there_is_kept_and_only_what_is_new_is_laid()
    {
        var (split, song) = Sessions.Kit;
        var gone = Sessions.After(split, new RemoveTrack(Sessions.TrackOf(split, "Hat").Id), new RenameTrack(Sessions.TrackOf(split, "Ride").Id, "My ride"));
        var proposal = Layer.Propose(Sessions.View(gone, song), new LayWish());
        Assert.Equal(["Hat"], proposal.Lines.Select(l => l.Name));
        Assert.Equal(gone.Tracks, proposal.After.Tracks.Take(11));

        // Anew, the track goes on under the name it was given.
        Assert.Contains(Layer.Propose(Sessions.View(gone, song), new LayWish(Anew: true)).After.Tracks, t => t.Name == "My ride");
    }

    private static SplitView New(Chart chart) => New(StartingSplit.Of([chart], 1, 48000));

    private static SplitView New(Split split) => new(split, [.. split.Units[0].Elements.Select(e => new ElementRef(new UnitId("u1"), e.ElementId))]);

    private static bool Fits(Width[] ports, (Width Width, int? Only) element) =>
        element.Only is { } only ? ports[only - 2] >= element.Width : ports.Any(p => p >= element.Width);

    private static Chart ChartOf(Width[] ports, (Width Width, int? Only)[] elements)
    {
        var channel = 3;
        var gate = ImmutableArray.CreateBuilder<ChartPort>();
        gate.Add(new ChartPort(1, "Main", 1, Width.Stereo, Tap.AfterFader) { IsMain = true });
        foreach (var width in ports)
        {
            gate.Add(new ChartPort(gate.Count + 1, $"Out {gate.Count + 1}", channel, width, Tap.AfterFader));
            channel += (int)width;
        }

        return new Chart(new ChartId("any"), "Any", SourceKind.Hardware, "Any.")
        {
            Voices = [],
            Elements = [.. elements.Select((e, i) => new ChartElement(new ElementId($"e{i}"), $"E{i}", Family.Keys, ElementKind.Voice, e.Width) { Ports = e.Only is { } only ? [only] : [] })],
            Ports = gate.ToImmutable(),
            Modes = [new ChartMode(new ModeId("all"), "All", [.. Enumerable.Range(1, gate.Count)], NeedsRestart: false)],
        };
    }

    /// <summary>Tries every seat for every line, with more and more passes.</summary>
    private static int Fewest(Width[] ports, (Width Width, int? Only)[] lines, bool hardPan)
    {
        for (var passes = 1; ; passes++)
        {
            if (Place(0, new (bool Whole, int Halves)[passes, ports.Length]))
            {
                return passes;
            }
        }

        bool Place(int line, (bool Whole, int Halves)[,] used)
        {
            if (line == lines.Length)
            {
                return true;
            }

            var (width, only) = lines[line];
            for (var pass = 0; pass < used.GetLength(0); pass++)
            {
                for (var port = 0; port < ports.Length; port++)
                {
                    if (ports[port] < width || (only is { } wanted && wanted != port + 2) || used[pass, port].Whole)
                    {
                        continue;
                    }

                    // Mono lines share a pair if that is wished, or if none of them has another port to go to.
                    var before = used[pass, port];
                    var half = width == Width.Mono && ports[port] == Width.Stereo && (hardPan || only is not null);
                    if (before.Halves > 0 && (!half || before.Halves == 2 || (!hardPan && only is null)))
                    {
                        continue;
                    }

                    used[pass, port] = half ? (before.Halves == 1, before.Halves + 1) : (true, 0);
                    if (Place(line + 1, used))
                    {
                        return true;
                    }

                    used[pass, port] = before;
                }
            }

            return false;
        }
    }
}
