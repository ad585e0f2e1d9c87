using System.Collections.Immutable;
using System.Globalization;
using System.Text.Json;
using GateSplit.Core.Planning;
using GateSplit.Core.Quantities;
using GateSplit.Core.Sound;
using GateSplit.Core.Splits;
using GateSplit.Data;

namespace GateSplit.Jobs;

/// <summary>
/// The files that somebody brings in together, in a staging folder of their own until they are cut; what is no WAVE becomes
/// one then. Their list is written last, so a folder without one was cut off on the way.
/// </summary>
public sealed class BroughtFolder
{
    /// <summary>How the names of such folders begin.</summary>
    public const string Prefix = "upload-";

    private const string ListName = "files.json";
    private const string OwnerName = "owner";
    private const string SessionName = "session";
    private const string DeclaredName = "declared";
    private readonly string _path;

    private BroughtFolder(string name, string path)
    {
        Name = name;
        _path = path;
    }

    /// <summary>The name of the folder.</summary>
    public string Name { get; }

    /// <summary>Makes a new one.</summary>
    /// <param name="store">The audio store.</param>
    /// <param name="sessionId">The session that the files are for.</param>
    /// <param name="declared">Bytes that are to come; 0 if nobody knows.</param>
    public static BroughtFolder Make(IAudioStore store, long sessionId, Bytes declared = default)
    {
        var name = Prefix + Guid.NewGuid().ToString("N");
        var path = store.Staging(name);
        File.WriteAllText(Path.Combine(path, OwnerName), WorkerName.Own);
        File.WriteAllText(Path.Combine(path, DeclaredName), declared.Count.ToString(CultureInfo.InvariantCulture));
        File.WriteAllText(Path.Combine(path, SessionName), sessionId.ToString(CultureInfo.InvariantCulture));
        return new BroughtFolder(name, path);
    }

    /// <summary>Finds one whose files are all there; null if there is none.</summary>
    public static BroughtFolder? Find(IAudioStore store, string? name) =>
        name is not null && store.StagingNames().Contains(name) && new BroughtFolder(name, store.Staging(name)) is var found && File.Exists(found.ListPath)
            ? found
            : null;

    /// <summary>The same of a session; null if the files are another session's.</summary>
    public static BroughtFolder? Find(IAudioStore store, string? name, long sessionId) =>
        Find(store, name) is { } found && SessionOf(found._path) == sessionId ? found : null;

    /// <summary>Whose files a folder holds, how much of them is here, and how much there will be; null if it is no such folder.</summary>
    internal static (long SessionId, Bytes Here, Bytes Declared)? Size(IAudioStore store, string name)
    {
        if (!name.StartsWith(Prefix, StringComparison.Ordinal))
        {
            return null;
        }

        var path = store.Staging(name);
        if (SessionOf(path) is not { } session)
        {
            return null;
        }

        var here = new Bytes(new DirectoryInfo(path).EnumerateFiles().Sum(f => f.Length));
        return (session, here, File.Exists(Path.Combine(path, ListName)) ? here : Bytes.Max(here, new(Number(path, DeclaredName) ?? 0)));
    }

    private static long? SessionOf(string path) => Number(path, SessionName);

    private static long? Number(string path, string name) =>
        File.Exists(Path.Combine(path, name)) && long.TryParse(File.ReadAllText(Path.Combine(path, name)), CultureInfo.InvariantCulture, out var number) ? number : null;

    /// <summary>True of a folder whose files have not all come, and never will: the process that took them in is gone.</summary>
    public static bool IsCutOff(IAudioStore store, string name)
    {
        var path = store.Staging(name);
        var owner = Path.Combine(path, OwnerName);
        return !File.Exists(Path.Combine(path, ListName)) && (!File.Exists(owner) || WorkerName.IsGone(File.ReadAllText(owner)));
    }

    /// <summary>Where the next file is to be written.</summary>
    /// <param name="number">Counted from 0.</param>
    public string Incoming(int number) => Path.Combine(_path, $"incoming-{number}");

    /// <summary>A file as WAVE, once <see cref="MakeWave"/> was called.</summary>
    /// <param name="number">Counted from 0.</param>
    public string WavePath(int number) => Path.Combine(_path, $"{number}.wav");

    /// <summary>Takes the incoming files in.</summary>
    /// <param name="names">Their names where they came from.</param>
    /// <returns>A sentence if one of them cannot be read; null if all can.</returns>
    /// <exception cref="IOException">The disk refuses.</exception>
    public string? TakeIn(IReadOnlyList<string> names)
    {
        for (var i = 0; i < names.Count; i++)
        {
            string? trouble;
            if (SoundFile.IsWave(Incoming(i)))
            {
                File.Move(Incoming(i), WavePath(i));
                var opened = WaveReader.Open(WavePath(i));
                trouble = opened.Trouble;
                opened.Value?.Dispose();
            }
            else
            {
                trouble = SoundFile.Describe(Incoming(i)).Trouble;
            }

            if (trouble is not null)
            {
                return $"{names[i]}: {trouble}";
            }
        }

        File.WriteAllText(ListPath, JsonSerializer.Serialize(names, SplitJson.Options));
        return null;
    }

    /// <summary>Turns a file that is no WAVE yet into one.</summary>
    /// <param name="number">Counted from 0.</param>
    /// <param name="cancel">Stops it.</param>
    /// <returns>A sentence if it cannot be read after all; null if all went well.</returns>
    /// <exception cref="IOException">The disk refuses.</exception>
    public string? MakeWave(int number, CancellationToken cancel)
    {
        if (File.Exists(WavePath(number)))
        {
            return null;
        }

        var made = SoundFile.ToWave(Incoming(number), WavePath(number), cancel);
        if (made.Ok)
        {
            File.WriteAllText(RemarksPath(number), JsonSerializer.Serialize(made.Value, SplitJson.Options));
        }

        return made.Trouble;
    }

    /// <summary>Damage of a file that was read around when it was turned into a WAVE.</summary>
    /// <param name="number">Counted from 0.</param>
    public IReadOnlyList<string> Remarks(int number) =>
        File.Exists(RemarksPath(number)) ? JsonSerializer.Deserialize<string[]>(File.ReadAllText(RemarksPath(number)), SplitJson.Options)! : [];

    /// <summary>The room on the disk that turning files into WAVE takes before they are cut; a file that does not say its length counts as packed to a tenth.</summary>
    /// <param name="numbers">The files, counted from 0.</param>
    public Bytes RoomToUnpack(IEnumerable<int> numbers)
    {
        const int packedTo = 10;
        return new(numbers.Where(n => !File.Exists(WavePath(n)))
            .Sum(n => (SoundFile.Describe(Incoming(n)).Value?.WaveBytes ?? new Bytes(new FileInfo(Incoming(n)).Length) * packedTo).Count));
    }

    /// <summary>What the files are.</summary>
    public IReadOnlyList<BroughtFile> Files()
    {
        var names = JsonSerializer.Deserialize<string[]>(File.ReadAllText(ListPath), SplitJson.Options)!;
        return
        [
            .. names.Select((name, i) =>
            {
                if (!File.Exists(WavePath(i)))
                {
                    var (format, frames, remarks) = SoundFile.Describe(Incoming(i)).Value!;
                    return new BroughtFile(name, format, frames ?? 0, ImmutableDictionary<int, string>.Empty) { Damage = remarks };
                }

                using var wave = WaveReader.Open(WavePath(i)).Value!;
                return new BroughtFile(name, wave.Format, wave.Frames, ChannelNames.Read(wave)) { Damage = [.. wave.Remarks, .. Remarks(i)] };
            }),
        ];
    }

    private string RemarksPath(int number) => Path.Combine(_path, $"{number}.remarks.json");

    private string ListPath => Path.Combine(_path, ListName);
}
