using System.Collections.Immutable;
using System.Text.Json;
using GateSplit.Core.Charts;
using GateSplit.Core.Edits;
using GateSplit.Core.Notes;
using GateSplit.Core.Planning;
using GateSplit.Core.Splits;
using GateSplit.Core.Views;

namespace GateSplit.Core.Templates;

/// <summary>
/// Adds a template to a session: sources, inputs and tracks are matched by what they are, and what is not there is told and stays unassigned.
/// Nothing is ever put on something else instead.
/// </summary>
public sealed class TemplateFit
{
    private readonly Template _template;
    private readonly SplitView _view;
    private readonly Song _song;
    private readonly TemplateWish _wish;
    private readonly ImmutableArray<TemplateRow>.Builder _rows = ImmutableArray.CreateBuilder<TemplateRow>();
    private readonly Dictionary<UnitId, UnitId> _units = [];
    private readonly Dictionary<BankId, BankId> _banks = [];
    private readonly Dictionary<TrackGroupId, TrackGroupId> _groups = [];
    private readonly Dictionary<(InputRef Input, int? Pass), InputRef> _freed = [];
    private readonly HashSet<TrackId> _added = [];
    private readonly HashSet<(UnitId UnitId, int Port)> _silent = [];
    private Split _split;

    private TemplateFit(Template template, SplitView view, Song song, TemplateWish wish)
    {
        (_template, _view, _song, _wish) = (template, view, song, wish);
        _split = view.Split;
        Sources();
        Rows();
        if (wish.Taken == TakenInputs.NextFree)
        {
            GoToFreeInputs();
        }

        Cables();
        Groups();
        Tracks();
        Performance();
        if (wish.LeaveOutSilent)
        {
            LeaveOutSilent();
        }

        if (wish.CloseUp)
        {
            CloseUp();
        }

        if (!template.Split.Accepted.IsEmpty)
        {
            _rows.Add(new TemplateRow("what was meant so", TemplateFate.LeftOut, $"{Words.Count(template.Split.Accepted.Length, "finding")} where it was kept {(template.Split.Accepted.Length == 1 ? "was" : "were")} meant so: here everything is looked at anew."));
        }
    }

    /// <summary>What becomes of each thing, in order.</summary>
    public ImmutableArray<TemplateRow> Proposed => _rows.ToImmutable();

    /// <summary>The split with it.</summary>
    public Split After => _split;

    /// <summary>The edit that adds it.</summary>
    public PutTemplate Edit => new(_template.Name, _view.Split, _split);

    /// <summary>Works out what adding a template would do.</summary>
    /// <param name="template">The template.</param>
    /// <param name="view">The session.</param>
    /// <param name="song">Its song.</param>
    /// <param name="wish">How.</param>
    public static TemplateFit Of(Template template, SplitView view, Song song, TemplateWish wish) => new(template, view, song, wish);

    /// <summary>The split of a new session that begins from a template.</summary>
    /// <param name="template">The template.</param>
    /// <param name="song">The session's song: the template's notes, or others.</param>
    /// <param name="leaveOutSilent">True to leave out the tracks of what does not sound in it.</param>
    public static Split Begin(Template template, Song song, bool leaveOutSilent)
    {
        var before = MidiReader.Read(template.Notes) is { Ok: true } midi ? Song.Of(midi.Value) : song;
        var split = before.Notes.IsEmpty && song.Notes.IsEmpty ? template.Split : ReplaceSong.Fitted(template.Split, before, song);
        if (!leaveOutSilent)
        {
            return split;
        }

        var view = SplitView.Of(split, song);
        return split with { Tracks = split.Tracks.RemoveAll(t => view.Signal.Into(t.Id).Any() && view.SoundingIn(t).IsEmpty) };
    }

    private static bool Same(Chart a, Chart b) => ChartDifferences.Between(a, b).IsEmpty;

    /// <summary>A source is the same one if its chart is: first those of the same name, then whichever is left.</summary>
    private void Sources()
    {
        var free = _split.Units.ToList();
        foreach (var unit in _template.Split.Units)
        {
            var found = free.Find(u => u.Chart.Id == unit.Chart.Id && u.Name == unit.Name) ?? free.Find(u => u.Chart.Id == unit.Chart.Id);
            if (found is not null)
            {
                free.Remove(found);
                Use(unit, found);
            }
            else if (_wish.Bring.Contains(unit.Id.Value))
            {
                Bring(unit);
            }
            else
            {
                _rows.Add(new TemplateRow(unit.Name, TemplateFate.Missing, $"{unit.Name} is not in this session: what is meant for it stays without an input.", unit.Id.Value));
            }
        }
    }

    private void Use(Unit unit, Unit found)
    {
        _units[unit.Id] = found.Id;
        _banks[_template.Split.BankOf(unit).Id] = _split.BankOf(found).Id;
        if (!Same(unit.Chart, found.Chart))
        {
            _rows.Add(new TemplateRow(unit.Name, TemplateFate.Clash, $"{found.Name} has another chart here than in the template, so its settings stay as they are: {ChartDifferences.Between(unit.Chart, found.Chart)[0]}"));
            return;
        }

        var set = unit with { Id = found.Id, Name = found.Name };
        if (_wish.LeaveSettings || SameSettings(set, found))
        {
            _rows.Add(new TemplateRow(unit.Name, TemplateFate.Found, SameSettings(set, found) ? $"{found.Name} is here, set as in the template." : $"{found.Name} is here, and stays set as it is."));
            return;
        }

        _rows.Add(new TemplateRow(unit.Name, TemplateFate.Found, $"{found.Name} is here: its mode, outputs, faders and other settings become those of the template."));
        _split = _split.With(set).With(_split.BankOf(found) with { Connected = _template.Split.BankOf(unit).Connected });
    }

    private static bool SameSettings(Unit a, Unit b) => JsonSerializer.Serialize(a, SplitJson.Options) == JsonSerializer.Serialize(b, SplitJson.Options);

    private void Bring(Unit unit)
    {
        var made = new AddUnit(unit.Chart).Apply(_split);
        if (!made.Ok)
        {
            _rows.Add(new TemplateRow(unit.Name, TemplateFate.Missing, made.Trouble, unit.Id.Value));
            return;
        }

        var fresh = made.Value.Units[^1];
        var name = _split.Units.All(u => u.Name != unit.Name) ? unit.Name : fresh.Name;
        _split = made.Value.With(unit with { Id = fresh.Id, Name = name });
        var (kept, own) = (_template.Split.BankOf(unit), _split.BankOf(fresh));
        var label = _split.Banks.Any(b => b.Id != own.Id && string.Equals(b.Label, kept.Label, StringComparison.OrdinalIgnoreCase)) ? own.Label : kept.Label;
        _split = _split.With(kept with { Id = own.Id, UnitId = fresh.Id, Label = label });
        (_units[unit.Id], _banks[kept.Id]) = (fresh.Id, own.Id);
        _rows.Add(new TemplateRow(unit.Name, TemplateFate.Made, name == unit.Name ? $"{name} is brought along." : $"{unit.Name} is brought along, and called {name}: that name is taken."));
    }

    /// <summary>A row of inputs is the same one if it is of the same kind and bears the same name.</summary>
    private void Rows()
    {
        foreach (var bank in _template.Split.Banks.Where(b => b.UnitId is null))
        {
            if (_split.Banks.FirstOrDefault(b => b.UnitId is null && b.Kind == bank.Kind && string.Equals(b.Label, bank.Label, StringComparison.OrdinalIgnoreCase)) is { } found)
            {
                _banks[bank.Id] = found.Id;
                _rows.Add(new TemplateRow($"the row {bank.Label}", TemplateFate.Found, found.Count < bank.Count
                    ? $"{found.Label} is here, with {found.Count} inputs instead of {bank.Count}."
                    : $"{found.Label} is here."));
            }
            else if (_wish.Bring.Contains(bank.Id.Value) && !_split.Banks.Any(b => string.Equals(b.Label, bank.Label, StringComparison.OrdinalIgnoreCase)) && _split.Banks.Length < SplitRules.MostBanks)
            {
                var id = _split.Bank(bank.Id) is null ? bank.Id : Enumerable.Range(1, SplitRules.MostBanks + 1).Select(n => new BankId($"in{n}")).First(i => _split.Bank(i) is null);
                _banks[bank.Id] = id;
                _split = _split with { Banks = _split.Banks.Add(bank with { Id = id }) };
                _rows.Add(new TemplateRow($"the row {bank.Label}", TemplateFate.Made, $"The row {bank.Label} is made."));
            }
            else
            {
                _rows.Add(new TemplateRow($"the row {bank.Label}", TemplateFate.Missing, $"There is no row of inputs {bank.Label} here: what is plugged or listens there stays without an input.", bank.Id.Value));
            }
        }
    }

    private InputRef? Mapped(InputRef? input) => input is not null && _banks.TryGetValue(input.BankId, out var bank) ? input with { BankId = bank } : null;

    /// <summary>Where a cable of the template is plugged, or a track of it listens, in the session.</summary>
    private InputRef? Mapped(InputRef? input, int? pass) =>
        input is not null && (_freed.TryGetValue((input, pass), out var free) || _freed.TryGetValue((input, null), out free)) ? free : Mapped(input);

    private static bool Meet(int? pass, int? other) => pass is null || other is null || pass == other;

    /// <summary>True if the session has another cable in an input, or a track that listens to it.</summary>
    private bool IsTaken(InputRef input, Cable? wished, int? pass) =>
        _split.Cables.Any(c => c.Input == input && Meet(c.Pass, pass) && (wished is null || c.UnitId != _units[wished.UnitId] || c.Channel != wished.Channel))
        || _view.Split.Tracks.Any(t => t.Input is { } at && at.BankId == input.BankId && Meet(t.Pass, pass) && at.Channel <= input.Channel && input.Channel < at.Channel + (int)t.Width);

    /// <summary>Cables into inputs that are taken go into the next ones that are free, those of a stereo track side by side; what listens there goes along.</summary>
    private void GoToFreeInputs()
    {
        foreach (var track in _template.Split.Tracks.Where(t => t.Input is { } at && _template.Split.Bank(at.BankId)!.TakesCables))
        {
            var cables = _template.Split.Cables.Where(c => _units.ContainsKey(c.UnitId) && Meet(c.Pass, track.Pass) && c.Input.BankId == track.Input!.BankId
                && c.Input.Channel >= track.Input.Channel && c.Input.Channel < track.Input.Channel + (int)track.Width).ToList();
            if (cables.Count == (int)track.Width && cables.TrueForAll(c => !_freed.ContainsKey((c.Input, c.Pass)))
                && cables.Exists(c => Mapped(c.Input) is { } at && IsTaken(at, c, c.Pass)))
            {
                Free(cables, track);
            }
        }
    }

    private void Free(List<Cable> cables, Track track)
    {
        if (Mapped(track.Input) is not { } wished || _split.Bank(wished.BankId) is not { } bank)
        {
            return;
        }

        // Neither what the session has nor what the rest of the template goes to.
        var kept = _template.Split.Cables.Select(c => Mapped(c.Input, c.Pass)).Concat(_template.Split.Tracks.SelectMany(t => Enumerable.Range(0, (int)t.Width).Select(side => t.Input is { } at ? Mapped(at with { Channel = at.Channel + side }, t.Pass) : null)))
            .Concat(_freed.Values).OfType<InputRef>().ToHashSet();
        bool IsFree(int channel) => new InputRef(bank.Id, channel) is var at && channel <= bank.Count && !bank.Off.Contains(channel) && !kept.Contains(at) && !IsTaken(at, wished: null, track.Pass);
        var to = Enumerable.Range(1, bank.Count).FirstOrDefault(channel => bank.Trouble(channel, track.Width) is null && Enumerable.Range(channel, (int)track.Width).All(IsFree));
        if (to == 0)
        {
            return;
        }

        foreach (var cable in cables)
        {
            _freed[(cable.Input, cable.Pass)] = new InputRef(bank.Id, to + cable.Input.Channel - track.Input!.Channel);
        }

        _rows.Add(new TemplateRow("cables", TemplateFate.Clash, $"{bank.InputName(wished.Channel, track.Width)} is taken, so what track {track.Title} hears is plugged into {bank.InputName(to, track.Width)}."));
    }

    private void Cables()
    {
        foreach (var cable in _template.Split.Cables)
        {
            if (_units.TryGetValue(cable.UnitId, out var unit) && Mapped(cable.Input, cable.Pass) is { } input && _split.HasInput(input) && _split.Cables.Length < SplitRules.MostCables
                && _split.Unit(unit)!.Chart.Channels >= cable.Channel)
            {
                var other = _split.Cables.FirstOrDefault(c => c.Input == input && Meet(c.Pass, cable.Pass));
                if (other is null)
                {
                    _split = _split with { Cables = _split.Cables.Add(cable with { UnitId = unit, Input = input }) };
                }
                else if (other.UnitId != unit || other.Channel != cable.Channel)
                {
                    _rows.Add(new TemplateRow("a cable", TemplateFate.Clash, $"{_split.Bank(input.BankId)!.InputName(input.Channel, Width.Mono)} is taken by a cable of {_split.Unit(other.UnitId)!.Name}, so that of {_split.Unit(unit)!.Name} is not plugged."));
                }
            }
        }
    }

    private void Groups()
    {
        foreach (var group in _template.Split.TrackGroups)
        {
            if (_split.TrackGroups.FirstOrDefault(g => g.Name == group.Name && g.Sums == group.Sums) is { } found)
            {
                _groups[group.Id] = found.Id;
            }
            else if (_split.TrackGroups.Length < SplitRules.MostTrackGroups)
            {
                var id = Enumerable.Range(1, SplitRules.MostTrackGroups + 1).Select(n => new TrackGroupId($"g{n}")).First(i => _split.TrackGroup(i) is null);
                _groups[group.Id] = id;
                var bus = Mapped(group.Bus) is { } to && _split.Fits(to, Width.Stereo) ? to : null;
                _split = _split with { TrackGroups = _split.TrackGroups.Add(group with { Id = id, Bus = bus, ParentId = null }) };
            }
        }

        // Whom a group feeds is known once all of them are there; what was there before feeds whom it fed.
        foreach (var group in _template.Split.TrackGroups.Where(g => g.ParentId is not null))
        {
            if (_groups.TryGetValue(group.Id, out var id) && _groups.TryGetValue(group.ParentId!.Value, out var parent) && _view.Split.TrackGroup(id) is null)
            {
                _split = _split with { TrackGroups = [.. _split.TrackGroups.Select(g => g.Id == id ? g with { ParentId = parent } : g)] };
            }
        }
    }

    private void Tracks()
    {
        foreach (var track in _template.Split.Tracks)
        {
            if (_split.Tracks.Length >= SplitRules.MostTracks)
            {
                _rows.Add(new TemplateRow($"track {track.Title}", TemplateFate.LeftOut, $"{track.Title} is left out: a split has at most {SplitRules.MostTracks} tracks."));
                continue;
            }

            var id = _split.NewTrackId();
            var (input, taken) = Input(track);
            var made = track with
            {
                Id = id,
                Name = FreeName(track.Name),
                Input = input,
                Bus = Mapped(track.Bus) is { } bus && _split.Fits(bus, track.Width) && _split.Bank(bus.BankId)!.Kind is BankKind.Buses or BankKind.Loopback ? bus : null,
                GroupId = track.GroupId is { } group && _groups.TryGetValue(group, out var sum) ? sum : null,
                LevelGroups = [.. track.LevelGroups.Where(_groups.ContainsKey).Select(g => _groups[g]).Distinct()],
                MeantFor = [.. track.MeantFor.Select(m => _units.TryGetValue(m.UnitId, out var unit) ? m with { UnitId = unit } : m).Where(m => _split.Unit(m.UnitId) is not null)],
            };
            _added.Add(id);
            _split = _split with { Tracks = _split.Tracks.Add(made) };
            var where = made.Input is not null ? $", on {_split.InputName(made)}" : track.Input is not null ? " without an input" : "";
            _rows.Add(new TemplateRow(
                $"track {made.Title}",
                made.Name != track.Name || taken is not null ? TemplateFate.Clash : made.Input is null && track.Input is not null ? TemplateFate.Missing : TemplateFate.Made,
                $"Track {made.Title}{(made.Name == track.Name ? "" : $" (the name {track.Name} is taken)")} is made{where}{taken}."));
        }
    }

    /// <summary>The same name, with a number where a track has it already.</summary>
    private string FreeName(string name)
    {
        bool IsFree(string wished) => _split.Tracks.All(t => !string.Equals(t.Name, wished, StringComparison.OrdinalIgnoreCase));
        var stem = name.Length > Names.Longest - 4 ? name[..(Names.Longest - 4)] : name;
        return name.Length == 0 || IsFree(name) ? name : Enumerable.Range(2, SplitRules.MostTracks).Select(n => $"{stem} {n}").First(IsFree);
    }

    /// <summary>The same input; none where there is no such input. Where another track listens in the same pass, it is as wished, with words that say why.</summary>
    private (InputRef? Input, string? Why) Input(Track track)
    {
        if (Mapped(track.Input, track.Pass) is not { } input || !_split.Fits(input, track.Width) || _split.Bank(input.BankId)!.Trouble(input.Channel, track.Width) is not null)
        {
            return (null, null);
        }

        bool Meets(Track other) => other.Input is { } at && at.BankId == input.BankId && other.Pass == track.Pass
            && at.Channel < input.Channel + (int)track.Width && input.Channel < at.Channel + (int)other.Width;
        return _view.Split.Tracks.FirstOrDefault(Meets) is not { } other ? (input, null)
            : _wish.Taken == TakenInputs.Share ? (input, $", which {other.Title} hears too")
            : (null, $", since {_split.Bank(input.BankId)!.InputName(input.Channel, track.Width)} is heard by {other.Title} already");
    }

    /// <summary>Rides and steps of what is here; a control that is ridden already stays as it is.</summary>
    private void Performance()
    {
        ElementRef? At(ElementRef element) => _units.TryGetValue(element.UnitId, out var unit) && new ElementRef(unit, element.ElementId) is var here && _split.HasElement(here) ? here : null;
        foreach (var ride in _template.Split.Rides)
        {
            if (At(ride.Element) is { } element && !_split.Rides.Any(r => r.Element == element && r.Control == ride.Control) && _split.Rides.Length < SplitRules.MostRides)
            {
                _split = _split with { Rides = _split.Rides.Add(ride with { Element = element }) };
            }
        }

        foreach (var step in _template.Split.Steps)
        {
            if (At(step.Element) is { } element && step.ToBar <= _split.Pass.LengthBars + 1 && _split.Steps.Length < PerformedStep.Most)
            {
                _split = _split with { Steps = _split.Steps.Add(step with { Element = element }) };
            }
        }
    }

    private void LeaveOutSilent()
    {
        var view = SplitView.Of(_split, _song);
        var silent = _split.Tracks.Where(t => _added.Contains(t.Id) && view.Signal.Into(t.Id).Any() && view.SoundingIn(t).IsEmpty).ToList();
        foreach (var track in silent)
        {
            _silent.UnionWith(view.Signal.Into(track.Id).Select(f => (f.UnitId, f.Port)));
            _rows.Add(new TemplateRow($"track {track.Title}", TemplateFate.LeftOut, $"{track.Title} is left out: nothing of it sounds in this song."));
        }

        _split = _split with { Tracks = _split.Tracks.RemoveAll(silent.Contains) };
        _added.ExceptWith(silent.Select(t => t.Id));
    }

    /// <summary>Of each source, the outputs that its new tracks hear are counted upward from the first of them, in their order; what was left out has none.</summary>
    private void CloseUp()
    {
        foreach (var unit in _units.Values.Select(id => _split.Unit(id)!))
        {
            var signal = SplitView.Of(_split, _song).Signal;
            var heard = (from track in _split.Tracks
                         where _added.Contains(track.Id)
                         let feeds = signal.Into(track.Id).Where(f => f.UnitId == unit.Id).Select(f => f.Port).Distinct().ToList()
                         where feeds.Count == 1 && signal.Into(track.Id).All(f => f.UnitId == unit.Id)
                         group track by feeds[0] into at
                         orderby at.Key
                         select (Port: unit.Chart.Port(at.Key)!, Tracks: at.ToList())).Where(h => !h.Port.IsMain).ToList();
            var closed = Closed(unit, heard);
            if (closed.Ok)
            {
                _split = closed.Value;
            }

            if (heard.Count > 0)
            {
                _rows.Add(new TemplateRow(unit.Name, closed.Ok ? TemplateFate.Made : TemplateFate.Clash, closed.Ok
                    ? $"The outputs of {unit.Name} are counted anew, without gaps."
                    : $"The numbers of {unit.Name} are kept: {closed.Trouble}"));
            }
        }
    }

    private Result<Split> Closed(Unit unit, List<(ChartPort Port, List<Track> Tracks)> heard)
    {
        var edits = ImmutableArray.CreateBuilder<Edit>();
        IEnumerable<ElementRef> On(int port) => unit.Elements.Where(e => e.Port == port).Select(e => new ElementRef(unit.Id, e.ElementId));
        edits.AddRange(_silent.Where(s => s.UnitId == unit.Id && heard.TrueForAll(h => h.Port.Number != s.Port)).SelectMany(s => On(s.Port)).Select(e => new AssignPort(e, null)));
        var free = new Queue<ChartPort>(unit.Chart.Ports.Where(p => !p.IsMain && heard.Count > 0 && p.Number >= heard[0].Port.Number).OrderBy(p => p.Number));
        foreach (var (old, tracks) in heard)
        {
            while (free.Count > 0 && free.Peek().Width != old.Width)
            {
                free.Dequeue();
            }

            if (!free.TryDequeue(out var port))
            {
                return new Refusal("it has too few outputs of the same width in a row.");
            }

            edits.AddRange(On(old.Number).Select(e => new AssignPort(e, port.Number)));
            edits.AddRange(unit.Groups.Where(g => g.Port == old.Number).Select(g => new SetGroup(unit.Id, g with { Port = port.Number })));
            foreach (var track in tracks)
            {
                var side = track.Input!.Channel - (_split.InputOf(unit, old.FirstChannel, track.Pass)?.Channel ?? track.Input.Channel);
                edits.Add(new SetTrackInput(track.Id, _split.InputOf(unit, port.FirstChannel, track.Pass) is { } at ? at with { Channel = at.Channel + side } : null));
            }
        }

        return new Several("Close up", edits.ToImmutable()).Apply(_split);
    }
}
