using System.Collections.Immutable;
using GateSplit.Core.Notes;
using GateSplit.Core.Planning;
using GateSplit.Core.Quantities;
using GateSplit.Core.Sound;
using GateSplit.Core.Splits;
using GateSplit.Core.Views;

namespace GateSplit.Core.StandIns;

/// <summary>
/// The simulated recorder: runs the passes of the stand-ins through the split, block by block, and writes one file for
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
    public int BlockFrames { get; init; } = 4096;

    /// <summary>Threads to work with.</summary>
    public int Threads { get; init; } = 2;

    /// <summary>The tracks to record again; null for all that are armed.</summary>
    public IReadOnlySet<TrackId>? Only { get; init; }

    /// <summary>Set when somebody stops a pass early: what was recorded until then is kept.</summary>
    public CancellationToken Enough { get; init; }

    /// <summary>Told the highest sample of each track in the block that was recorded last; null if nobody watches.</summary>
    public Action<IReadOnlyList<(TrackId TrackId, float Peak)>>? Levels { get; init; }

    /// <summary>Why no pass can run with this split; null if one can.</summary>
    public string? Refusal()
    {
        if (!Recorded(_view).Any())
        {
            return Only is null ? "No track is armed, so a pass would record nothing." : "None of these tracks is armed any more, so a pass would record nothing.";
        }

        return Enumerable.Range(1, _view.Split.Passes)
            .Select(pass => _view.Split.Passes == 1 ? _view : _view.InPass(pass))
            .SelectMany(seen => seen.Signal.Loops.Select(seen.Circle))
            .FirstOrDefault();
    }

    /// <summary>Runs the passes of the split one after the other.</summary>
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

        var passes = Recorded(_view).Select(t => t.Pass).Distinct().Order().ToList();
        var printed = new Dictionary<TrackId, PrintedTrack>();
        try
        {
            for (var i = 0; i < passes.Count; i++)
            {
                var share = new Share(progress, (double)i / passes.Count, 1.0 / passes.Count);
                foreach (var track in PrintPass(passes[i], pathOf, originated, share, cancel))
                {
                    printed[track.Track.Id] = track;
                }
            }
        }
        catch
        {
            foreach (var track in printed.Values)
            {
                File.Delete(track.Path);
            }

            throw;
        }

        return [.. Recorded(_view).Select(t => printed[t.Id])];
    }

    /// <summary>Runs one pass.</summary>
    /// <param name="pass">From 1.</param>
    /// <param name="pathOf">Where a track's file is to lie; its folder exists.</param>
    /// <param name="originated">Date and time written into the files.</param>
    /// <param name="progress">Told the share done, 0 to 1.</param>
    /// <param name="cancel">Stops the pass and leaves nothing behind.</param>
    /// <returns>The files, in the order of the tracks; shorter than the pass if <see cref="Enough"/> was set before its end.</returns>
    /// <exception cref="IOException">The disk refuses; nothing is left behind.</exception>
    public ImmutableArray<PrintedTrack> PrintPass(
        int pass, Func<Track, string> pathOf, DateTime originated, IProgress<double> progress, CancellationToken cancel)
    {
        var times = PassTimes.Of(_view, _song);
        var view = _view.Split.Passes == 1 ? _view : _view.InPass(pass);
        var rig = new SoundingRig(view.Split, _song, Recorded(view).Select(t => t.Id), null, BlockFrames);
        var tapes = new List<Tape>();
        try
        {
            foreach (var track in Recorded(view))
            {
                var label = new FileLabel(new BroadcastInfo($"{track.Name}: {Carried(view, track)}", originated));
                tapes.Add(new Tape(track, pathOf(track), view.Split, times, label, BlockFrames));
            }

            using var stages = new Stages(rig, tapes, Threads);
            Run(stages, tapes, rig.FirstFrame, times.Frames, progress, cancel);
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
        finally
        {
            foreach (var tape in tapes)
            {
                tape.Dispose();
            }
        }
    }

    /// <summary>The tracks of a view that are to be recorded.</summary>
    private IEnumerable<Track> Recorded(SplitView view) => view.ArmedTracks.Where(t => Only is null || Only.Contains(t.Id));

    private static string Carried(SplitView view, Track track) =>
        Words.List([.. view.SoundingIn(track).Select(e => $"{view.Split.NameOf(e)} of {view.Split.Unit(e.UnitId)!.Name}")]);

    /// <summary>Runs from the first sound, which may be before the first bar, to the end; a block never lies on both sides of the first bar.</summary>
    private void Run(Stages stages, List<Tape> tapes, Frames first, Frames frames, IProgress<double> progress, CancellationToken cancel)
    {
        var before = (0 - first).Stretches(BlockFrames);
        var blocks = before + frames.Stretches(BlockFrames);
        Block? At(long number) => number >= 0 && number < blocks
            ? number < before
                ? Between(number, first + new Frames(number * BlockFrames), 0)
                : Between(number, new((number - before) * BlockFrames), frames)
            : null;
        for (long number = 0; number < blocks + Stages.Behind; number++)
        {
            cancel.ThrowIfCancellationRequested();
            if (Enough.IsCancellationRequested)
            {
                return;
            }

            stages.Step(At);
            Levels?.Invoke([.. tapes.Select(t => t.Level)]);
            progress.Report(Math.Max(0, number + 1.0 - Stages.Behind) / blocks);
        }
    }

    private Block Between(long number, Frames start, Frames end) => new(number, start, (int)Frames.Min(BlockFrames, end - start).Count);

    /// <summary>The progress of one pass as a part of all.</summary>
    private sealed class Share(IProgress<double>? whole, double from, double length) : IProgress<double>
    {
        public void Report(double value) => whole?.Report(from + value * length);
    }

    /// <summary>
    /// The work on three blocks that follow each other, done side by side: the voices of one, the gates of the one before
    /// it, the tracks and their files of the one before that. So the threads meet once a block.
    /// </summary>
    private sealed class Stages : IDisposable
    {
        /// <summary>How many steps after its voices a block is written.</summary>
        public const int Behind = 2;

        private readonly List<(int Behind, Action<Block> Work)> _pieces;
        private readonly Crew _crew;
        private long _number;

        public Stages(SoundingRig rig, List<Tape> tapes, int threads)
        {
            var desk = rig.Desk;
            _crew = new Crew(threads);
            var joined = tapes.Where(t => desk.Joined.Contains(t.TrackId)).ToList();
            var alone = tapes.Except(joined).ToLookup(t => desk.FirstSource(t.TrackId));
            (int, Action<Block>) Recording(Tape tape) => (Behind, block => tape.Record(desk, block));

            // A source and the tracks that it feeds lie side by side, some from the front and some from the back; what takes
            // long comes first there.
            List<(int, Action<Block>)> front = [(0, rig.Voices.RenderHeld)], back = [];
            foreach (var (number, source) in rig.Sources.Values.Index())
            {
                var side = number % 2 == 0 ? front : back;
                side.Add((1, source.RenderGate));
                side.AddRange(source.HeardVoices.Where(v => v.Held is null).Select(v => (0, (Action<Block>)v.Render)));
                side.AddRange(alone[source].Select(Recording));
            }

            front.AddRange(alone[null].Select(Recording));
            front.Add((Behind, block =>
            {
                desk.MixJoined(block);
                joined.ForEach(t => t.RecordJoined(desk, block));
            }
            ));
            back.Reverse();
            _pieces = [.. front, .. back];
        }

        /// <summary>Goes one block further.</summary>
        /// <param name="at">The block of a number, null before the first and after the last.</param>
        public void Step(Func<long, Block?> at)
        {
            _crew.Do(_pieces.Count, i =>
            {
                if (at(_number - _pieces[i].Behind) is { } block)
                {
                    _pieces[i].Work(block);
                }
            });
            _number++;
        }

        public void Dispose() => _crew.Dispose();
    }

    /// <summary>One armed track's file, measured as it is written: the numbers are of what the file holds.</summary>
    private sealed class Tape : IDisposable
    {
        /// <summary>Samples are encoded and measured in stretches so short that they stay in the cache.</summary>
        private const int StretchFrames = 1024;

        private readonly Track _track;
        private readonly string _path;
        private readonly AudioFormat _format;
        private readonly Frames _frames;
        private readonly Frames _from;
        private Frames _recorded;
        private float _level;
        private readonly WaveWriter _writer;
        private readonly ChannelMeter[] _meters;
        private readonly Dither[]? _dithers;
        private readonly Converter[] _converters;
        private readonly OverviewBuilder _overview;
        private readonly float[] _interleaved;
        private readonly float[] _left = new float[StretchFrames];
        private readonly float[] _right;

        public Tape(Track track, string path, Split split, PassTimes times, FileLabel label, int mostFrames)
        {
            var pass = split.Pass;
            _track = track;
            _path = path;
            (_frames, _from) = (times.Frames, times.StartFrame);
            _format = new AudioFormat((int)track.Width, pass.SampleRate, pass.Format);
            _writer = new WaveWriter(path, _format, _frames, label);
            _meters = [.. Enumerable.Range(0, _format.Channels).Select(_ => new ChannelMeter())];
            _dithers = pass.Format == SampleFormat.Pcm16
                ? [.. Enumerable.Range(0, _format.Channels).Select(c => new Dither((uint)c + 1))]
                : null;
            _converters = Converter.Of(track, split, mostFrames);
            _overview = new OverviewBuilder(_format.Channels);
            _interleaved = new float[_format.Channels == 1 ? 0 : 2 * StretchFrames];
            _right = new float[_format.Channels == 1 ? 0 : StretchFrames];
        }

        public TrackId TrackId => _track.Id;

        /// <summary>Mixes and records a block of a track by itself.</summary>
        public void Record(Desk desk, Block block)
        {
            var bytes = Begin(block);
            for (var at = 0; at < block.Frames; at += StretchFrames)
            {
                var frames = Math.Min(StretchFrames, block.Frames - at);
                var left = _left.AsSpan(0, frames);
                var right = _right.AsSpan(0, Math.Min(frames, _right.Length));
                desk.Mix(_track, block, at, left, right);
                Take(left, right, block.Start + at, ref bytes);
            }

            End(block);
        }

        /// <summary>Records a block of a track that was mixed with the tracks it is joined to.</summary>
        public void RecordJoined(Desk desk, Block block)
        {
            var bytes = Begin(block);
            var left = desk.Samples(_track, 0, block);
            var right = _format.Channels == 1 ? [] : desk.Samples(_track, 1, block);
            for (var at = 0; at < block.Frames; at += StretchFrames)
            {
                var frames = Math.Min(StretchFrames, block.Frames - at);
                Take(left.Slice(at, frames), right.IsEmpty ? right : right.Slice(at, frames), block.Start + at, ref bytes);
            }

            End(block);
        }

        /// <summary>Space for the bytes of a block.</summary>
        private Span<byte> Begin(Block block)
        {
            _level = 0;
            return _writer.GetSpan(block.Frames * _format.BytesPerFrame);
        }

        private void End(Block block)
        {
            if (block.Start >= 0)
            {
                _writer.Advance(block.Frames * _format.BytesPerFrame);
                _recorded += block.Frames;
            }
        }

        /// <summary>The highest sample of the block that was recorded last.</summary>
        public (TrackId TrackId, float Peak) Level => (_track.Id, _level);

        /// <summary>Converts and encodes a stretch, and measures what it decodes to. What sounds before the first bar is only converted.</summary>
        /// <param name="left">Left, or all of a mono track; changed.</param>
        /// <param name="right">Right; empty for a mono track.</param>
        /// <param name="start">Its first frame.</param>
        /// <param name="bytes">Where it goes; what is left of that behind it.</param>
        private void Take(Span<float> left, Span<float> right, Frames start, ref Span<byte> bytes)
        {
            if (_converters.Length > 0)
            {
                _converters[0].Process(left);
                _converters[^1].Process(right);
            }

            if (start < 0)
            {
                return;
            }

            var before = (int)Math.Clamp((_from - start).Count, 0, left.Length);
            left[..before].Clear();
            right[..Math.Min(before, right.Length)].Clear();
            _dithers?[0].Apply(left);
            _dithers?[^1].Apply(right);
            SampleCodec.Encode(left, right, _format.Sample, _interleaved, bytes[..(left.Length * _format.BytesPerFrame)]);
            bytes = bytes[(left.Length * _format.BytesPerFrame)..];
            _overview.Add(0, left);
            _level = Math.Max(_level, _meters[0].Add(left));
            if (!right.IsEmpty)
            {
                _overview.Add(1, right);
                _level = Math.Max(_level, _meters[1].Add(right));
            }
        }

        public void Finish()
        {
            if (_recorded == _frames)
            {
                _writer.Finish();
            }
            else
            {
                _writer.FinishEarly();
            }
        }

        public void TakeName() => _writer.TakeName();

        public PrintedTrack Printed() => new(
            _track, _path, new FileMeasure(_format, _recorded, [.. _meters.Select(m => m.Result())], _overview.Build(), []));

        public void Dispose() => _writer.Dispose();
    }
}
