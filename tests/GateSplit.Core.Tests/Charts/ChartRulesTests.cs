using GateSplit.Core.Charts;
using GateSplit.Core.Quantities;

namespace GateSplit.Core.Tests.Charts;

/// <summary>What no chart can hold, each at its very edge.</summary>
public sealed class ChartRulesTests
{
    private static readonly Chart Nine = MudlarkNine.Chart;

    /// <summary>What is put where: it fits, or the place where it does not.</summary>
    public static TheoryData<string, Func<Chart, Chart>, string?> Edges
    {
        get
        {
            var edges = new TheoryData<string, Func<Chart, Chart>, string?>();
            void Drum(string what, Func<DrumPatch, DrumPatch> change, bool fits) => edges.Add(
                what, c => c with { Voices = c.Voices.SetItem(0, c.Voices[0] with { Drum = change(c.Voices[0].Drum!) }) }, fits ? null : "chart.voices[0].drum");
            void Tone(string what, Func<TonePatch, TonePatch> change, bool fits) => edges.Add(
                what, c => c with { Voices = c.Voices.SetItem(0, c.Voices[0] with { Drum = null, Tone = change(new TonePatch { Saw = 0.5 }) }) }, fits ? null : "chart.voices[0].tone");
            void Port(string what, Func<ChartPort, ChartPort> change, bool fits) => edges.Add(
                what, c => c with { Ports = c.Ports.SetItem(c.Ports.Length - 1, change(c.Ports[^1])) }, fits ? null : $"chart.ports[{Nine.Ports.Length - 1}]");
            void Element(string what, Func<ChartElement, ChartElement> change, string? place) => edges.Add(
                what, c => c with { Elements = c.Elements.SetItem(1, change(c.Elements[1])) }, place is null ? null : $"chart.elements[1]{place}");

            foreach (var (hertz, fits) in new[] { (10.0, true), (9.9, false), (22000, true), (22001, false), (1e308, false), (double.NaN, false) })
            {
                Drum($"body {hertz}", d => d with { BodyHz = hertz }, fits);
                Drum($"noise {hertz}", d => d with { NoiseHighHz = hertz }, fits);
                Drum($"metal {hertz}", d => d with { MetalHz = hertz }, fits);
                Tone($"cutoff {hertz}", t => t with { CutoffHz = hertz }, fits);
            }

            foreach (var (level, fits) in new[] { (0.0, true), (-0.01, false), (1, true), (1.01, false) })
            {
                Drum($"body level {level}", d => d with { BodyLevel = level }, fits);
                Drum($"overtone level {level}", d => d with { OvertoneLevel = level }, fits);
                Tone($"saw {level}", t => t with { Saw = level }, fits);
                Tone($"sustain {level}", t => t with { Sustain = level }, fits);
            }

            Drum("a bend of 6", d => d with { BendOctaves = 6 }, true);
            Drum("a bend of 6.1", d => d with { BendOctaves = 6.1 }, false);
            Drum("no bursts", d => d with { Bursts = 0 }, false);
            Drum("a decay of nothing", d => d with { BodyDecaySeconds = 0 }, false);
            Tone("detuned by 101", t => t with { DetuneCents = 101 }, false);
            Tone("an attack of -1", t => t with { AttackSeconds = -1 }, false);
            Port("a first channel at the end of numbers", p => p with { FirstChannel = int.MaxValue, Width = Width.Stereo }, false);
            Port("channel 0", p => p with { FirstChannel = 0 }, false);
            Port("the last channel", p => p with { FirstChannel = 256, Width = Width.Mono }, true);
            Port("beside the last channel", p => p with { FirstChannel = 256, Width = Width.Stereo }, false);
            edges.Add("number 999", c => c with { Ports = c.Ports.Add(new ChartPort(999, "P", 200, Width.Mono, Tap.AfterFader)) }, null);
            edges.Add("number 1000", c => c with { Ports = c.Ports.Add(new ChartPort(1000, "P", 200, Width.Mono, Tap.AfterFader)) }, $"chart.ports[{Nine.Ports.Length}]");
            Port("a width of its own", p => p with { Width = (Width)5 }, false);
            Element("128 voices heard", e => e with { Hears = [.. Enumerable.Repeat(e.Hears[0], 128)] }, null);
            Element("129 voices heard", e => e with { Hears = [.. Enumerable.Repeat(e.Hears[0], 129)] }, ".hears");
            Element("a gap among them", e => e with { Hears = [null!] }, ".hears[0]");
            Element("no list", e => e with { Hears = default }, ".hears");
            Element("an echo of 0.03", e => e with { EchoSeconds = 0.03 }, null);
            Element("an echo of 0.02", e => e with { EchoSeconds = 0.02 }, ".echoSeconds");
            Element("50 metres", e => e with { Hears = [e.Hears[0] with { Metres = 50 }] }, null);
            Element("51 metres", e => e with { Hears = [e.Hears[0] with { Metres = 51 }] }, "");
            Element("a pan of 1.1 heard", e => e with { Hears = [e.Hears[0] with { Pan = new Pan(1.1) }] }, "");
            Element("17 bits", e => e with { Insert = new InsertPatch("X") { Bits = 17 } }, ".insert");
            Element("16 bits", e => e with { Insert = new InsertPatch("X") { Bits = 16 } }, null);
            edges.Add("a text with a zero", c => c with { Gist = "a\0b" }, "chart.gist");
            edges.Add("half a letter", c => c with { Name = "\ud800" }, "chart.name");
            edges.Add("a gap among settings", c => c with { Settings = [null!] }, "chart.settings[0]");
            edges.Add("a gap among voices", c => c with { Voices = c.Voices.SetItem(2, null!) }, "chart.voices[2]");
            edges.Add("a gap among ports", c => c with { Ports = c.Ports.Add(null!) }, $"chart.ports[{Nine.Ports.Length}]");
            edges.Add("a latency of 500", c => c with { LatencyMs = 500 }, null);
            edges.Add("a latency of 501", c => c with { LatencyMs = 501 }, "chart.latencyMs");
            edges.Add("a kind of its own", c => c with { Kind = (SourceKind)12 }, "chart.kind");
            edges.Add("no clock", c => c with { Clock = null! }, "chart.clock");
            edges.Add("a ratio of 3", c => c with { Master = new MasterPatch { Ratio = 3 } }, "chart.master");
            edges.Add("a ratio of 4", c => c with { Master = new MasterPatch { Ratio = 4 } }, null);
            edges.Add("a threshold of 1", c => c with { Master = new MasterPatch { ThresholdDb = new Decibels(1) } }, "chart.master");
            return edges;
        }
    }

    [Theory]
    [MemberData(nameof(Edges))]
    public void The_edge_is_where_it_is_said_to_be(string what, Func<Chart, Chart> change, string? place)
    {
        var misfit = ChartRules.FirstMisfit(change(Nine));
        Assert.True(place is null ? misfit is null : misfit?.Place == place, $"{what}: {misfit}");
        Assert.True(misfit is null || misfit.Value.Sentence.EndsWith('.'), $"{misfit}");
    }
}
