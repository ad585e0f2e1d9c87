using System.Collections.Immutable;
using GateSplit.Core.Edits;
using GateSplit.Core.Splits;

namespace GateSplit.Web.Forms;

/// <summary>Forms about the simulated gear.</summary>
public static class RigForms
{
    /// <summary>How a simulated source behaves; its settings stay as they are ticked.</summary>
    public static readonly EditForm Unit = EditForm.Of(
        "gear-unit",
        [Field.Unit, "latency", "offset", "drift", "jitter"],
        f => new ShapeSimulatedUnit(f.Unit, Amount(f, "latency"), Amount(f, "offset"), Amount(f, "drift"), Amount(f, "jitter")));

    /// <summary>How the simulated interface behaves; crossed cables stay crossed.</summary>
    public static readonly EditForm Interface = EditForm.Of(
        "gear-interface", ["noise", "latency", "trip", "clips"], f => new SetSimulatedInterface(f.Split.Interface with
        {
            NoiseDb = f.OptionalLevel("noise", "noise"),
            LatencySamples = f.Whole("latency", "latency"),
            RoundTripSamples = f.OptionalWhole("trip", "round trip"),
            Clips = f.Flag("clips", false),
        }));

    /// <summary>Crosses two cables.</summary>
    public static readonly EditForm Cross = EditForm.Of(
        "cross",
        ["a", "b"],
        f => new SetSimulatedInterface(f.Split.Interface with { Crossed = f.Split.Interface.Crossed.Add(new CrossedInputs(f.Input("a"), f.Input("b"))) }));

    /// <summary>Puts two crossed cables right.</summary>
    public static readonly EditForm Uncross = EditForm.Of(
        "uncross", ["a"], f => new SetSimulatedInterface(f.Split.Interface with { Crossed = f.Split.Interface.Crossed.RemoveAll(c => c.A == f.Input("a")) }));

    /// <summary>All of them.</summary>
    public static ImmutableArray<EditForm> All { get; } = [Unit, Interface, Cross, Uncross];

    private static double Amount(FormFields fields, string field) => fields.OptionalNumber(field, "amount") ?? 0;
}
