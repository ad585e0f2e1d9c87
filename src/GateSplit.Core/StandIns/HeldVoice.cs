using System.Collections.Immutable;
using GateSplit.Core.Charts;
using GateSplit.Core.Quantities;
using GateSplit.Core.Splits;

namespace GateSplit.Core.StandIns;

/// <summary>A voice whose notes are held.</summary>
/// <param name="Notes">Its notes in order of start.</param>
/// <param name="Patch">How they sound.</param>
/// <param name="ShapeAt">How it is set at a frame.</param>
internal sealed record HeldVoice(ImmutableArray<PlayedNote> Notes, TonePatch Patch, Func<Frames, UnitVoice> ShapeAt);
