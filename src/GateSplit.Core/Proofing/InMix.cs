namespace GateSplit.Core.Proofing;

/// <summary>What a track is in a mix.</summary>
/// <param name="Sign">-1 where it is upside down there, null where it cannot be told.</param>
/// <param name="Clearness">By how much more would be left of the mix without it, in shares of what is left; 0 where its sign cannot be told.</param>
/// <param name="Gain">With which it leaves least.</param>
internal readonly record struct InMix(int? Sign, double Clearness, double Gain);
