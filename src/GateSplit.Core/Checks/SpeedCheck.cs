using GateSplit.Core.Edits;
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
        var written = (long)channels * pass.SampleRate * new AudioFormat(1, pass.SampleRate, pass.Format).BytesPerSample;
        if (pass.DiskBytesPerSecond is { } disk && written > disk)
        {
            yield return Finding.Warning(
                Place.Pass,
                $"{Words.Count(channels, "channel")} at once write {Words.Size(written)} a second, and the disk takes {Words.Size(disk)}: the recording would have holes. Use another disk, 16 or 24 bit, or more passes.");
        }

        var streams = view.Split.Banks.Where(b => b.Kind is BankKind.Usb or BankKind.Analog && b.Connected).ToList();
        var carried = streams.Sum(b => (long)(b.Count - b.Off.Length)) * pass.SampleRate * SlotBytes;
        if (pass.InterfaceBytesPerSecond is { } most && carried > most)
        {
            var spare = streams.Select(b => (Bank: b, Idle: Idle(view.Split, b))).Where(b => b.Idle.Count > 0).ToList();
            var left = carried - spare.Sum(b => (long)b.Idle.Count) * pass.SampleRate * SlotBytes;
            var finding = Finding.Warning(
                Place.Pass,
                $"The inputs that are switched on bring {Words.Size(carried)} a second, and the interface carries {Words.Size(most)}: it would drop out.");
            yield return left > most
                ? finding
                : finding.WithFix("Switch off the inputs that no track uses", new Several(
                    "Switch off the inputs that no track uses",
                    [.. spare.SelectMany(b => b.Idle.Select(i => (Edit)new SwitchInputs(b.Bank.Id, i, i, false)))]));
        }
    }

    private static List<int> Idle(Split split, Bank bank) =>
    [
        .. Enumerable.Range(1, bank.Count).Where(i => !bank.Off.Contains(i)
            && !split.Tracks.Any(t => t.Input is { } at && at.BankId == bank.Id && at.Channel <= i && i < at.Channel + (int)t.Width)),
    ];
}
