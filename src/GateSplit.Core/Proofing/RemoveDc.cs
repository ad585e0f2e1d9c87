using System.Collections.Immutable;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Proofing;

/// <summary>Lets a track stand about zero.</summary>
/// <param name="TrackId">Which.</param>
/// <param name="Offsets">What is taken off each channel of the printed file.</param>
public sealed record RemoveDc(TrackId TrackId, ImmutableArray<double> Offsets) : Mend
{
    /// <inheritdoc/>
    public override string Name(MendedTake take) => $"Take the DC off {take.NameOf(TrackId)}";

    /// <inheritdoc/>
    public override Result<MendedTake> Apply(MendedTake take) => take.With(TrackId, t =>
        Offsets.IsDefault || Offsets.Length != t.Plan.Dc.Length || Offsets.Any(o => !(Math.Abs(o) <= 1))
            ? new Refusal($"{t.Name} has {Words.Count(t.Plan.Dc.Length, "channel")}; an offset between -1 and 1 is needed for each.")
            : t with { Plan = t.Plan with { Dc = [.. t.Plan.Dc.Zip(Offsets, (a, b) => a + b)] } });
}
