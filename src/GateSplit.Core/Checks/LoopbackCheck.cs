using GateSplit.Core.Edits;
using GateSplit.Core.Splits;
using GateSplit.Core.Views;

namespace GateSplit.Core.Checks;

/// <summary>On a looped-back pair only what is meant to be recorded may play: anything else is mixed into it for good.</summary>
public sealed class LoopbackCheck : ICheck
{
    /// <inheritdoc/>
    public IEnumerable<Finding> Look(SplitView view)
    {
        foreach (var bank in view.Split.Banks.Where(b => b.Kind == BankKind.Loopback))
        {
            for (var first = 1; first <= bank.Count; first += 2)
            {
                if (On(view, bank, first) is { Count: > 1 } players && Listened(view, bank, first))
                {
                    var (name, off) = players[^1];
                    yield return Finding.Warning(
                            Place.Of(new InputRef(bank.Id, first)),
                            $"{Words.List([.. players.Select(p => p.Name)])} play into {bank.InputName(first, Charts.Width.Stereo)} together: what is recorded there holds all of them.")
                        .WithFix($"Take {name} off the pair", off);
                }
            }
        }
    }

    /// <summary>Who plays into a pair, tracks after sources, each with the edit that takes it away.</summary>
    private static List<(string Name, Edit Off)> On(SplitView view, Bank bank, int first)
    {
        bool Hits(InputRef? at) => at?.BankId == bank.Id && (at.Channel == first || at.Channel == first + 1);
        var players = new List<(string, Edit)>();
        foreach (var unit in view.Split.Units.Where(u => view.SoundingElements.Any(e => e.Unit == u)))
        {
            var cables = view.Split.Cables.Where(c => c.UnitId == unit.Id && Hits(c.Input)).ToList();
            if (cables.Count > 0)
            {
                players.Add((unit.Name, new Several($"Take {unit.Name} off the pair", [.. cables.Select(c => (Edit)new PullCables(unit.Id, c.Input))])));
            }
        }

        foreach (var track in view.Split.Tracks.Where(t => Hits(t.Bus) && t.Heard && !view.SoundingIn(t).IsEmpty))
        {
            players.Add((track.Title, new SetTrackBus(track.Id, null)));
        }

        return players;
    }

    private static bool Listened(SplitView view, Bank bank, int first) => view.Split.Tracks.Any(t =>
        t.Armed && t.Input is { } input && input.BankId == bank.Id && input.Channel <= first + 1 && input.Channel + (int)t.Width > first);
}
