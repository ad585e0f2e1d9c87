using GateSplit.Core.Quantities;

namespace GateSplit.Core.Handoff;

/// <summary>A file of audio that was made.</summary>
/// <param name="File">What it is, with its levels.</param>
/// <param name="Bytes">Its length.</param>
/// <param name="Sha256">Of all of it, in hexadecimal.</param>
public sealed record HandoffWritten(HandoffFile File, Bytes Bytes, string Sha256);
