using GateSplit.Core;
using GateSplit.Core.Charts;
using GateSplit.Core.Edits;
using GateSplit.Core.Splits;
using GateSplit.Core.StandIns;
using GateSplit.Data;
using GateSplit.Web.Sessions;
using Microsoft.AspNetCore.Mvc;

namespace GateSplit.Web.Pages.Session;

/// <summary>The recorder's side of a session: rows of inputs, cables, groups of tracks.</summary>
public sealed class RecorderModel(OpenSessions open, SessionStore sessions, TakeStore takes, JobStore jobs, IAudioStore store)
    : EditPage(open, sessions, takes, jobs, store)
{
    /// <summary>One input as it is shown.</summary>
    /// <param name="Number">From 1.</param>
    /// <param name="On">False if it is switched off.</param>
    /// <param name="From">What arrives on it.</param>
    /// <param name="Tracks">The tracks that listen to it.</param>
    public sealed record Cell(int Number, bool On, IReadOnlyList<string> From, IReadOnlyList<string> Tracks);

    /// <summary>The inputs of a row with what arrives there and who listens.</summary>
    public IReadOnlyList<Cell> Cells(Bank bank)
    {
        var from = new Dictionary<int, List<string>>();
        void Arrives(int input, string name)
        {
            if (!from.TryGetValue(input, out var names))
            {
                from[input] = names = [];
            }

            if (!names.Contains(name))
            {
                names.Add(name);
            }
        }

        if (bank is { Connected: true, UnitId: { } unitId } && Split.Unit(unitId) is { } own)
        {
            foreach (var port in own.Chart.Ports.Where(p => own.Exposes(p.Number)))
            {
                for (var channel = port.FirstChannel; channel <= port.LastChannel; channel++)
                {
                    Arrives(channel, port.Name + SideOf(port, channel));
                }
            }
        }

        foreach (var cable in Split.Cables.Where(c => c.Input.BankId == bank.Id))
        {
            if (Split.Unit(cable.UnitId) is { } unit && unit.Chart.Ports.FirstOrDefault(p => p.FirstChannel <= cable.Channel && cable.Channel <= p.LastChannel) is { } port)
            {
                Arrives(cable.Input.Channel, $"{(Split.Units.Length > 1 ? unit.Name + " " : "")}{port.Name}{SideOf(port, cable.Channel)}");
                if (cable.Pass is { } pass)
                {
                    from[cable.Input.Channel][^1] = $"{pass}: {from[cable.Input.Channel][^1]}";
                }
            }
        }

        foreach (var (bus, width, name) in Split.Tracks.Select(t => (t.Bus, t.Width, t.Title))
            .Concat(Split.TrackGroups.Where(g => g.Sums).Select(g => (g.Bus, Width.Stereo, g.Name))))
        {
            for (var side = 0; bus?.BankId == bank.Id && side < (int)width; side++)
            {
                Arrives(bus.Channel + side, name);
            }
        }

        return
        [
            .. Enumerable.Range(1, bank.Count).Select(i => new Cell(
                i,
                !bank.Off.Contains(i),
                from.TryGetValue(i, out var names) ? names : [],
                [.. Split.Tracks.Where(t => t.Input is { } at && at.BankId == bank.Id && at.Channel <= i && i < at.Channel + (int)t.Width).Select(t => t.Title)])),
        ];
    }

    /// <summary>Measures how late a looped-back pair is, and sets it so.</summary>
    public Task<IActionResult> OnPostPing(int revision, string bank) => Change(revision, () =>
    {
        if (Split.Bank(new BankId(bank)) is not { Kind: BankKind.Loopback } pair)
        {
            return new Refusal("There is no such looped-back pair.");
        }

        var late = Ping.RoundTrip(Split, pair);
        return late == pair.DelaySamples ? new Refusal($"The ping came back on {pair.Label} after {late} samples, as the split says.") : new SetBank(pair with { DelaySamples = late });
    });

    /// <inheritdoc/>
    protected override string Station => "recorder";

    /// <inheritdoc/>
    protected override string Address() => $"/sessions/{Id}/recorder";

    /// <inheritdoc/>
    protected override Task<bool> Show() => Load(Station);

    private static string SideOf(ChartPort port, int channel) => port.Width == Width.Mono ? "" : channel == port.FirstChannel ? " L" : " R";
}
