using System.Collections.Immutable;
using GateSplit.Core.Checks;
using GateSplit.Core.Notes;
using GateSplit.Core.Planning;
using GateSplit.Core.Signal;
using GateSplit.Core.Sound;
using GateSplit.Core.Splits;

namespace GateSplit.Core.StandIns;

/// <summary>
/// The simulated recorder: runs one pass of the stand-ins through the split, block by block, and writes one file for
/// each armed track. All files begin with the first bar and have the same length. Memory does not grow with the pass.
/// </summary>
public sealed class StandInRecorder
{
    private readonly SplitView _view;
    private readonly Song _song;

    /// <summary>Sets the recorder up.</summary>
    /// <param name="view">The split.</param>
    /// <param name="song">The notes the sources play.</param>
    public StandInRecorder(SplitView view, Song song)
    {
        _view = view;
        _song = song;
    }

    /// <summary>Frames rendered at a time.</summary>
    public int BlockFrames { get; init; } = 8192;

    /// <summary>Threads to work with.</summary>
    public int Threads { get; init; } = 2;

    /// <summary>Why no pass can run with this split; null if one can.</summary>
    public string? Refusal()
    {
        if (!_view.ArmedTracks.Any())
        {
            return "No track is armed, so a pass would record nothing.";
        }

        return AllChecks.Look(_view).FirstOrDefault(f => f.Severity == Severity.Stop)?.Sentence;
    }

    /// <summary>Runs the pass.</summary>
    /// <param name="pathOf">Where a track's file is to lie; its folder exists.</param>
    /// <param name="originated">Date and time written into the files.</param>
    /// <param name="progress">Told the share done, 0 to 1; may be null.</param>
    /// <param name="cancel">Stops the pass and leaves nothing behind.</param>
    /// <returns>The files, in the order of the tracks.</returns>
    /// <exception cref="IOException">The disk refuses; nothing is left behind.</exception>
    /// <exception cref="InvalidOperationException"><see cref="Refusal"/> says why.</exception>
    public ImmutableArray<PrintedTrack> Print(
        Func<Track, string> pathOf, DateTime originated, IProgress<double>? progress = null, CancellationToken cancel = default)
    {
        if (Refusal() is { } refusal)
        {
            throw new InvalidOperationException(refusal);
        }

        var times = PassTimes.Of(_view, _song);
        var desk = new Desk(_view.Split, _view.Signal, BlockFrames);
        var sources = _view.Split.Units
            .Select(u => (u.Id, Source: new UnitStandIn(u, _view.Signal, _song, times.SampleRate, BlockFrames)))
            .ToDictionary(u => u.Id, u => u.Source);
        var gear = new Gear([.. sources.Values], Threads);
        var tapes = new List<Tape>();
        try
        {
            foreach (var track in _view.ArmedTracks)
            {
                var info = new BroadcastInfo($"{track.Name}: {Carried(track)}", originated);
                tapes.Add(new Tape(track, pathOf(track), _view.Split.Pass, times.Frames, info, BlockFrames));
            }

            var options = new ParallelOptions { MaxDegreeOfParallelism = Threads };
            for (long at = 0; at < times.Frames; at += BlockFrames)
            {
                cancel.ThrowIfCancellationRequested();
                var frames = (int)Math.Min(BlockFrames, times.Frames - at);
                gear.Render(at, frames);
                desk.Mix(sources, frames);
                Parallel.ForEach(tapes, options, tape => tape.Record(desk, frames));
                progress?.Report((double)(at + frames) / times.Frames);
            }

            foreach (var tape in tapes)
            {
                tape.Finish();
            }

            foreach (var tape in tapes)
            {
                tape.TakeName();
            }

            return [.. tapes.Select(t => t.Printed())];
        }
        catch (AggregateException e) when (e.InnerException is IOException inner)
        {
            throw new IOException(inner.Message, inner);
        }
        finally
        {
            foreach (var tape in tapes)
            {
                tape.Dispose();
            }
        }
    }

    private string Carried(Track track) =>
        Words.List([.. _view.SoundingIn(track).Select(e => $"{_view.Split.NameOf(e)} of {_view.Split.Unit(e.UnitId)!.Name}")]);

    /// <summary>All sources together, step by step, each step spread over the threads.</summary>
    private sealed class Gear(ImmutableArray<UnitStandIn> sources, int threads)
    {
        private readonly ParallelOptions _threads = new() { MaxDegreeOfParallelism = threads };
        private readonly ImmutableArray<(UnitStandIn Source, int Index)> _voices =
            [.. sources.SelectMany(s => Enumerable.Range(0, s.Voices).Select(i => (s, i)))];
        private readonly ImmutableArray<(UnitStandIn Source, int Index)> _elements =
            [.. sources.SelectMany(s => Enumerable.Range(0, s.Elements).Select(i => (s, i)))];

        public void Render(long start, int frames)
        {
            Parallel.For(0, _voices.Length, _threads, i => _voices[i].Source.RenderVoice(_voices[i].Index, start, frames));
            Parallel.For(0, _elements.Length, _threads, i => _elements[i].Source.RenderElement(_elements[i].Index, frames));
            Parallel.For(0, sources.Length, _threads, i => sources[i].RenderGate(frames));
        }
    }

    /// <summary>The recorder's tracks: what arrives on each, buses after the tracks that feed them.</summary>
    private sealed class Desk
    {
        private readonly SplitSignal _signal;
        private readonly Split _split;
        private readonly Dictionary<string, float[][]> _tracks;
        private readonly ImmutableArray<string> _order;

        public Desk(Split split, SplitSignal signal, int mostFrames)
        {
            _split = split;
            _signal = signal;
            _tracks = split.Tracks.ToDictionary(t => t.Id, t => Enumerable.Range(0, (int)t.Width).Select(_ => new float[mostFrames]).ToArray());
            _order = Order();
        }

        public ReadOnlySpan<float> Samples(Track track, int side, int frames) => _tracks[track.Id][side].AsSpan(0, frames);

        public void Mix(Dictionary<string, UnitStandIn> sources, int frames)
        {
            foreach (var id in _order)
            {
                var sides = _tracks[id];
                foreach (var side in sides)
                {
                    side.AsSpan(0, frames).Clear();
                }

                foreach (var feed in _signal.Into(id))
                {
                    var port = _split.Unit(feed.UnitId)!.Chart.Port(feed.Port)!;
                    var source = sources[feed.UnitId];
                    Add(sides, source.Gate(port.FirstChannel, frames), source.Gate(port.LastChannel, frames), feed.Gain, frames);
                }

                foreach (var feed in _signal.BusFeeds.Where(b => b.ToTrackId == id))
                {
                    var from = _tracks[feed.FromTrackId];
                    Add(sides, from[0].AsSpan(0, frames), from[^1].AsSpan(0, frames), feed.Gain, frames);
                }
            }
        }

        private static void Add(float[][] sides, ReadOnlySpan<float> left, ReadOnlySpan<float> right, Gain2x2 gain, int frames)
        {
            Mixing.AddScaled(sides[0].AsSpan(0, frames), left, (float)gain.LL);
            Mixing.AddScaled(sides[0].AsSpan(0, frames), right, (float)gain.LR);
            if (sides.Length > 1)
            {
                Mixing.AddScaled(sides[1].AsSpan(0, frames), left, (float)gain.RL);
                Mixing.AddScaled(sides[1].AsSpan(0, frames), right, (float)gain.RR);
            }
        }

        private ImmutableArray<string> Order()
        {
            var order = ImmutableArray.CreateBuilder<string>();
            void Visit(string id)
            {
                if (order.Contains(id))
                {
                    return;
                }

                foreach (var feed in _signal.BusFeeds.Where(b => b.ToTrackId == id))
                {
                    Visit(feed.FromTrackId);
                }

                order.Add(id);
            }

            foreach (var track in _split.Tracks)
            {
                Visit(track.Id);
            }

            return order.ToImmutable();
        }
    }

    /// <summary>One armed track's file, measured as it is written: the numbers are of what the file holds.</summary>
    private sealed class Tape : IDisposable
    {
        private readonly Track _track;
        private readonly string _path;
        private readonly AudioFormat _format;
        private readonly long _frames;
        private readonly WaveWriter _writer;
        private readonly ChannelMeter[] _meters;
        private readonly Dither[]? _dithers;
        private readonly OverviewBuilder _overview;
        private readonly byte[] _bytes;
        private readonly float[] _samples;

        public Tape(Track track, string path, PassSettings pass, long frames, BroadcastInfo info, int mostFrames)
        {
            _track = track;
            _path = path;
            _frames = frames;
            _format = new AudioFormat((int)track.Width, pass.SampleRate, pass.Format);
            _writer = new WaveWriter(path, _format, frames, info);
            _meters = [.. Enumerable.Range(0, _format.Channels).Select(_ => new ChannelMeter())];
            _dithers = pass.Format == SampleFormat.Pcm16
                ? [.. Enumerable.Range(0, _format.Channels).Select(c => new Dither((uint)c + 1))]
                : null;
            _overview = new OverviewBuilder(_format.Channels);
            _bytes = new byte[mostFrames * _format.BytesPerFrame];
            _samples = new float[mostFrames];
        }

        public void Record(Desk desk, int frames)
        {
            var bytes = _bytes.AsSpan(0, frames * _format.BytesPerFrame);
            var samples = _samples.AsSpan(0, frames);
            for (var channel = 0; channel < _format.Channels; channel++)
            {
                desk.Samples(_track, channel, frames).CopyTo(samples);
                _dithers?[channel].Apply(samples);
                SampleCodec.Encode(samples, _format, channel, bytes);
                _meters[channel].Add(samples);
                _overview.Add(channel, samples);
            }

            _writer.Write(bytes);
        }

        public void Finish() => _writer.Finish();

        public void TakeName() => _writer.TakeName();

        public PrintedTrack Printed() => new(
            _track, _path, new FileMeasure(_format, _frames, [.. _meters.Select(m => m.Result())], _overview.Build(), []));

        public void Dispose() => _writer.Dispose();
    }
}
