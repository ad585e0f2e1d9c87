using System.Collections.Immutable;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Proofing;

/// <summary>One element's turn in a roll call.</summary>
/// <param name="Elements">Who is called: several where they hear one sound, as the microphones of a drum do.</param>
/// <param name="Name">Their names.</param>
/// <param name="Channel">MIDI channel, 1 to 16.</param>
/// <param name="Key">The key that plays it.</param>
/// <param name="Held">True of what is held; false of what is struck.</param>
/// <param name="Hits">When its notes begin, in seconds from the first hit of the marker.</param>
/// <param name="End">When its last hit sounds, or its note ends.</param>
/// <param name="Planned">Where the split says it arrives.</param>
public sealed record Turn(
    ImmutableArray<ElementRef> Elements, string Name, int Channel, int Key, bool Held, ImmutableArray<double> Hits, double End, ImmutableArray<PlannedInput> Planned);
