using System.Collections.Immutable;
using GateSplit.Core.Charts;
using GateSplit.Core.Splits;
using GateSplit.Core.StandIns;

namespace GateSplit.Core.Tests.StandIns;

public sealed class HeldNotesTests
{
    private const int SampleRate = 48000;
    private const int Frames = 40000;
    private static readonly TonePatch[] Patched = [Patches.Bass(), Patches.Keys(), Patches.Pad(), Patches.Lead(), Patches.Bell()];

    [Fact]
    public void Eight_and_sixteen_lanes_give_the_same_bits_in_whatever_blocks()
    {
        var voices = Voices(60);
        var eight = Rendered(new HeldNotes<Lanes8>(voices, SampleRate), voices.Length, 4096);
        var sixteen = Rendered(new HeldNotes<Lanes16>(voices, SampleRate), voices.Length, 4096);
        var sliced = Rendered(new HeldNotes<Lanes16>(voices, SampleRate), voices.Length, 77);
        Assert.All(eight, voice => Assert.Contains(voice, sample => MathF.Abs(sample) > 0.01f));
        Assert.Equal(eight, sixteen);
        Assert.Equal(eight, sliced);
    }

    [Fact]
    public void A_voice_sounds_the_same_alone()
    {
        var voices = Voices(60);
        var together = Rendered(IHeldNotes.Of(voices, SampleRate), voices.Length, 1000);
        for (var voice = 0; voice < voices.Length; voice++)
        {
            Assert.Equal(together[voice], Rendered(IHeldNotes.Of([voices[voice]], SampleRate), 1, 1000)[0]);
        }
    }

    /// <summary>Sample by sample from the formulas, in double precision.</summary>
    [Theory]
    [InlineData(48, 0.7, 0)]
    [InlineData(69, 0.4, 0.5)]
    [InlineData(88, 0, 0.9)]
    public void A_note_follows_its_formula(int key, double saw, double sine)
    {
        var patch = Patches.Lead() with { Saw = saw, Sine = sine };
        var note = new PlayedNote(0, 12000, Core.Quantities.Frames.Never, key, 127);
        var voice = new HeldVoice([note], patch, _ => new UnitVoice(new VoiceId("v")));
        var heard = Rendered(IHeldNotes.Of([voice], SampleRate), 1, 4096)[0];
        var turn = 440 * Math.Pow(2, (key - 69 + patch.Semitones) / 12.0) / SampleRate;
        var detune = Math.Pow(2, patch.DetuneCents / 2400);
        double one = 0, two = 0, envelope = 0;
        for (var n = 0; n < 20000; n++)
        {
            var after = n < 12000
                ? envelope < 1 && n <= patch.AttackSeconds * SampleRate ? Math.Min(1, (n + 1) / (patch.AttackSeconds * SampleRate)) : patch.Sustain + (envelope - patch.Sustain) * Math.Pow(0.001, 1 / (patch.DecaySeconds * SampleRate))
                : envelope * Math.Pow(0.001, 1 / (patch.ReleaseSeconds * SampleRate));
            var x = 0.5 * saw * (Saw(0.63 + (n + 1) * turn * detune, turn * detune) + Saw(0.11 + (n + 1) * turn / detune, turn / detune))
                + sine * Math.Sin(2 * Math.PI * (n + 1) * turn);
            var g = Math.Tan(Math.PI * Math.Min(0.45, patch.CutoffHz / SampleRate * Math.Pow(2, patch.CutoffOctaves * envelope)));
            var band = (one + g * (x - two)) / (1 + g * (g + 0.8));
            var low = two + g * band;
            (one, two) = (2 * band - one, 2 * low - two);
            var expected = low * after * note.Gain * patch.Level;
            envelope = after;

            // A fall may begin with the next piece: 0.7 ms of it are 3e-3.
            Assert.True(Math.Abs(expected - heard[n]) < 4e-3 * patch.Level, $"Sample {n}: {heard[n]} where the formula says {expected}.");
        }
    }

    /// <summary>A saw whose jump is rounded over the sample before it and the one after it.</summary>
    private static double Saw(double phase, double turn)
    {
        var x = phase - Math.Round(phase); // -1/2 to 1/2, the jump at half a turn
        var samplesToJump = (0.5 - Math.Abs(x)) / turn;
        var w = Math.Max(0, 1 - samplesToJump);
        return 2 * x * (1 - w * w);
    }

    private static ImmutableArray<HeldVoice> Voices(int notesEach)
    {
        var random = new Random(20);
        return
        [
            .. Patched.Select(patch => new HeldVoice(
                [
                    .. Enumerable.Range(0, notesEach)
                        .Select(_ => random.Next(Frames * 3 / 4))
                        .Order()
                        .Select(start => new PlayedNote(start, start + random.Next(1, 9000), Core.Quantities.Frames.Never, random.Next(30, 100), random.Next(1, 128))),
                ],
                patch,
                _ => new UnitVoice(new VoiceId("v")))),
        ];
    }

    private static float[][] Rendered(IHeldNotes notes, int voices, int blockFrames)
    {
        var heard = Enumerable.Range(0, voices).Select(_ => new float[Frames]).ToArray();
        for (var at = 0; at < Frames; at += blockFrames)
        {
            var frames = Math.Min(blockFrames, Frames - at);
            notes.Render(at, [.. heard.Select(v => v.AsMemory(at, frames))]);
        }

        return heard;
    }
}
