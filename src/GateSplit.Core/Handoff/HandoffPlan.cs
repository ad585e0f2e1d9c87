using System.Collections.Immutable;
using System.Globalization;
using GateSplit.Core.Charts;
using GateSplit.Core.Quantities;
using GateSplit.Core.Signal;
using GateSplit.Core.Sound;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Handoff;

/// <summary>What could leave, what of it does, and how each file of that is made.</summary>
public sealed class HandoffPlan
{
    /// <summary>The key of the sum of all lines.</summary>
    public const string MixKey = "mix";

    private const int MostCues = 4096;

    private readonly HandoffMaterial _material;
    private readonly HandoffWish _wish;
    private readonly HandoffFormat _format;
    private readonly DateTime _made;
    private readonly Dictionary<string, HandoffKind> _kinds;

    private HandoffPlan(HandoffMaterial material, HandoffWish wish, DateTime made)
    {
        (_material, _wish, _made, _format) = (material, wish, made, HandoffFormat.Read(wish.Format));
        var holders = material.Lines.Where(l => l.Then is not null && !IsFed(l)).SelectMany(l => l.Take.View.SoundingIn(l.Then!).Select(e => (l.Take.Number, Element: e))).CountBy(h => h).ToDictionary();
        _kinds = material.Lines.ToDictionary(l => l.Key, l => KindOf(l, e => holders.GetValueOrDefault((l.Take.Number, e)) > 1));
    }

    /// <summary>All that could leave, in the order of kinds and tracks, as it would be called if all of it left.</summary>
    public ImmutableArray<HandoffFile> Offered { get; private init; } = [];

    /// <summary>What leaves.</summary>
    public ImmutableArray<HandoffFile> Files { get; private init; } = [];

    /// <summary>What a person should know before it does.</summary>
    public ImmutableArray<string> Told { get; private init; } = [];

    /// <summary>The files together, where the container's length is known before it is written; a little more than it will be where it is not.</summary>
    public Bytes AtMost => new(Files.Sum(f => Containers.Of(f.Container).AtMost(f.Format, f.Frames, f.Label).Count));

    /// <summary>True if that is exactly what they take.</summary>
    public bool IsExact => Files.All(f => Containers.Of(f.Container) == Containers.Wave);

    /// <summary>Plans a handoff.</summary>
    /// <param name="material">What there is.</param>
    /// <param name="wish">What of it should leave, and how.</param>
    /// <param name="made">When it is made, in local time.</param>
    /// <returns>Or why it cannot be made.</returns>
    public static Result<HandoffPlan> Of(HandoffMaterial material, HandoffWish wish, DateTime made)
    {
        if (wish.Trouble is { } trouble)
        {
            return new Refusal(trouble);
        }

        var plan = new HandoffPlan(material, wish, made);
        var all = plan.All();
        if (all.Select(f => f.Draft).FirstOrDefault(f => f.Frames.Count <= 0) is { } empty)
        {
            return new Refusal($"{empty.Track} ends before bar {wish.FromBar}. Begin earlier, or leave the bars open.");
        }

        var wanted = all.Where(f => wish.Files is { } keys ? keys.Contains(f.Draft.Key) : f.ByItself).Select(f => f.Draft).ToList();
        if (wanted.FirstOrDefault(f => f.Format.Channels > plan._format.Container.MostChannels) is { } wide)
        {
            return new Refusal($"{wide.Track} has {wide.Format.Channels} channels, and {plan._format.Container.Name} holds at most {plan._format.Container.MostChannels}. Choose another format, or leave it out.");
        }

        var offered = plan.Named([.. all.Select(f => f.Draft)]);
        var files = plan.Named(wanted);
        return !offered.Ok ? new Refusal(offered.Trouble)
            : !files.Ok ? new Refusal(files.Trouble)
            : new HandoffPlan(material, wish, made) { Offered = [.. offered.Value], Files = [.. files.Value], Told = [.. plan.Say(files.Value)] };
    }

    private IEnumerable<string> Say(IReadOnlyList<HandoffFile> files)
    {
        foreach (var sum in files.Where(f => f.Kind == HandoffKind.Stem))
        {
            var within = PartsOf(sum.Key).Select(l => l.Key).ToHashSet();
            var beside = files.Where(f => f.Kind is HandoffKind.Line or HandoffKind.Effects && within.Contains(f.Key)).Select(f => f.Track).ToList();
            if (beside.Count > 0)
            {
                yield return $"{sum.Track} is the sum of {Words.List(beside, int.MaxValue)}, which {(beside.Count == 1 ? "leaves" : "leave")} as well: who lays both has it twice.";
            }
        }

        var takes = files.SelectMany(f => _material.Lines.Where(l => l.Key == f.Key) is var own && own.Any() ? own : PartsOf(f.Key)).Select(l => l.Take).DistinctBy(t => t.Number).OrderBy(t => t.Number).ToList();
        if (takes.Skip(1).FirstOrDefault(t => !SameBars(takes[0], t)) is { } other)
        {
            yield return $"Take {takes[0].Number} and take {other.Number} do not have the same bars, since tempo or metre was changed between them: lines of both do not fit together.";
        }

        if (files.Select(f => f.Format.SampleRate).Distinct().Count() > 1)
        {
            yield return "The files have several sample rates. Choose one, and all of them fit together.";
        }

        if (_format.Sample is SampleFormat.Pcm16 or SampleFormat.Pcm24 && files.Where(f => f.Levels is { SamplePeakDbfs.Value: > 0 }).Select(f => f.Track).ToList() is { Count: > 0 } over)
        {
            yield return $"{Words.List(over, int.MaxValue)} {(over.Count == 1 ? "goes" : "go")} over full scale and will be cut off there. 32 bit float keeps it.";
        }
    }

    /// <summary>True if the bars of two takes begin at the same times, as far as both go.</summary>
    private static bool SameBars(HandoffTake one, HandoffTake other)
    {
        static Frames Bar(HandoffTake take, int bar) => take.Song.Tempos.ToFrames(take.Song.Metres.BarStart(bar), 48000);
        return ReferenceEquals(one.Song, other.Song)
            || Enumerable.Range(1, Math.Min(one.View.Split.Pass.LengthBars, other.View.Split.Pass.LengthBars)).All(bar => Bar(one, bar) == Bar(other, bar));
    }

    /// <summary>All that could leave, and whether it does so where nobody has said anything.</summary>
    private List<(HandoffFile Draft, bool ByItself)> All()
    {
        IEnumerable<(HandoffFile, bool)> Lines(HandoffKind kind) => _material.Lines.Where(l => _kinds[l.Key] == kind).Select(l => (OfLine(l, kind), true));
        var parts = PartsOf(MixKey).ToList();
        var groups = _material.Mix.TrackGroups.Where(g => g.Sums && parts.Any(p => SumsOf(p).Contains(g)));
        var recorded = Lines(HandoffKind.Reference).ToList();
        return
        [
            .. Lines(HandoffKind.Line),
            .. Lines(HandoffKind.Stem),
            .. groups.Select(g => (OfSum($"stem:{g.Id}", HandoffKind.Stem, g.Name, [.. parts.Where(p => SumsOf(p).Contains(g))]), false)),
            .. Lines(HandoffKind.Effects),
            .. recorded,
            .. parts.Count > 1 ? [(OfSum(MixKey, HandoffKind.Reference, "Mix of all lines", parts), recorded.Count == 0)] : Array.Empty<(HandoffFile, bool)>(),
        ];
    }

    private IReadOnlyList<TrackGroup> SumsOf(HandoffLine line) => _material.InMix(line) is { } track ? _material.Mix.SumsOf(track) : [];

    /// <summary>The lines that are in a sum, recorded or made here.</summary>
    private IEnumerable<HandoffLine> PartsOf(string key)
    {
        var parts = _material.Lines.Where(l => _kinds[l.Key] is HandoffKind.Line or HandoffKind.Effects);
        return key == MixKey ? parts
            : _material.Lines.FirstOrDefault(l => l.Key == key) is { } line ? parts.Where(p => p.Take == line.Take && Feeds(line, p))
            : parts.Where(p => SumsOf(p).Any(g => $"stem:{g.Id}" == key));
    }

    private static bool Feeds(HandoffLine sum, HandoffLine part) => sum.Take.View.Signal.BusFeeds.Any(f => f.ToTrackId == sum.TrackId && f.FromTrackId == part.TrackId);

    /// <summary>True of a track that records other tracks.</summary>
    private static bool IsFed(HandoffLine line) => line.Take.View.Signal.BusFeeds.Any(f => f.ToTrackId == line.TrackId);

    /// <summary>What a line is, by what arrives on its track and whether other lines hold the same, not by its name.</summary>
    private static HandoffKind KindOf(HandoffLine line, Func<ElementRef, bool> isBeside)
    {
        var view = line.Take.View;
        if (line.Then is not { } track)
        {
            return HandoffKind.Line;
        }

        var own = view.SoundingIn(track);
        return IsFed(line) && own.Skip(1).Any() ? HandoffKind.Stem
            : HearsMix(line) && own.Count(isBeside) > 1 ? HandoffKind.Reference
            : !own.IsEmpty && own.All(e => view.ElementOf(e).Chart.Kind == ElementKind.Return) ? HandoffKind.Effects
            : HandoffKind.Line;
    }

    private static bool HearsMix(HandoffLine line) =>
        line.Take.View.Signal.Into(line.TrackId).Any(f => line.Take.View.Split.Unit(f.UnitId)?.Chart.Port(f.Port)?.IsMain == true);

    private HandoffFile OfLine(HandoffLine line, HandoffKind kind)
    {
        var rate = _wish.SampleRate ?? line.Format.SampleRate;
        var frames = rate == line.Format.SampleRate ? line.Plan.Frames : new Resampler(line.Format.SampleRate, rate).FramesOf(line.Plan.Frames);
        var recipe = Range(line.Take, [new RecipePart(line.Audio, line.Plan, [], [])], rate, frames);
        var whole = recipe.Start == 0 && recipe.Frames == frames;
        var format = new AudioFormat(line.Format.Channels, rate, _format.Sample ?? (rate == line.Format.SampleRate ? line.Format.Sample : Wider(line.Format.Sample)));
        var asStored = _format.Sample is null && whole && rate == line.Format.SampleRate && line.Plan.IsAsItIs(line.StoredFrames);
        var track = _material.InMix(line);
        var elements = Elements(line);
        return new HandoffFile(line.Key, kind, 0, "", line.Name, elements, line.Source, $"{line.Take.Number}", recipe, format, _format.Container.Id, Label(line.Take, line.Name, elements, line.Source, recipe, format, line))
        {
            AsStored = asStored,
            Mended = line.Mended,
            Family = line.Then is { } then ? line.Take.View.FamilyOf(then) : null,
            Groups = track is null ? "" : GroupsOf(track),
            Level = track is null ? null : _material.Mix.MixLevel(track),
            Pan = track?.Pan,
            Pass = line.Pass,
            Remark = line.Remark,
            Verdict = line.Verdict,
            Levels = whole && rate == line.Format.SampleRate ? line.Levels : null,
        };
    }

    private HandoffFile OfSum(string key, HandoffKind kind, string name, List<HandoffLine> lines)
    {
        var rate = _wish.SampleRate ?? lines.GroupBy(l => l.Format.SampleRate).OrderByDescending(g => g.Count()).First().Key;
        var frames = lines.Max(l => l.Format.SampleRate == rate ? l.Plan.Frames : new Resampler(l.Format.SampleRate, rate).FramesOf(l.Plan.Frames));
        var recipe = Range(lines[0].Take, [.. lines.Select(Summed)], rate, frames);
        var format = new AudioFormat(2, rate, _format.Sample ?? Wider(lines[0].Format.Sample));
        var elements = string.Join(", ", lines.Select(l => l.Name));
        var source = $"the sum of {Words.Count(lines.Count, "line")}, {(_wish.Stems == StemLevels.Mixed ? "each with its level and pan" : "each as it was recorded")}";
        var takes = string.Join(", ", lines.Select(l => l.Take.Number).Distinct().Order());
        return new HandoffFile(key, kind, 0, "", name, elements, source, takes, recipe, format, _format.Container.Id, Label(lines[0].Take, name, elements, source, recipe, format, null))
        {
            Mended = lines.Exists(l => l.Mended),
            Remark = string.Join(" ", lines.Where(l => l.Remark.Length > 0).Select(l => $"{l.Name}: {l.Remark}")),
        };
    }

    private RecipePart Summed(HandoffLine line)
    {
        var mono = line.Format.Channels == 1;
        var track = _wish.Stems == StemLevels.Mixed ? _material.InMix(line) : null;
        var gain = track is null ? (mono ? new Gain2x2(1, 0, 1, 0) : Gain2x2.Unity)
            : _material.Mix.MixLevel(track).Ratio * (mono ? Gain2x2.Panned(track.Pan) : Gain2x2.Balanced(track.Pan));
        return new(line.Audio, line.Plan, mono ? [gain.LL] : [gain.LL, gain.LR], mono ? [gain.RL] : [gain.RL, gain.RR]);
    }

    /// <summary>What is added up or moved between samples has more than 16 bits.</summary>
    private static SampleFormat Wider(SampleFormat sample) => sample is SampleFormat.Float32 or SampleFormat.Float64 ? SampleFormat.Float32 : SampleFormat.Pcm24;

    private FileRecipe Range(HandoffTake take, ImmutableArray<RecipePart> parts, SampleRate rate, Frames frames)
    {
        Frames Bar(int bar) => take.Song.Tempos.ToFrames(take.Song.Metres.BarStart(bar - 1), rate);
        Frames start = _wish.FromBar is { } from ? Bar(from) : 0;
        var end = _wish.ToBar is { } to ? Frames.Min(Bar(to + 1), frames) : frames;
        return new FileRecipe(parts, rate, start, end - start);
    }

    private FileLabel Label(HandoffTake take, string track, string elements, string source, FileRecipe recipe, AudioFormat format, HandoffLine? line)
    {
        var history = $"A=PCM,F={recipe.SampleRate.Hz},W={format.BitsPerSample},M={(format.Channels == 1 ? "mono" : format.Channels == 2 ? "stereo" : "multi")},T={(line is null ? "sum" : line.Mended ? "mended" : "recorded")}\r\n";
        List<string> note = [$"Holds {elements}.", $"From {source}.", $"{(line is null ? "Made" : "Recorded in")} {(line is null ? $"{_made:yyyy-MM-dd HH:mm}" : take.Words)}.", line?.Remark ?? "", take.Note, line?.Verdict ?? ""];
        return new FileLabel(new BroadcastInfo($"{track}: {elements}", take.Made, recipe.Start, history) { Reference = $"take {take.Number} {line?.TrackId.Value ?? "sum"}" })
        {
            Project = _material.Session,
            Track = track,
            Take = $"{take.Number}",
            Note = string.Join(" ", note.Where(n => n.Length > 0)),
            Cues = Cues(take, recipe),
        };
    }

    /// <summary>The bars that begin in a file.</summary>
    private ImmutableArray<CuePoint> Cues(HandoffTake take, FileRecipe recipe)
    {
        var cues = ImmutableArray.CreateBuilder<CuePoint>();
        for (var bar = _wish.FromBar ?? 1; cues.Count < MostCues; bar++)
        {
            var at = take.Song.Tempos.ToFrames(take.Song.Metres.BarStart(bar - 1), recipe.SampleRate) - recipe.Start;
            if (at >= recipe.Frames || bar > take.View.Split.Pass.LengthBars)
            {
                break;
            }

            cues.Add(new CuePoint(at, string.Create(CultureInfo.InvariantCulture, $"bar {bar}")));
        }

        return cues.ToImmutable();
    }

    private static string Elements(HandoffLine line)
    {
        var view = line.Take.View;
        return line.Then is { } track ? string.Join(", ", view.SoundingIn(track).Select(view.Split.NameOf)) is { Length: > 0 } names ? names : "nothing that sounds" : line.Name;
    }

    private string GroupsOf(Track track) =>
        string.Join(", ", _material.Mix.SumsOf(track).Concat(_material.Mix.LevelsOf(track)).Select(g => g.Name).Distinct());

    /// <summary>Gives each file its place and its name; they are numbered and named within their folder.</summary>
    private Result<IReadOnlyList<HandoffFile>> Named(IReadOnlyList<HandoffFile> drafts)
    {
        var tempo = _material.Takes.Select(t => t.Song.Tempos.StartTempo).FirstOrDefault(120);
        var named = new List<HandoffFile>();
        foreach (var kind in drafts.GroupBy(d => d.Kind))
        {
            List<HandoffFile> files = [.. kind];
            var names = FileNames.For(_wish.Pattern, [.. files.Select(f => f.Track)], _material.Session, tempo, [.. files.Select(f => f.Take)]);
            if (!names.Ok)
            {
                return new Refusal(names.Trouble);
            }

            named.AddRange(files.Select((f, i) => f with { Number = i + 1, Path = $"{Folder(kind.Key)}/{names.Value[i]}{_format.Container.Ending}" }));
        }

        return named;
    }

    /// <summary>The folder in which files of a kind lie.</summary>
    public static string Folder(HandoffKind kind) => kind switch
    {
        HandoffKind.Line => "lines",
        HandoffKind.Stem => "stems",
        HandoffKind.Effects => "effects",
        _ => "reference",
    };
}
