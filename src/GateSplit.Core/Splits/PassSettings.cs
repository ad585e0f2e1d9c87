using GateSplit.Core.Sound;

namespace GateSplit.Core.Splits;

/// <summary>How a pass is recorded.</summary>
/// <param name="LengthBars">Bars of the body, at least 1.</param>
/// <param name="CountInBars">Bars counted before it, 0 to 4; heard, never recorded.</param>
/// <param name="TailSeconds">Seconds recorded after the last bar; null for the longest decay that reaches an armed track.</param>
/// <param name="SampleRate">Frames a second.</param>
/// <param name="Format">How the files are stored: 16 or 24 bit, or 32 bit float.</param>
public sealed record PassSettings(int LengthBars, int CountInBars, double? TailSeconds, int SampleRate, SampleFormat Format);
