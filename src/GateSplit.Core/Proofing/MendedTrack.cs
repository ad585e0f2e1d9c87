using GateSplit.Core.Quantities;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Proofing;

/// <summary>One track of a take with what its mends make of it.</summary>
/// <param name="Id">The track it is handed off as.</param>
/// <param name="Name">What it is called.</param>
/// <param name="File">The place of its printed file in the take.</param>
/// <param name="Rate">Frames a second.</param>
/// <param name="Plan">How its file is made.</param>
public sealed record MendedTrack(TrackId Id, string Name, int File, SampleRate Rate, RenderPlan Plan);
