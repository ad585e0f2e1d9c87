using GateSplit.Core.Notes;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Demo;

/// <summary>A session that ships.</summary>
/// <param name="Name">Its name.</param>
/// <param name="Song">Its music.</param>
/// <param name="Split">Its split.</param>
/// <param name="Printed">True if it ships with a take.</param>
public sealed record DemoSession(string Name, MidiFile Song, Split Split, bool Printed);
