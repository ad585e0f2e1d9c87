using System.Diagnostics;
using System.Globalization;
using System.Numerics;
using GateSplit.Core.Drawing;
using GateSplit.Core.Handoff;
using GateSplit.Core.Proofing;
using GateSplit.Core.Sound;
using GateSplit.Core.Views;
using MathNet.Numerics.IntegralTransforms;

namespace GateSplit.Bench;

/// <summary>What listening to files costs: proofs, waveforms; and how clean sounds are that were moved between samples.</summary>
internal static class SoundBench
{
    /// <summary>Proves the printed files of a session.</summary>
    /// <param name="session">The session.</param>
    /// <param name="folder">Its files, in the order of its tracks.</param>
    public static void Prove(string session, string folder)
    {
        var opened = SessionFile.Read(File.ReadAllBytes(session)).Value!;
        var view = SplitView.Of(opened.File.Split, opened.Song);
        var waves = Directory.GetFiles(folder, "*.wav").Order(StringComparer.Ordinal).Select(f => WaveReader.Open(f).Value!).ToList();
        var tracks = view.ArmedTracks.Take(waves.Count).ToList();
        var parts = Parts.Of(view, tracks);
        var (watch, before) = (Stopwatch.StartNew(), Environment.CpuUsage.TotalTime);
        TakeProof.Of([.. waves.Select((w, i) => new ProofFile(tracks[i].Title, w, i))], parts, null);
        var (seconds, heard) = (watch.Elapsed.TotalSeconds, waves.Sum(w => w.Frames.Seconds(w.Format.SampleRate)));
        Tell($"  proof of {waves.Count} tracks of {heard / waves.Count / 60:0.0} minutes   {seconds,6:0.00} s   {heard / seconds,5:0} x real time of all tracks   {Process.GetCurrentProcess().PeakWorkingSet64 >> 20} MB at most   on {(Environment.CpuUsage.TotalTime - before).TotalSeconds / seconds:0.0} cores");
        waves.ForEach(w => w.Dispose());
    }

    /// <summary>Zooms through the waveforms of all files of a folder, from the whole to single samples.</summary>
    /// <param name="folder">The files.</param>
    public static void Waves(string folder)
    {
        const int Columns = 1200;
        const double Nearer = 0.5;
        var files = Directory.GetFiles(folder, "*.wav").Order(StringComparer.Ordinal).Select(f => WaveReader.Open(f).Value!).ToArray();
        var overviews = new Overview[files.Length];
        Parallel.For(0, files.Length, i => overviews[i] = FileMeasure.Of(files[i]).Overview);
        var total = (double)files.Max(f => f.Frames.Count);
        var steps = new List<(double Frames, double Milliseconds)>();

        // A server has drawn before: the first time all has to be compiled.
        foreach (var (frames, counts) in new[] { false, true }.SelectMany(counts => Steps().Select(frames => (frames, counts))))
        {
            var (start, watch) = (0.4 * (total - frames), Stopwatch.StartNew());
            Parallel.For(0, files.Length, i =>
            {
                var wave = new FileWaveform(overviews[i], files[i]);
                _ = WaveformOutline.IsNear(frames, Columns) ? WaveformOutline.Line(wave, start, frames, Columns).Line : WaveformOutline.Fill(wave, start, frames, Columns);
            });
            if (counts)
            {
                steps.Add((frames, watch.Elapsed.TotalMilliseconds));
            }
        }

        var slowest = steps.MaxBy(s => s.Milliseconds);
        Tell($"  waveforms of {files.Length} tracks of {total / files[0].Format.SampleRate.Hz / 60:0.0} minutes: {steps.Count} steps of zoom, {steps.Average(s => s.Milliseconds):0.0} ms each, the slowest {slowest.Milliseconds:0.0} ms at {slowest.Frames:0} frames");
        foreach (var file in files)
        {
            file.Dispose();
        }

        IEnumerable<double> Steps()
        {
            for (var frames = total; frames > 16; frames *= Nearer)
            {
                yield return frames;
            }
        }
    }

    /// <summary>Ripple, images and noise of a sound that was moved between samples.</summary>
    public static void Resampler()
    {
        const int Rate = 48000;
        const int Size = 1 << 15;
        var (ripple, images, noise) = (0.0, double.NegativeInfinity, double.NegativeInfinity);
        foreach (var (step, move) in new[] { (1.0, 0.37), (1 + 2e-4, 0.5), (1 - 2e-4, 0.123) })
        {
            for (var at = 0.02; at <= 0.9; at += 0.02)
            {
                var hertz = Math.Round(at * Size / 2) * Rate / Size / step;
                var input = new float[Size + 1024];
                for (var i = 0; i < input.Length; i++)
                {
                    input[i] = (float)Math.Sin(2 * Math.PI * hertz * i / Rate);
                }

                var output = new float[Size];
                Interpolator.Fill(200 + move, step, input, output);
                var bins = new Complex[Size];
                for (var i = 0; i < Size; i++)
                {
                    bins[i] = output[i] * (0.35875 - 0.48829 * Math.Cos(2 * Math.PI * i / Size) + 0.14128 * Math.Cos(4 * Math.PI * i / Size) - 0.01168 * Math.Cos(6 * Math.PI * i / Size));
                }

                Fourier.Forward(bins, FourierOptions.NoScaling);
                var own = (int)Math.Round(hertz * step * Size / Rate);
                ripple = Math.Max(ripple, Math.Abs(20 * Math.Log10(bins[own].Magnitude / (0.35875 * Size / 2))));
                var rest = Enumerable.Range(8, Size / 2 - 8).Where(b => Math.Abs(b - own) > 8).ToList();
                images = Math.Max(images, rest.Max(b => 20 * Math.Log10(bins[b].Magnitude / bins[own].Magnitude)));
                noise = Math.Max(noise, 10 * Math.Log10(rest.Sum(b => bins[b].Magnitude * bins[b].Magnitude) / (2.0 * bins[own].Magnitude * bins[own].Magnitude)));
            }
        }

        Tell($"  resampler to 0.9 of the Nyquist frequency: ripple {ripple:0.0000} dB, strongest image {images:0.0} dB, all else {noise:0.0} dB below a sine (32-bit floats)");
    }

    private static void Tell(FormattableString line) => Console.WriteLine(line.ToString(CultureInfo.InvariantCulture));
}
