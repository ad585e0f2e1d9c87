using GateSplit.Core.Notes;
using GateSplit.Core.Views;

namespace GateSplit.Core.Handoff;

/// <summary>A take that something is handed off from, with all that belonged to it when it was recorded.</summary>
/// <param name="Number">Counted from 1 within the session.</param>
/// <param name="Printed">True if it was printed here, false if it was recorded elsewhere and brought in.</param>
/// <param name="Made">When it was recorded or brought in, in local time.</param>
/// <param name="Note">A remark.</param>
/// <param name="View">The split it was recorded with, with its song.</param>
/// <param name="Song">Its music.</param>
/// <param name="Midi">The session's MIDI file of that time.</param>
public sealed record HandoffTake(int Number, bool Printed, DateTime Made, string Note, SplitView View, Song Song, byte[] Midi)
{
    /// <summary>"take 2, printed 2026-11-28 16:10".</summary>
    public string Words => $"take {Number}, {(Printed ? "printed" : "brought in")} {Made:yyyy-MM-dd HH:mm}";
}
