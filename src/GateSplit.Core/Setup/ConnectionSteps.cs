using System.Collections.Immutable;
using GateSplit.Core.Splits;
using static GateSplit.Core.Setup.SetupWords;

namespace GateSplit.Core.Setup;

/// <summary>What is plugged, and which inputs are on.</summary>
internal static class ConnectionSteps
{
    /// <summary>What holds for all passes.</summary>
    public static SetupPart Of(Split split) => new("Cables and inputs", [.. split.Banks.SelectMany(b => Inputs(b)), .. Plugs(split, null)]) { AnyOrder = true };

    /// <summary>Cables of one pass, or with null those of all: what runs side by side is told together, and each plug is an action.</summary>
    public static IEnumerable<SetupStep> Plugs(Split split, int? pass)
    {
        var left = split.Cables.Where(c => c.Pass == pass).OrderBy(c => split.Units.IndexOf(split.Unit(c.UnitId)!)).ThenBy(c => c.Channel).ThenBy(c => split.Banks.IndexOf(split.Bank(c.Input.BankId)!)).ToList();
        while (left is [var first, ..])
        {
            Cable Next(int n) => first with { Channel = first.Channel + n, Input = first.Input with { Channel = first.Input.Channel + n } };
            var count = Enumerable.Range(1, left.Count).First(n => !left.Contains(Next(n)));
            left.RemoveAll(c => Enumerable.Range(0, count).Any(n => c == Next(n)));
            var unit = split.Unit(first.UnitId)!;
            string Run(int from) => count == 1 ? $"{from}" : $"{from} to {from + count - 1}";
            var names = unit.Chart.Ports.Where(p => p.LastChannel >= first.Channel && p.FirstChannel < first.Channel + count).Select(p => $"output {p.Number} {Quoted(p.Name)} on {p.Channels}");
            yield return new SetupStep($"Plug {(count == 1 ? "channel" : "channels")} {Run(first.Channel)} of {Quoted(unit.Name)} into {Quoted(split.Bank(first.Input.BankId)!.Label)} {Run(first.Input.Channel)}.")
            {
                Note = string.Join(", ", names),
                Actions = count,
                OneByOne = count,
            };
        }
    }

    /// <summary>True of rows that somebody has to switch on in the recorder; all others are simply there.</summary>
    public static bool StartsOff(Bank bank) => bank.Kind is BankKind.Usb or BankKind.Analog;

    private static ImmutableArray<SetupStep> Inputs(Bank bank)
    {
        var label = Quoted(bank.Label);
        var steps = ImmutableArray.CreateBuilder<SetupStep>();
        string Switch(bool on) => on ? "Switch on" : "Switch off";
        steps.AddRange(Column<bool>(
            [.. Enumerable.Range(1, bank.Count).Select(_ => !StartsOff(bank))],
            [.. Enumerable.Range(1, bank.Count).Select(i => !bank.Off.Contains(i))],
            s => $"{Switch(s.Value)} {Plural("input", s)} {(s.Rows == 1 ? $"{s.First + 1}" : $"{s.First + 1} to {s.Last + 1}")} of {label} in the recorder.",
            $"On {label}, one by one",
            s => $"{char.ToLowerInvariant(Switch(s.Value)[0])}{Switch(s.Value)[1..]} {s.First + 1}"));
        if (bank.HeardDirectly != StartsOff(bank))
        {
            steps.Add(new SetupStep(bank.HeardDirectly ? $"Let {label} be heard directly at the interface." : $"Do not let {label} be heard directly at the interface.")
            {
                Note = bank.HeardDirectly ? "" : "What is heard there as well would be heard twice.",
            });
        }

        if (bank.Kind == BankKind.Loopback)
        {
            steps.Add(new SetupStep($"Lead spare outputs of the recorder back to {label} 1 to {bank.Count}, and nothing else.") { Note = "By cable, or by the interface's own software." });
        }

        return steps.ToImmutable();
    }
}
