namespace GateSplit.Core.Sound;

/// <summary>How loud a file is; a measure is null where silence or a short length gives none.</summary>
/// <param name="Integrated">Of the whole, in LUFS (ITU-R BS.1770-4, both gates).</param>
/// <param name="Range">In LU (EBU Tech 3342).</param>
/// <param name="MaxMomentary">The loudest 400 ms, in LUFS.</param>
/// <param name="MaxShortTerm">The loudest 3 s, in LUFS.</param>
public sealed record Loudness(double? Integrated, double? Range, double? MaxMomentary, double? MaxShortTerm);
