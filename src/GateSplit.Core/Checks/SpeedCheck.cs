using GateSplit.Core.Edits;
using GateSplit.Core.Quantities;
using GateSplit.Core.Sound;
using GateSplit.Core.Splits;
using GateSplit.Core.Views;

namespace GateSplit.Core.Checks;

/// <summary>More channels than the interface carries or the disk takes: the recording breaks off or has holes.</summary>
public sealed class SpeedCheck : ICheck
{
    /// <summary>Interfaces send every sample in a slot of four bytes, whatever the file keeps of it.</summary>
    private const int SlotBytes = 4;

    /// <inheritdoc/>
    public IEnumerable<Finding> Look(SplitView view)
    {
        var pass = view.Split.Pass;
        var channels = view.ArmedTracks.Sum(t => (int)t.Width);
        var written = new AudioFormat(channels, pass.SampleRate, pass.Format).Bytes(pass.SampleRate.Hz);
        if (pass.DiskBytesPerSecond is { } disk && written > disk)
        {
            yield return Finding.Warning(
                Place.Pass,
                $"{Words.Count(channels, "channel")} at once write {written} a second, and the disk takes {disk}: the recording would have holes. Use another disk, 16 or 24 bit, or more passes.");
        }

        var streams = view.Split.Banks.Where(b => b.Kind is BankKind.Usb or BankKind.Analog && b.Connected).ToList();
        var carried = Carried(streams.Sum(b => b.Count - b.Off.Length), pass);
        if (pass.InterfaceBytesPerSecond is { } most && carried > most)
        {
            var spare = streams.Select(b => (Bank: b, Idle: Idle(view.Split, b))).ToList();
            var left = carried - Carried(spare.Sum(b => b.Idle.Count), pass);
            var finding = Finding.Warning(
                Place.Pass,
                $"The inputs that are switched on bring {carried} a second, and the interface carries {most}: it would drop out.");
            yield return left > most
                ? finding
                : finding.WithFix("Switch off the inputs that no track uses", new Several(
                    "Switch off the inputs that no track uses",
                    [.. spare.SelectMany(b => b.Idle.Select(i => (Edit)new SwitchInputs(b.Bank.Id, i, i, false)))]));
        }
    }

    private static Bytes Carried(int channels, PassSettings pass) => new((long)channels * pass.SampleRate.Hz * SlotBytes);

    private static List<int> Idle(Split split, Bank bank) =>
    [
        .. Enumerable.Range(1, bank.Count).Where(i => !bank.Off.Contains(i)
            && !split.Tracks.Any(t => t.Input is { } at && at.BankId == bank.Id && at.Channel <= i && i < at.Channel + (int)t.Width)),
    ];
}
