using System.Collections.Immutable;
using System.Security.Cryptography;
using System.Text;
using GateSplit.Core.Views;

namespace GateSplit.Core.Setup;

/// <summary>
/// Everything to be done on real gear so that it is as a split says, from gear that was just unpacked and an empty song on: what is set on each source,
/// what is plugged where, what is made in the recorder, how each pass is recorded, and what is put back afterwards.
/// </summary>
/// <param name="Parts">The steps, in order.</param>
public sealed record SetupSheet(ImmutableArray<SetupPart> Parts)
{
    private const int KeyBytes = 12;

    /// <summary>All steps.</summary>
    public IEnumerable<SetupStep> Steps => Parts.SelectMany(p => p.Steps);

    /// <summary>How many actions it takes.</summary>
    public int Actions => Steps.Sum(s => s.Actions);

    /// <summary>How many it would take one at a time.</summary>
    public int OneByOne => Steps.Sum(s => s.OneByOne);

    /// <summary>
    /// What names each step: the same as long as it says the same at the same place, so that what was done stays ticked when other steps change.
    /// </summary>
    public ImmutableArray<string> Keys
    {
        get
        {
            var seen = new Dictionary<(string, string), int>();
            return
            [
                .. Parts.SelectMany(p => p.Steps.Select(s =>
                {
                    var before = seen.GetValueOrDefault((p.Title, s.Sentence));
                    seen[(p.Title, s.Sentence)] = before + 1;
                    return Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes($"{p.Title}\n{s.Sentence}\n{before}")).AsSpan(0, KeyBytes));
                })),
            ];
        }
    }

    /// <summary>Makes one.</summary>
    public static SetupSheet Of(SplitView view)
    {
        ImmutableArray<SetupPart> parts =
        [
            RecorderSteps.Song(view),
            .. view.Split.Units.Select(u => SourceSteps.Of(view.Split, u)),
            ConnectionSteps.Of(view.Split),
            .. RecorderSteps.Tracks(view),
            .. PassSteps.Of(view),
            PassSteps.Afterwards(view),
        ];
        return new SetupSheet(parts.RemoveAll(p => p.Steps.IsEmpty));
    }

    /// <summary>The steps that another sheet has not: what is new beside the last time.</summary>
    /// <param name="before">The other.</param>
    /// <returns>Such parts and steps only.</returns>
    public SetupSheet Beside(SetupSheet before)
    {
        var known = before.Parts.SelectMany(p => p.Steps.Select(s => (p.Title, s.Sentence))).ToHashSet();
        return new SetupSheet([.. Parts.Select(p => p with { Steps = p.Steps.RemoveAll(s => known.Contains((p.Title, s.Sentence))) }).Where(p => !p.Steps.IsEmpty)]);
    }

    /// <summary>As plain text, to be pasted anywhere.</summary>
    /// <param name="title">What stands above it.</param>
    public string ToText(string title)
    {
        var text = new StringBuilder(title).AppendLine();
        var number = 0;
        foreach (var part in Parts)
        {
            text.AppendLine().AppendLine(part.AnyOrder ? $"{part.Title} (in any order)" : part.Title);
            foreach (var step in part.Steps)
            {
                text.AppendLine($"  [ ] {++number}. {step.Sentence}");
                if (step.Note.Length > 0)
                {
                    text.AppendLine($"         {step.Note}");
                }
            }
        }

        return text.ToString();
    }
}
