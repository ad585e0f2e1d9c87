using System.Collections.Immutable;
using System.Globalization;
using GateSplit.Core.Demo;
using GateSplit.Core.Notes;
using GateSplit.Core.Proofing;
using GateSplit.Core.Sound;
using GateSplit.Core.StandIns;
using GateSplit.Core.Views;
using GateSplit.Tests.Shared;

namespace GateSplit.Core.Tests.Proofing;

/// <summary>Which track holds what, where it sits and whether it drifts: on sounds of another tool, and on the stand-ins.</summary>
public sealed class IdentityTests : IDisposable
{
    private const int Rate = 48000;

    /// <summary>Sounds as sox makes them, with their lengths in seconds; none of them by Core.</summary>
    private static readonly (string Name, double Length, string Effects)[] Sounds =
    [
        ("Thud", 0.30, "synth 0.30 sine 55 fade l 0 0.30 0.29 gain -6"),
        ("Crack", 0.12, "synth 0.12 whitenoise fade l 0 0.12 0.11 gain -9"),
        ("Pluck", 0.40, "synth 0.40 pluck 330 fade 0 0.40 0.20 gain -8"),
        ("Chirp", 0.15, "synth 0.15 sine 3000-900 fade l 0 0.15 0.14 gain -10"),
        ("Tick", 0.04, "synth 0.04 whitenoise highpass 7000 fade l 0 0.04 0.03 gain -8"),
    ];

    private readonly TempFolder _folder = new();

    public void Dispose() => _folder.Dispose();

    [Theory]
    [InlineData(1.0, 1.2, false, 0)] // much of another in it, but nobody holds what it is called after
    [InlineData(1.0, 1.2, true, 1)] // that one is held by the other: they are exchanged
    [InlineData(0.25, 1.2, false, 1)] // what it is called after may be what bleeds in
    public void A_track_with_much_of_another_is_exchanged_only_with_one_that_holds_its_own(double own, double other, bool exchanged, int told)
    {
        var random = new Random(5);
        List<Part> parts = [.. Enumerable.Range(0, 3).Select(p => new Part($"{p}", [.. Enumerable.Range(0, 60).Select(i => 1 + (0.5 * i) + (0.05 * random.Next(9)))], false))];
        ImmutableArray<Onset> Hits(params (int Part, double Strength)[] of) =>
            [.. of.SelectMany(h => parts[h.Part].Notes.Select(n => (At: Math.Round(n, 2), h.Strength))).GroupBy(h => h.At).OrderBy(g => g.Key).Select(g => new Onset(g.Key, g.Max(h => h.Strength)))];
        var (_, tracks) = Identity.Of([Hits((0, own), (1, other)), exchanged ? Hits((0, 1)) : [], Hits((2, 1))], parts, [0, 1, 2]);
        Assert.Equal(told, tracks[0].Part);
        Assert.Equal(exchanged ? 0 : null, tracks[1].Part);
        Assert.Equal(2, tracks[2].Part);
    }

    [Theory]
    [InlineData(0.5, 0, null)] // a quarter of the energy: the other fits it so much better that it may hold anything under that
    [InlineData(0.75, 0, 2)]
    [InlineData(0.5, 2, 2)] // it is what its name says
    public void Where_another_that_bleeds_in_fits_far_better_what_is_left_for_a_track_is_no_answer(double own, int named, int? told)
    {
        var random = new Random(5);
        List<Part> parts = [.. Enumerable.Range(0, 3).Select(p => new Part($"{p}", [.. Enumerable.Range(0, 60).Select(i => 1 + (0.9 * i) + (0.3 * p) + (0.05 * random.Next(4)))], false))];
        ImmutableArray<Onset> Hits(params (int Part, double Strength)[] of) => [.. of.SelectMany(h => parts[h.Part].Notes.Select(n => new Onset(n, h.Strength))).OrderBy(o => o.Seconds)];
        var (_, tracks) = Identity.Of([Hits((2, own), (1, 1)), Hits((1, 1)), []], parts, [named, 1, 2 - named]);
        Assert.Equal([told, 1, null], tracks.Select(t => t.Part));
    }

    [Theory]
    [InlineData(0, 1)]
    [InlineData(1, 0)]
    public void A_track_is_given_back_what_another_was_taken_for_in_whatever_order_they_come(int clap, int hat)
    {
        // The tom is heard in the clap's file and the clap in the hat's, each louder than its own; the tom's file is empty.
        var random = new Random(5);
        List<Part> parts = [.. Enumerable.Range(0, 3).Select(p => new Part($"{p}", [.. Enumerable.Range(0, 60).Select(i => 1 + (0.5 * i) + (0.05 * random.Next(9)))], false))];
        ImmutableArray<Onset> Hits(int own, int louder) =>
            [.. parts[own].Notes.Select(n => (At: Math.Round(n, 2), Strength: 1.0)).Concat(parts[louder].Notes.Select(n => (At: Math.Round(n, 2), Strength: 1.2))).GroupBy(h => h.At).OrderBy(g => g.Key).Select(g => new Onset(g.Key, g.Max(h => h.Strength)))];
        var (onsets, named) = (new ImmutableArray<Onset>[3], new int?[3]);
        (onsets[clap], named[clap], onsets[hat], named[hat], onsets[2], named[2]) = (Hits(0, 1), 0, Hits(2, 0), 2, [], 1);
        var (_, tracks) = Identity.Of(onsets, parts, named);
        Assert.Equal([0, 2, null], [tracks[clap].Part, tracks[hat].Part, tracks[2].Part]);
    }

    [Theory]
    [InlineData(new[] { 0 }, 1, 5, 1)] // the file of the overheads holds the snare alone: the two are exchanged
    [InlineData(new[] { 0, 1, 2, 3 }, 1, 1, 5)] // it holds all: then the snare's is one with much bleed
    [InlineData(new int[0], 1, 5, null)] // it is silent, and that of the snare holds all, as overheads do
    [InlineData(new int[0], 0.26, 5, null)]
    [InlineData(new int[0], 0.24, 1, null)] // 12 dB softer than the snare: it bleeds in
    [InlineData(new int[0], 0, 1, null)]
    public void A_drum_in_whose_file_all_are_heard_is_exchanged_only_with_a_room_that_is_no_other_file(int[] inOverheads, double others, int snare, int? overheads)
    {
        // Two microphones of the snare, of which that above it is silent, three other drums, and two microphones of all.
        var random = new Random(5);
        ImmutableArray<double>[] notes = [.. Enumerable.Range(0, 4).Select(p => Enumerable.Range(0, 30).Select(i => 1 + (0.8 * i) + (0.2 * p) + (0.1 * random.NextDouble())).ToImmutableArray())];
        Part Hearing(params int[] of) => new(string.Join(' ', of), [.. of.SelectMany(p => notes[p]).Order()], false) { Keys = [.. of.Select(p => (9, 36 + p))] };
        ImmutableArray<Onset> Played(params int[] of) => [.. of.SelectMany(p => notes[p]).Order().Select(n => new Onset(n, 1))];
        ImmutableArray<Onset> inSnare = [.. Enumerable.Range(0, 4).SelectMany(p => notes[p].Select(n => new Onset(n, p is 0 or 1 ? 1 : p == 3 ? others : Math.Max(others, 0.3)))).Where(o => o.Strength > 0).OrderBy(o => o.Seconds)];
        Part[] parts = [Hearing(0), Hearing(0), Hearing(1), Hearing(2), Hearing(3), Hearing(0, 1, 2, 3), Hearing(0, 1, 2, 3)];
        var (_, tracks) = Identity.Of([[], inSnare, Played(1), Played(2), Played(3), Played(inOverheads), Played(0, 1, 2, 3)], parts, [0, 1, 2, 3, 4, 5, 6]);
        Assert.Equal([null, snare, 2, 3, 4, overheads, 6], tracks.Select(t => t.Part));
    }

    [Theory]
    [InlineData(0.31, 5)]
    [InlineData(0.29, 1)] // 12 dB softer than the snare: they bleed in
    public void A_room_in_the_file_of_a_drum_is_told_though_it_begins_late(double others, int told)
    {
        // Of the snare a quarter is missing, and something begins in the file that nobody knows; the file of the overheads is silent.
        var random = new Random(5);
        ImmutableArray<double>[] notes = [.. Enumerable.Range(0, 5).Select(p => Enumerable.Range(0, 30).Select(i => 1 + (0.9 * i) + (0.18 * p) + (0.1 * random.NextDouble())).ToImmutableArray())];
        Part Hearing(params int[] of) => new(string.Join(' ', of), [.. of.SelectMany(p => notes[p]).Order()], false) { Keys = [.. of.Select(p => (9, 36 + p))] };
        ImmutableArray<Onset> Played(params int[] of) => [.. of.SelectMany(p => notes[p]).Order().Select(n => new Onset(n, 1))];
        double[] strengths = [1.2, 0.8, others, others, 0.8];
        ImmutableArray<Onset> inSnare = [.. strengths.SelectMany((strength, p) => notes[p].Skip(p == 0 ? 8 : 0).Select(n => new Onset(n, strength))).OrderBy(o => o.Seconds)];
        Part[] parts = [Hearing(0), Hearing(0), Hearing(1), Hearing(2), Hearing(3), Hearing(0, 1, 2, 3), Hearing(0, 1, 2, 3)];
        var (_, tracks) = Identity.Of([[], inSnare, Played(1), Played(2), Played(3), [], Played(0, 1, 2, 3)], parts, [0, 1, 2, 3, 4, 5, 6]);
        Assert.Equal(told, tracks[1].Part);
    }

    [Theory]
    [InlineData(9, 0, 1)]
    [InlineData(9, 2, 1)]
    [InlineData(9, 3, 0)] // a third
    [InlineData(9, 7, 0)]
    [InlineData(3, 0, 1)]
    public void A_file_is_not_what_its_name_says_where_that_is_hardly_heard_when_it_plays_alone(int alone, int heard, int told)
    {
        // The file holds another element, whose own file is silent, and a third bleeds in: most notes of what it is called after are played together with one of them.
        var random = new Random(5);
        var times = Enumerable.Range(0, 70 + alone).Select(i => 1 + (0.4 * i) + (0.15 * random.NextDouble())).ToArray();
        random.Shuffle(times);
        double[] withLoud = times[..20], withBleed = times[20..33], loud = times[33..53], bleed = times[53..70], own = times[70..];
        Part[] parts = [new("own", [.. withLoud.Concat(withBleed).Concat(own).Order()], false), new("loud", [.. withLoud.Concat(loud).Order()], false), new("bleed", [.. withBleed.Concat(bleed).Order()], false)];
        ImmutableArray<Onset> Hits(params (IEnumerable<double> At, double Strength)[] of) => [.. of.SelectMany(o => o.At.Select(t => new Onset(t, o.Strength))).OrderBy(o => o.Seconds)];
        var (_, tracks) = Identity.Of([Hits((parts[1].Notes, 1), (parts[2].Notes, 0.9), (own[..heard], 0.9)), [], Hits((parts[2].Notes, 1))], parts, [0, 1, 2]);
        Assert.Equal([told, null, 2], tracks.Select(t => t.Part));
    }

    [Theory]
    [InlineData(3, 1)]
    [InlineData(2, 0)] // too few are played alone to tell how loud it is
    public void What_is_louder_is_told_by_three_notes_alone(int alone, int told)
    {
        ImmutableArray<double> notes = [.. Enumerable.Range(0, 28).Select(i => 1 + (0.6 * i) + (0.11 * (i * 7 % 3)))];
        List<Part> parts = [new("own", notes, false), new("loud", [.. notes.Take(8).Concat(Enumerable.Range(0, alone).Select(i => 30 + (0.77 * i)))], false)];
        ImmutableArray<Onset> track = [.. notes.Select((n, i) => new Onset(n, i < 8 ? 1.2 : 0.3)).Concat(parts[1].Notes.Skip(8).Select(n => new Onset(n, 1.2)))];
        Assert.Equal(told, Assert.Single(Identity.Of([track], parts, [0]).Tracks).Part);
    }

    [Theory]
    [InlineData(0.31, 1.0, 0.004, 0)]
    [InlineData(0.70, 0.85, 0.004, 0)]
    [InlineData(0.70, 0.7, 0.004, 1)] // too many of its own are not heard
    [InlineData(0.29, 1.0, 0.004, 1)] // so soft, they may be what bleeds in
    [InlineData(0.31, 1.0, 0.0006, 0)] // what bleeds in comes later
    [InlineData(0.31, 1.0, 0.0004, 1)] // what is louder and comes no later does not
    [InlineData(0.31, 1.0, -0.004, 1)]
    [InlineData(0.82, 1.0, 0, 1)] // 3.3 dB
    [InlineData(0.88, 1.0, 0, 0)] // 2.7 dB
    public void A_track_in_which_nearly_all_notes_of_its_own_are_heard_holds_them_however_loud_another_is_in_it_later(double own, double share, double late, int told)
    {
        var random = new Random(3);
        ImmutableArray<double> Notes(double from) => [.. Enumerable.Range(0, 60).Select(i => from + (0.6 * i) + (0.2 * random.NextDouble()))];
        List<Part> parts = [new("own", Notes(1), false), new("loud", Notes(1.3), false)];
        ImmutableArray<Onset> track = [.. parts[0].Notes.Where((_, i) => (i % 20) < 20 * share).Select(n => new Onset(n, own)).Concat(parts[1].Notes.Select(n => new Onset(n + late, 1.2))).OrderBy(o => o.Seconds)];
        Assert.Equal(told, Assert.Single(Identity.Of([track], parts, [0]).Tracks).Part);
    }

    [Theory]
    [InlineData(0.3, 1.0, true, 0)]
    [InlineData(0.35, 0.85, true, 0)]
    [InlineData(0.4, 0.75, true, null)] // too many are not heard
    [InlineData(0.2, 1.0, true, null)] // what else begins is far louder
    [InlineData(0.3, 1.0, false, null)] // nothing says that it should hold them
    public void A_track_holds_what_it_is_called_after_if_nearly_all_of_that_is_heard_under_what_nobody_knows(double own, double share, bool isNamed, int? told)
    {
        var random = new Random(3);
        ImmutableArray<double> Notes(double from) => [.. Enumerable.Range(0, 60).Select(i => from + (0.6 * i) + (0.2 * random.NextDouble()))];
        List<Part> parts = [new("own", Notes(1), false), new("beside", Notes(1.25), false)];
        ImmutableArray<Onset> track = [.. parts[0].Notes.Where((_, i) => (i % 20) < 20 * share).Select(n => new Onset(n, own)).Concat(Notes(1.3).Select(n => new Onset(n, 1))).OrderBy(o => o.Seconds)];
        ImmutableArray<Onset> beside = [.. parts[1].Notes.Select(n => new Onset(n, 1))];
        var (_, tracks) = Identity.Of([track, beside], parts, [isNamed ? 0 : null, 1]);
        Assert.Equal([told, 1], tracks.Select(t => t.Part));
    }

    [Theory]
    [InlineData(0.26, 0.9, 0.0025, 0, 1)]
    [InlineData(0.26, 0.9, 0.0015, 0, 2)] // sounds differ by as much in how they begin
    [InlineData(0.24, 0.9, 0.0025, 0, 2)] // so soft, it may be what bleeds in
    [InlineData(0.26, 0.7, 0.0025, 0, 2)] // too much of it is not heard
    [InlineData(0.26, 0.9, 0.0025, 2, 2)] // it is what its name says
    [InlineData(0.26, 0.9, -0.0025, 0, 2)]
    public void A_file_that_is_not_what_its_name_says_holds_what_comes_first(double soft, double share, double later, int named, int told)
    {
        var random = new Random(3);
        ImmutableArray<double> Notes(double from) => [.. Enumerable.Range(0, 60).Select(i => from + (0.9 * i) + (0.2 * random.NextDouble()))];
        List<Part> parts = [new("name", Notes(1), false), new("first", Notes(1.3), false), new("loud", Notes(1.6), false), new("other", Notes(1.05), false)];
        ImmutableArray<Onset> Struck(int part, double late, double level, double share) => [.. parts[part].Notes.Where((_, i) => (i % 20) < 20 * share).Select(n => new Onset(n + late, level))];
        ImmutableArray<Onset>[] tracks = [[.. Struck(1, 0, soft, share).Concat(Struck(2, later, 1, 1)).OrderBy(o => o.Seconds)], Struck(3, 0, 1, 1), Struck(0, 0, 1, 1)];
        Assert.Equal([told, 3, 0], Identity.Of(tracks, parts, [named, 3, 1]).Tracks.Select(t => t.Part));
        if (told == 1)
        {
            // Where another file holds it, it bleeds in; where in another only little of it is heard, by chance, it does not.
            Assert.Equal([2, 3, 1], Identity.Of([tracks[0], tracks[1], Struck(1, 0, 1, 1)], parts, [0, 3, 1]).Tracks.Select(t => t.Part));
            ImmutableArray<Onset> chance = [.. Enumerable.Range(0, 40).Select(i => new Onset(1.16 + (1.3 * i), 1)).Concat(Struck(1, 0, 1, 1).Take(4)).OrderBy(o => o.Seconds)];
            Assert.Equal([1, 3, 0, null], Identity.Of([.. tracks, chance], parts, [0, 3, 1, null]).Tracks.Select(t => t.Part));

            // Half of what begins in that file, it is not by chance.
            ImmutableArray<Onset> half = [.. Enumerable.Range(0, 60).Select(i => new Onset(1.18 + (0.9 * i), 1)).Concat(Struck(1, 0, 1, 1)).OrderBy(o => o.Seconds)];
            Assert.Equal([2, 3, 0, 1], Identity.Of([.. tracks, half], parts, [0, 3, 1, null]).Tracks.Select(t => t.Part));

            // What is held begins as it likes, and what hears several hears them later.
            Assert.Equal([2, 3, 0], Identity.Of(tracks, [parts[0], parts[1] with { Held = true }, parts[2], parts[3]], [0, 3, 1]).Tracks.Select(t => t.Part));
            Assert.Equal([2, 3, 0], Identity.Of(tracks, [parts[0], parts[1], parts[2] with { Held = true }, parts[3]], [0, 3, 1]).Tracks.Select(t => t.Part));
            Assert.Equal([2, 3, 0], Identity.Of(tracks, [parts[0], parts[1] with { Keys = [(9, 1), (9, 2)] }, parts[2], parts[3] with { Keys = [(9, 1)] }], [0, 3, 1]).Tracks.Select(t => t.Part));
            Assert.Equal([2, 3, 0], Identity.Of(tracks, [parts[0], parts[1], parts[2] with { Keys = [(9, 1), (9, 2)] }, parts[3] with { Keys = [(9, 1)] }], [0, 3, 1]).Tracks.Select(t => t.Part));
        }
    }

    [Theory]
    [InlineData(0.7, 1.0, 0, 0)]
    [InlineData(0.7, 1.0, 1, 2)] // another file holds it
    [InlineData(0.9, 0.75, 0, 2)] // too much of it is not heard
    [InlineData(0.6, 1.0, 0, 2)] // what bleeds in fits far better
    public void Lines_are_exchanged_in_pairs_however_loud_a_third_bleeds_in(double level, double share, double elsewhere, int told)
    {
        var random = new Random(3);
        ImmutableArray<double> Notes(double from) => [.. Enumerable.Range(0, 60).Select(i => from + (0.9 * i) + (0.2 * random.NextDouble()))];
        List<Part> parts = [new("one", Notes(1), false), new("other", Notes(1.3), false), new("third", Notes(1.6), false)];
        ImmutableArray<Onset> Struck(int part, double level, double share) => level == 0 ? [] : [.. parts[part].Notes.Where((_, i) => (i % 20) < 20 * share).Select(n => new Onset(n, level))];
        ImmutableArray<Onset>[] tracks = [Struck(1, 1, 1), [.. Struck(0, level, share).Concat(Struck(2, 1, 1)).OrderBy(o => o.Seconds)], Struck(0, elsewhere, 1)];
        Assert.Equal([1, told], Identity.Of(tracks, parts, [0, 1, 2]).Tracks.Take(2).Select(t => t.Part));

        // In whatever order the files come.
        Assert.Equal([told, 1], Identity.Of([tracks[2], tracks[1], tracks[0]], parts, [2, 1, 0]).Tracks.Skip(1).Select(t => t.Part));
        if (told == 0)
        {
            // Nor does the other get its name back, though much of that bleeds into it.
            tracks[0] = [.. Struck(1, 1, 1).Concat(Struck(0, 0.8, 1)).OrderBy(o => o.Seconds)];
            Assert.Equal([0, 1], Identity.Of([tracks[2], tracks[1], tracks[0]], parts, [2, 1, 0]).Tracks.Skip(1).Select(t => t.Part));
        }
    }

    [Theory]
    [InlineData(true, 0.5, 0)] // it swells
    [InlineData(false, 0.5, 1)]
    [InlineData(true, 0, 0)]
    [InlineData(false, 0, 1)]
    public void What_is_held_fits_its_name_by_its_pitches_however_loud_and_early_another_begins_in_it(bool held, double swells, int told)
    {
        var random = new Random(3);
        ImmutableArray<double> Notes(double from) => [.. Enumerable.Range(0, 60).Select(i => from + (0.9 * i) + (0.2 * random.NextDouble()))];
        List<Part> parts = [new("own", Notes(1), held), new("bass", Notes(1.3), true)];
        ImmutableArray<Onset> track = [.. parts[0].Notes.Where(_ => swells > 0).Select(n => new Onset(n + 0.005, swells)).Concat(parts[1].Notes.Select(n => new Onset(n, 1))).OrderBy(o => o.Seconds)];
        Assert.Equal(told, Identity.Of([track, []], parts, [0, 1], _ => new double?[,] { { 0.55, 0.5 }, { null, null } }).Tracks[0].Part);
    }

    [Fact]
    public void A_file_that_is_early_is_found_though_most_notes_are_late()
    {
        // Two files with most of the notes are late by themselves; one is early, and from where those lie further than notes are looked for.
        var random = new Random(4);
        List<(int Notes, double Late)> files = [(10, 0), (11, 0), (12, 0), (60, 0.006), (61, 0.006), (20, -0.005)];
        List<Part> parts = [.. files.Select((f, i) => new Part($"{i}", [.. Enumerable.Range(0, f.Notes).Select(n => 1 + ((n + (0.6 * random.NextDouble())) * 40 / f.Notes))], false))];
        var (time, tracks) = Identity.Of([.. parts.Select((p, i) => (ImmutableArray<Onset>)[.. p.Notes.Select(n => new Onset(n + files[i].Late, 1))])], parts, [.. parts.Select((_, i) => (int?)i)]);
        Assert.Equal(0, time!.Offset, 0.0005);
        Assert.All(tracks.Index(), t => Assert.Equal((t.Index, files[t.Index].Late), (t.Item.Part, Math.Round(t.Item.Offset!.Value, 3))));
    }

    [Fact]
    public void What_is_told_by_pitches_alone_has_no_beginnings_to_be_louder_than()
    {
        var random = new Random(3);
        ImmutableArray<double> Notes(double from) => [.. Enumerable.Range(0, 60).Select(i => from + (0.9 * i) + (0.2 * random.NextDouble()))];
        List<Part> parts = [new("own", Notes(1), false), new("pad", Notes(1.3), true)];
        ImmutableArray<Onset> track = [.. parts[0].Notes.Select(n => new Onset(n, 0.5)).Concat(Notes(1.6).Select(n => new Onset(n, 1.2))).OrderBy(o => o.Seconds)];
        Assert.Equal(1, Assert.Single(Identity.Of([track], parts, [0], _ => new double?[,] { { null, 0.95 } }).Tracks).Part);
    }

    [Theory]
    [InlineData(0, 1)]
    [InlineData(7, 1)]
    [InlineData(8, 0)]
    public void Notes_that_begin_with_those_of_another_tell_nothing_of_what_a_track_holds(int beside, int told)
    {
        var random = new Random(3);
        double[] loud = [.. Enumerable.Range(0, 60).Select(i => 1 + (0.6 * i) + (0.2 * random.NextDouble()))];
        double[] alone = [.. Enumerable.Range(0, beside).Select(i => 1.4 + (3 * i))];
        List<Part> parts = [new("own", [.. loud.Where((_, i) => i % 4 == 0).Concat(alone).Order()], false), new("loud", [.. loud], false)];
        ImmutableArray<Onset> track = [.. loud.Concat(alone).Order().Select(n => new Onset(n, 1))];
        Assert.Equal(told, Assert.Single(Identity.Of([track], parts, [0]).Tracks).Part);
    }

    [Theory]
    [InlineData(0.9, 0.05, 0, 0.0)]
    [InlineData(0.05, 0.9, 0, 1.5)]
    [InlineData(0.5, 0.05, 0.95, 0.0)] // and none at which hardly any fits
    public void Of_several_times_at_which_even_notes_fit_the_pitches_tell_one(double atOnce, double later, double between, double told)
    {
        // Every one and a half seconds, with one missing, and swells inside that are louder than what begins.
        double[] notes = [.. Enumerable.Range(0, 20).Where(i => i != 7).Select(i => 1 + (1.5 * i))];
        ImmutableArray<Onset> onsets = [.. Enumerable.Range(0, 20).SelectMany(i => new[] { new Onset(1 + (1.5 * i), 0.5), new Onset(1.6 + (1.5 * i) + (0.04 * (i % 7)), 1) })];
        var (time, tracks) = Identity.Of([onsets], [new Part("Lead", [.. notes], true)], [0], at => new double?[,] { { Math.Abs(at.Offset) < 0.1 ? atOnce : Math.Abs(at.Offset - 1.5) < 0.1 ? later : at.Offset is > 0.3 and < 1.2 ? between : 0 } });
        Assert.Equal(0, tracks[0].Part);
        Assert.Equal(told, time!.Offset, 0.05);
    }

    [Theory]
    [InlineData(0.9, 0.05, 0, 0.0)]
    [InlineData(0.05, 0.9, 0, 1.5)]
    [InlineData(0.5, 0.05, 1, 0.0)] // at which a note less is heard
    public void Of_times_that_fit_alike_the_pitches_tell_one_however_well_they_fit(double atOnce, double later, double earlier, double told)
    {
        // All there is begins three notes late.
        double[] notes = [.. Enumerable.Range(0, 20).Select(i => 1 + (1.5 * i))];
        ImmutableArray<Onset> onsets = [.. notes[3..].Select(n => new Onset(n, 0.5))];
        var (time, tracks) = Identity.Of([onsets], [new Part("Lead", [.. notes], true)], [0], at => new double?[,] { { Math.Abs(at.Offset) < 0.1 ? atOnce : Math.Abs(at.Offset - 1.5) < 0.1 ? later : Math.Abs(at.Offset + 1.5) < 0.1 ? earlier : 0 } });
        Assert.Equal(0, tracks[0].Part);
        Assert.Equal(told, time!.Offset, 0.05);
    }

    [Fact]
    public void Where_nothing_struck_tells_it_the_pitches_say_where_the_take_lies()
    {
        // What begins does so beside the notes; the pitches are those of the part 0.7 s later.
        double[] notes = [.. Enumerable.Range(0, 20).Select(i => 1 + (1.5 * i))];
        ImmutableArray<Onset> onsets = [.. notes.Select((n, i) => new Onset(n + 0.3 + (0.013 * (i * 7 % 5)), 1))];
        double?[,] Fits(TakeTime at) => new double?[,] { { Math.Abs(at.Offset - 0.7) < 0.01 ? 0.9 : 0.4 } };
        TakeTime? Time(bool held, Func<IReadOnlyList<double>>? places) => Identity.Of([onsets], [new Part("Pad", [.. notes], held)], [0], Fits, places).Time;
        Assert.Equal(0.7, Time(true, () => [-1, 0.7, 1.4])!.Offset, 0.01);
        Assert.InRange(Time(true, () => [])!.Offset, 0.2, 0.45);
        Assert.InRange(Time(true, null)!.Offset, 0.2, 0.45);

        // What is struck tells it; then they are not asked.
        ImmutableArray<Onset> struck = [.. notes.Select(n => new Onset(n + 0.3, 1))];
        Assert.Equal(0.3, Identity.Of([struck], [new Part("Kick", [.. notes], false)], [0], Fits, () => throw new InvalidOperationException()).Time!.Offset, 0.002);
    }

    [Theory]
    [InlineData(0.80, 20, 0.58)]
    [InlineData(0.80, 16, 0.58)]
    [InlineData(0.80, 13, 0.7)] // too few begin there
    [InlineData(0.40, 16, 0.7)] // the pitches tell more
    public void Of_places_that_pitches_tell_nearly_alike_it_is_that_where_more_notes_begin(double fit, int begun, double told)
    {
        // Behind it, what swells is heard best, and nothing begins.
        double[] notes = [.. Enumerable.Range(0, 20).Select(i => 1 + (1.5 * i))];
        ImmutableArray<Onset> onsets = [.. notes.Select((n, i) => new Onset(i < begun ? n + 0.58 : n + 1.1 + (0.017 * (i * 7 % 5)), 1))];
        double?[,] Fits(TakeTime at) => new double?[,] { { Math.Abs(at.Offset - 0.7) < 0.03 ? 0.9 : Math.Abs(at.Offset - 0.58) < 0.03 ? fit : 0 } };
        Assert.Equal(told, Identity.Of([onsets], [new Part("Pad", [.. notes], true)], [0], Fits, () => [0.7]).Time!.Offset, 0.03);
    }

    [Theory]
    [InlineData(new[] { 0.0, 4 }, new[] { 1.5, 2.5, 4 }, 0, false)] // what is held begins a little later than its notes, never earlier
    [InlineData(new[] { 0.0, -4 }, new[] { 1.5, 2.5, 4 }, 0, false)]
    [InlineData(new[] { 0.0, -4 }, new[] { 2.9, 8, 8 }, 0, false)] // one that begins late is no proof
    [InlineData(new[] { 0.0, 4 }, new[] { 3.2, 3.9 }, 4, false)] // more than 3 ms late: it begins with the other
    [InlineData(new[] { 0.0, 4 }, new double[0], 2, true)] // nobody can tell
    [InlineData(new[] { 0.0, 0, 4, 4 }, new double[0], 2, true)]
    [InlineData(new[] { 0.0, 0, 4, 4 }, new[] { 4.5 }, 4, false)]
    [InlineData(new[] { 0.0, 4, 4 }, new[] { 1.5, 2.5 }, 4, false)] // most of what is struck tells more
    [InlineData(new[] { 0.0, 0, 2, 5 }, new double[0], 0, false)]
    [InlineData(new[] { -3, -0.1, 0.1, 3 }, new[] { -2.0, -2, -2 }, 0, false)] // half of what is struck lies in the middle: that tells enough
    [InlineData(new[] { -0.6, 0.6 }, new[] { 3.0, 4, 5 }, 0, false)] // so little apart, both are in time
    [InlineData(new[] { 1.0 }, new double[0], 1, false)]
    [InlineData(new[] { 0.0 }, new[] { 2.4, 9 }, 0, false)] // half of what is held begins with it
    [InlineData(new[] { 0.0 }, new[] { 2.6, 9 }, 0, true)]
    [InlineData(new[] { 0.0 }, new[] { -0.9, 9 }, 0, true)]
    [InlineData(new double[0], new[] { 2.0, 3, 7 }, 3, true)] // what is held begins later than its notes
    public void The_take_lies_where_most_of_its_files_begin(double[] struck, double[] held, double told, bool about)
    {
        var random = new Random(5);
        double[] late = [.. struck, .. held];
        List<Part> parts = [.. late.Select((_, p) => new Part($"{p}", [.. Enumerable.Range(0, 60).Select(i => 1 + (0.5 * i) + (0.05 * random.Next(9)))], p >= struck.Length))];
        var (time, tracks) = Identity.Of([.. parts.Select((part, p) => part.Notes.Select(n => new Onset(n + (late[p] / 1000), 1)).ToImmutableArray())], parts, [.. late.Select((_, p) => (int?)p)]);
        Assert.Equal(told, time!.Offset * 1000, 0.05);
        Assert.Equal(about, time.About);
        Assert.All(tracks.Zip(late), t => Assert.Equal(t.Second - told, t.First.Offset!.Value * 1000, 0.05));
    }

    [Theory]
    [InlineData(0, 0, -90)]
    [InlineData(1234, 0, -60)]
    [InlineData(-400, 150, -50)]
    [InlineData(2000, -200, -40)]
    public void Exchanged_tracks_are_found_wherever_the_take_lies_and_however_it_drifts(int offsetMs, int ppm, int noise)
    {
        // The notes of five parts, some of them together, for two minutes; the song begins at one second.
        var random = new Random(offsetMs + ppm);
        var parts = Sounds.Select((sound, i) =>
        {
            var notes = new List<double>();
            for (var at = 1 + 0.25 * i; at < 120; at += 0.25 * (1 + random.Next(4)) + (sound.Length > 0.2 ? 0.25 : 0))
            {
                notes.Add(at);
            }

            return new Part(sound.Name, [.. notes], false);
        }).ToList();
        var paths = Sounds.Select((sound, i) => Placed(sound, [.. parts[i].Notes.Select(n => offsetMs / 1000.0 + n * (1 + ppm / 1e6))], noise)).ToList();

        // Thud is where Chirp should be, and the other way round.
        (paths[0], paths[3]) = (paths[3], paths[0]);
        var (time, tracks) = Identity.Of([.. paths.Select(Begin)], parts, [0, 1, 2, 3, 4]);
        Assert.Equal([3, 1, 2, 0, 4], tracks.Select(t => t.Part!.Value));
        Assert.All(tracks, t => Assert.InRange(t.Certainty, 0.6, 1));
        Assert.All(tracks, t => Assert.InRange(t.Hits, (int)(0.97 * parts[t.Part!.Value].Notes.Length), parts[t.Part!.Value].Notes.Length));
        Assert.Equal(offsetMs / 1000.0, time!.Offset, 0.001);
        Assert.Equal(ppm, 1e6 * time.Drift, 10.0);
    }

    [Fact]
    public void Beginnings_are_found_to_the_millisecond_and_nothing_where_nothing_begins()
    {
        double[] at = [0.5, 0.75, 1.0, 1.9, 2.0, 3.3];
        foreach (var sound in Sounds)
        {
            var onsets = Begin(Placed(sound, [.. at], -60));
            Assert.Equal(at.Length, onsets.Length);
            Assert.All(onsets.Zip(at), p => Assert.Equal(p.Second, p.First.Seconds, 0.001));
        }

        // Noise begins where its file does, and nowhere else.
        Assert.All(Begin(Placed(Sounds[0], [], -40)), o => Assert.Equal(0, o.Seconds, 0.001));
        Assert.Empty(Begin(Placed(Sounds[0], [], -120)));
    }

    [Fact]
    public void Tracks_of_which_nothing_is_known_are_not_guessed()
    {
        var thud = Begin(Placed(Sounds[0], [1, 2, 3.25, 4.5], -90));
        var (_, tracks) = Identity.Of([thud, []], [new Part("Thud", [1, 2, 3.25, 4.5], false), new Part("Nothing", [], false)], [0, 1]);
        Assert.Equal((0, 4), (tracks[0].Part, tracks[0].Hits));
        Assert.Equal((null, 0.0), (tracks[1].Part, tracks[1].Certainty));

        // Other notes altogether.
        var (time, none) = Identity.Of([thud], [new Part("Other", [0.3, 0.4, 0.5, 0.6, 0.7, 0.8, 0.9, 1.7, 1.8, 1.9, 2.6, 2.7, 2.8, 3.6, 3.7], false)], [0]);
        Assert.Equal((null, null), (time, none[0].Part));
        Assert.Equal((null, 0), (Identity.Of([thud], [], [null]).Time, Identity.Of([], [], []).Tracks.Length));

        // Two parts with the same notes cannot be told apart: each stays where its name is, and that is only half certain.
        var same = new Part("Thud", [1, 2, 3.25, 4.5], false);
        var (_, alike) = Identity.Of([thud, thud], [same, same with { Name = "Again" }], [1, 0]);
        Assert.Equal([1, 0], alike.Select(t => t.Part!.Value));
        Assert.All(alike, t => Assert.InRange(t.Certainty, 0.4, 0.6));
    }

    [Fact]
    public void The_planted_exchange_of_a_demo_is_found_by_ear_alone()
    {
        var demo = FogSignal.Session;
        var song = Song.Of(demo.Song);
        var view = SplitView.Of(demo.Split, song);
        var printed = new StandInRecorder(view, song).Print(t => _folder[$"{t.Id}.wav"], new DateTime(2026, 1, 2, 3, 4, 5)).ToList();
        var parts = Parts.Of(view, printed.Select(p => p.Track));
        var (_, tracks) = Identity.Of([.. printed.Select(p => Begin(p.Path))], parts, [.. printed.Select((_, i) => (int?)i)]);
        string? Is(string name) => printed.FindIndex(p => p.Track.Title == name) is var at && tracks[at].Part is { } part ? parts[part].Name : null;
        Assert.Equal(("Snare", "Kick", "Closed hat", "Open hat", "Low tom", "High tom"), (Is("Kick"), Is("Snare"), Is("Closed hat"), Is("Open hat"), Is("Low tom"), Is("High tom")));
        Assert.Null(Is("Cymbal")); // its input is switched off
    }

    private static ImmutableArray<Onset> Begin(string path)
    {
        using var reader = WaveReader.Open(path).Value!;
        return Onsets.Of(new MonoReader(reader));
    }

    /// <summary>A file in which a sound begins at some times, over noise of so many dBFS.</summary>
    private string Placed((string Name, double Length, string Effects) sound, ImmutableArray<double> times, int noise)
    {
        var one = _folder[$"{sound.Name}.f32"];
        Programs.Run("sox", ["-n", "-R", "-r", $"{Rate}", "-c", "1", "-e", "floating-point", "-b", "32", "-t", "raw", one, .. sound.Effects.Split(' ')]);
        var bytes = File.ReadAllBytes(one);
        var samples = new float[bytes.Length / 4];
        Buffer.BlockCopy(bytes, 0, samples, 0, bytes.Length);
        var random = new Random(times.Length);
        var amplitude = Math.Pow(10, noise / 20.0) * Math.Sqrt(3);
        var whole = new float[(int)((times.DefaultIfEmpty(4).Max() + 1) * Rate)];
        foreach (ref var sample in whole.AsSpan())
        {
            sample = (float)(amplitude * (2 * random.NextDouble() - 1));
        }

        foreach (var time in times)
        {
            var first = (int)Math.Round(time * Rate);
            for (var i = 0; i < samples.Length; i++)
            {
                if (first + i >= 0 && first + i < whole.Length)
                {
                    whole[first + i] += samples[i];
                }
            }
        }

        var (raw, path) = (_folder[$"{Guid.NewGuid():N}.f32"], _folder[$"{Guid.NewGuid():N}.wav"]);
        var back = new byte[whole.Length * 4];
        Buffer.BlockCopy(whole, 0, back, 0, back.Length);
        File.WriteAllBytes(raw, back);
        Programs.Run("sox", "-t", "raw", "-e", "floating-point", "-b", "32", "-r", Rate.ToString(CultureInfo.InvariantCulture), "-c", "1", raw, "-e", "floating-point", "-b", "32", path);
        return path;
    }
}
