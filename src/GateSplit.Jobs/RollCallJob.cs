using System.Text.Json;
using GateSplit.Core.Notes;
using GateSplit.Core.Proofing;
using GateSplit.Core.Sound;
using GateSplit.Core.Splits;
using GateSplit.Core.StandIns;
using GateSplit.Core.Views;
using GateSplit.Data;
using Microsoft.Extensions.Logging;

namespace GateSplit.Jobs;

/// <summary>Reads the recording of a roll call, or plays one on the simulated rig first.</summary>
internal sealed class RollCallJob(SessionStore sessions, RollCallStore calls, IAudioStore store, ILogger<RollCallJob> log) : IJob
{
    private const double PlayShare = 0.5;

    /// <inheritdoc/>
    public string Kind => JobKind.RollCall;

    /// <inheritdoc/>
    public void Clear(Job job)
    {
        if (Request(job).Staging is { } staging)
        {
            store.Discard(staging);
        }
    }

    /// <inheritdoc/>
    public async Task<NewTake?> Make(Job job, string folder, JobPulse pulse)
    {
        var request = Request(job);
        var state = await Resilient.Run(() => sessions.Load(job.SessionId), log) ?? throw new JobRefused("The session is gone.");
        var view = OpenSession.Of(state).Lines;
        var call = request.Pass >= 1 && request.Pass <= view.Split.Passes ? RollCall.Of(view, request.Pass) : throw new JobRefused("The split has no such pass any more.");
        if (call.Turns.IsEmpty)
        {
            throw new JobRefused("Nothing in this pass takes notes, so there is nobody to call.");
        }

        var names = new List<string>();
        var files = new List<WaveReader>();
        try
        {
            files.AddRange(request.Staging is { } staging ? Brought(staging, names, pulse) : Played(view.Split.Passes == 1 ? view : view.InPass(request.Pass), call, folder, pulse));
            if (files.Select(f => f.Format.SampleRate).Distinct().Count() > 1)
            {
                throw new JobRefused("The files have several sample rates: bring them to one first.");
            }

            var channels = files.SelectMany(f => Enumerable.Range(0, f.Format.Channels).Select(c => (IMonoSound)new MonoReader(f, c))).ToList();
            if (channels.Count > Bank.Most)
            {
                throw new JobRefused($"The recording has {channels.Count} channels, and {Bank.Most} are the most that are read.");
            }

            pulse.Report(PlayShare);
            var reading = RollCallReading.Of(call, channels, request.ByHand, pulse.Stop);
            if (!reading.Ok)
            {
                throw new JobRefused(reading.Trouble);
            }

            await Resilient.Run(() => calls.Keep(job.SessionId, reading.Value, request.ByHand, names), log);
            return null;
        }
        finally
        {
            files.ForEach(f => f.Dispose());
        }
    }

    private IEnumerable<WaveReader> Brought(string staging, List<string> names, JobPulse pulse)
    {
        var brought = BroughtFolder.Find(store, staging) ?? throw new JobRefused("The files are gone. Bring them in once more.");
        var files = brought.Files();
        if (brought.RoomToUnpack(Enumerable.Range(0, files.Count)) is var needed && needed > store.FreeBytes)
        {
            throw new JobRefused($"The disk is too full: unpacking the recording takes {needed}, and {store.FreeBytes} are free.");
        }

        for (var i = 0; i < files.Count; i++)
        {
            if (brought.MakeWave(i, pulse.Stop) is { } unreadable)
            {
                throw new JobRefused($"{files[i].Name}: {unreadable}");
            }

            names.AddRange(files[i].Format.Channels == 1 ? [files[i].Name] : Enumerable.Range(1, files[i].Format.Channels).Select(c => $"{files[i].Name}, channel {c}"));
            yield return WaveReader.Open(brought.WavePath(i)).Value ?? throw new JobRefused($"{files[i].Name} cannot be read.");
        }
    }

    /// <summary>Plays it on the stand-ins, with a track on every input.</summary>
    private static IEnumerable<WaveReader> Played(SplitView view, RollCall call, string folder, JobPulse pulse)
    {
        var song = Song.Of(call.ToMidi("Roll call"));
        var split = RollCall.Listening(view.Split);
        var listening = SplitView.Of(split with { Pass = split.Pass with { StartBar = 1, LengthBars = (int)song.Bars + 2, SettleLoops = 0 } }, song);
        var recorder = new StandInRecorder(listening, song);
        if (recorder.Refusal() is { } refusal)
        {
            throw new JobRefused(refusal);
        }

        var printed = recorder.Print(t => Path.Combine(folder, $"{t.Id}.wav"), DateTime.Now, new Part(pulse, 0, PlayShare), pulse.Stop);
        return listening.Split.Tracks.Select(t => WaveReader.Open(printed.First(p => p.Track.Id == t.Id).Path).Value!);
    }

    private static RollCallRequest Request(Job job) => JsonSerializer.Deserialize<RollCallRequest>(job.Request, SplitJson.Options)!;
}
