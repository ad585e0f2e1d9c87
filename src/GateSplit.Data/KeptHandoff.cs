using GateSplit.Core.Quantities;

namespace GateSplit.Data;

/// <summary>A handoff that was made, without what is in it.</summary>
/// <param name="Id">It.</param>
/// <param name="SessionId">Its session.</param>
/// <param name="Number">Counted from 1 within the session.</param>
/// <param name="MadeAt">When.</param>
/// <param name="Takes">The takes it is of, in words.</param>
/// <param name="Files">How many audio files it has.</param>
/// <param name="Bytes">The length of its zip.</param>
public sealed record KeptHandoff(long Id, long SessionId, int Number, DateTime MadeAt, string Takes, int Files, Bytes Bytes);
