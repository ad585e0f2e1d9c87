using System.Collections.Immutable;
using GateSplit.Core.Charts;
using GateSplit.Core.Demo;
using GateSplit.Core.Edits;
using GateSplit.Core.Notes;
using GateSplit.Core.Planning;
using GateSplit.Core.Proofing;
using GateSplit.Core.Quantities;
using GateSplit.Core.Sound;
using GateSplit.Core.Splits;
using GateSplit.Core.StandIns;
using GateSplit.Core.Views;
using GateSplit.Tests.Shared;

namespace GateSplit.Core.Tests.Proofing;

/// <summary>Proofs of what the stand-ins print, where the truth can be rendered: levels as ffmpeg has them, a clean session that adds up to its mix, bleed as each element alone gives it.</summary>
public sealed class DemoProofTests : IDisposable
{
    private readonly TempFolder _folder = new();

    public static TheoryData<string> Demos => [.. DemoSessions.All.Select(d => d.Name)];

    public void Dispose() => _folder.Dispose();

    [Theory]
    [MemberData(nameof(Demos))]
    public void Loudness_and_true_peak_of_every_demo_file_are_those_of_ffmpeg(string name)
    {
        var demo = DemoSessions.All.First(d => d.Name == name);
        foreach (var printed in Printed(demo.Split, Song.Of(demo.Song)))
        {
            using var wave = WaveReader.Open(printed.Path).Value!;
            var ours = FileLevels.Of(wave);
            if (ours.Channels.All(c => c.Silent))
            {
                continue;
            }

            var theirs = Ebur128.Of(printed.Path);
            if (ours.Loudness.Integrated is { } loud)
            {
                Assert.Equal(theirs.Integrated, loud, 0.11); // it tells one decimal
            }

            if (ours.TruePeaks.Max() is var peak && peak.Value > -80)
            {
                Assert.Equal(theirs.TruePeak, peak.Value, 0.25);
            }
        }
    }

    [Fact]
    public void A_clean_session_adds_up_to_its_mix()
    {
        // Five instruments and their echo leave by a port each, and the mix of all is printed beside them.
        var song = Song.Of(CheckPattern.Of([PocketWeir.Chart], Tempo.Default));
        var split = Layer.Propose(SplitView.Of(StartingSplit.Of([PocketWeir.Chart], (int)song.Bars, 48000), song), new LayWish(HardPan: false) { Unity = true }).After;
        split = Sessions.After(split, new SetPass(split.Pass with { CountInBars = 0, TailSeconds = 4 }));
        var view = SplitView.Of(split, song);
        var lines = Printed(split, song);
        var mix = Printed(PrintPlan.For(view, PrintKind.Mix).Value!.Split, song).Single();
        using var reference = WaveReader.Open(mix.Path).Value!;
        var waves = lines.Select(l => WaveReader.Open(l.Path).Value!).ToList();
        var proof = TakeProof.Of([.. lines.Select((l, i) => new ProofFile(l.Track.Title, waves[i], i))], Parts.Of(view, lines.Select(l => l.Track)), reference);
        waves.ForEach(w => w.Dispose());
        Assert.True(proof.Null!.Fitted.Value <= -100, $"{proof.Null.Fitted} are left");
        Assert.DoesNotContain(ProofFindings.Of(proof), f => f.ToMend);

        // Stereo instruments are stereo.
        Assert.All(proof.Tracks, t => Assert.Equal(PairState.Two, t.Scan.Pair));
    }

    [Fact]
    public void Bleed_is_what_each_element_alone_gives()
    {
        var (split, song) = (LampLit.Session.Split, Song.Of(LampLit.Session.Song));
        var view = SplitView.Of(split, song);
        var lines = Printed(split, song).Where(l => l.Track.Name is not ("Overheads" or "Room" or "Hall return")).ToList();
        var waves = lines.Select(l => WaveReader.Open(l.Path).Value!).ToList();
        var proof = TakeProof.Of([.. lines.Select((l, i) => new ProofFile(l.Track.Title, waves[i], i))], Parts.Of(view, lines.Select(l => l.Track)), null);
        waves.ForEach(w => w.Dispose());
        var told = 0;
        foreach (var from in new[] { "Snare top", "High tom", "Mid tom" })
        {
            // The same song with the notes of this one only: its energy in each track, by that in its own.
            var track = lines.First(l => l.Track.Name == from).Track;
            var voice = view.ElementOf(view.MeaningOf(track).Elements[0]).Chart.Hears.First(h => !h.Bleed).VoiceId;
            var keys = split.Units[0].Chart.Voices.First(v => v.Id == voice).Keys;
            var midi = LampLit.Session.Song;
            var alone = Song.Of(midi with { Tracks = [.. midi.Tracks.Select(t => t.Where(e => !(e.IsNoteOn || e.IsNoteOff) || keys.Contains(e.Data[0])).ToImmutableArray())] });
            var energies = Printed(split, alone).ToDictionary(p => p.Track.Name, p => p.Measure.Channels.Sum(c => Math.Pow(c.Rms.Ratio, 2)));
            foreach (var other in proof.Tracks)
            {
                if (other.Bleed.Where(b => proof.Tracks[b.From].File == from).Select(b => (Decibels?)b.Level).FirstOrDefault() is { } level && !energies[other.File].Equals(0.0))
                {
                    told++;
                    var truth = 10 * Math.Log10(energies[other.File] / energies[from]);
                    Assert.True(Math.Abs(truth - level.Value) <= 2, $"{from} in {other.File}: {level}, truly {truth:0.0}");
                }
            }
        }

        Assert.True(told >= 10, $"only {told} bleeds were told");
    }

    private ImmutableArray<PrintedTrack> Printed(Split split, Song song)
    {
        var folder = Directory.CreateDirectory(_folder[Guid.NewGuid().ToString("N")]).FullName;
        return new StandInRecorder(SplitView.Of(split, song), song).Print(t => Path.Combine(folder, t.Id + ".wav"), DateTime.UnixEpoch);
    }
}
