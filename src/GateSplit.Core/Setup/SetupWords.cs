using System.Collections.Immutable;
using System.Globalization;
using GateSplit.Core.Charts;
using GateSplit.Core.Quantities;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Setup;

/// <summary>The words that steps are made of, each said in one way only.</summary>
internal static class SetupWords
{
    /// <summary>A name as it stands on the gear: “Kick”.</summary>
    public static string Quoted(string name) => $"“{name}”";

    /// <summary>A number as people set it, to the hundredth: "-6", "0.25".</summary>
    public static string Number(double value) => (Math.Round(value, 2) + 0.0).ToString("0.##", CultureInfo.InvariantCulture);

    /// <summary>"-6 dB".</summary>
    public static string Level(Decibels level) => $"{Number(level.Value)} dB";

    /// <summary>"hard left", "30 % right", "the centre".</summary>
    public static string Place(Pan pan) => Number(pan.Percent) switch
    {
        "0" => "the centre",
        "-100" => "hard left",
        "100" => "hard right",
        var percent when percent[0] == '-' => $"{percent[1..]} % left",
        var percent => $"{percent} % right",
    };

    /// <summary>"“USB” 3", or "“USB” 3-4" for a pair.</summary>
    public static string Input(Split split, InputRef input, Width width) =>
        $"{Quoted(split.Bank(input.BankId)!.Label)} {(width == Width.Mono ? $"{input.Channel}" : $"{input.Channel}-{input.Channel + 1}")}";

    /// <summary>"mono" or "stereo".</summary>
    public static string Of(Width width) => width == Width.Mono ? "mono" : "stereo";

    /// <summary>"“Kick”", "“Kick” up to “Clap”".</summary>
    public static string Rows<T>(Stroke<T> stroke, ImmutableArray<string> told) => stroke.Rows == 1 ? told[stroke.First] : $"{told[stroke.First]} up to {told[stroke.Last]}";

    /// <summary>"fader", "faders".</summary>
    public static string Plural<T>(string one, Stroke<T> stroke) => stroke.Rows == 1 ? one : one + "s";

    /// <summary>"track 3", "tracks 3 to 6".</summary>
    public static string Tracks<T>(Stroke<T> stroke) => stroke.Rows == 1 ? $"track {stroke.First + 1}" : $"tracks {stroke.First + 1} to {stroke.Last + 1}";

    /// <summary>
    /// Steps for a column of rows of which one action can set several: those on several rows each by itself, first, then all that concern a single row
    /// as one step with a list.
    /// </summary>
    /// <typeparam name="T">What a row holds.</typeparam>
    /// <param name="now">What the rows hold.</param>
    /// <param name="wanted">What they shall hold.</param>
    /// <param name="run">The sentence of one action, on several rows or on one.</param>
    /// <param name="singles">The sentence that begins a list of single rows, without the list: "Set single faders".</param>
    /// <param name="single">One row and what it gets, as a part of that list.</param>
    /// <param name="at">What counts upward, as <see cref="Strokes"/> asks for it; null where an action gives all rows the same.</param>
    /// <param name="note">What helps with some rows; null for nothing.</param>
    public static ImmutableArray<SetupStep> Column<T>(
        IReadOnlyList<T> now,
        IReadOnlyList<T> wanted,
        Func<Stroke<T>, string> run,
        string singles,
        Func<Stroke<T>, string> single,
        Func<int, int, bool, Strokes.Held<T>?>? at = null,
        Func<int, string>? note = null)
    {
        var strokes = at is null ? Strokes.Fewest(now, wanted) : Strokes.Fewest(now, wanted, at);
        var alone = strokes.Where(s => s.Rows == 1).ToList();
        string Note(IEnumerable<int> rows) => note is null ? "" : string.Join(", ", rows.Select(note).Where(n => n.Length > 0));
        var steps = strokes.Where(s => s.Rows > 1 || alone.Count == 1).Select(s => new SetupStep(run(s)) { Note = Note(Enumerable.Range(s.First, s.Rows)) }).ToList();
        if (alone.Count > 1)
        {
            steps.Add(new SetupStep($"{singles}: {string.Join(", ", alone.Select(single))}.") { Note = Note(alone.Select(s => s.First)), Actions = alone.Count });
        }

        // Who sets one row at a time sets each that is not right, once. Only the sum over the column means something.
        var oneByOne = Enumerable.Range(0, wanted.Count).Count(i => !EqualityComparer<T>.Default.Equals(now[i], wanted[i]));
        return steps.Count == 0 ? [] : [steps[0] with { OneByOne = oneByOne - (steps.Count - 1) }, .. steps.Skip(1)];
    }
}
