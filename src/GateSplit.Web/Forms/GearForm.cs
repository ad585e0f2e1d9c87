using GateSplit.Core;
using GateSplit.Core.Edits;
using GateSplit.Core.Splits;

namespace GateSplit.Web.Forms;

/// <summary>From the fields of a posted form to an edit of the simulated gear.</summary>
internal static class GearForm
{
    /// <summary>How a simulated source behaves; its settings stay as they are ticked.</summary>
    public static Result<Edit> Unit(IFormCollection form)
    {
        double? Amount(string name) => form[name].ToString() is { Length: > 0 } text ? EditForm.Number(text) : 0;
        return (Amount("latency"), Amount("offset"), Amount("drift"), Amount("jitter")) is ({ } latency, { } offset, { } drift, { } jitter)
            ? new ShapeSimulatedUnit(form["unit"].ToString(), latency, offset, drift, jitter)
            : EditForm.Bad("amount");
    }

    /// <summary>How the simulated interface behaves; crossed cables stay crossed.</summary>
    public static Result<Edit> Interface(IFormCollection form, Split split)
    {
        var noise = form["noise"].ToString();
        var trip = form["trip"].ToString();
        return (noise.Length == 0 || EditForm.Number(noise) is not null) && (trip.Length == 0 || int.TryParse(trip, out _)) && int.TryParse(form["latency"], out var latency)
            ? new SetSimulatedInterface(split.Interface with
            {
                NoiseDb = EditForm.Number(noise),
                LatencySamples = latency,
                RoundTripSamples = trip.Length > 0 ? int.Parse(trip) : null,
                Clips = EditForm.Flag(form["clips"].ToString()),
            })
            : EditForm.Bad("amount");
    }

    /// <summary>Crosses two cables.</summary>
    public static Result<Edit> Cross(IFormCollection form, Split split) =>
        EditForm.Input(form["a"].ToString()) is { } a && EditForm.Input(form["b"].ToString()) is { } b
            ? new SetSimulatedInterface(split.Interface with { Crossed = split.Interface.Crossed.Add(new CrossedInputs(a, b)) })
            : EditForm.Bad("input");

    /// <summary>Puts two crossed cables right.</summary>
    public static Result<Edit> Uncross(IFormCollection form, Split split) =>
        EditForm.Input(form["a"].ToString()) is { } a
            ? new SetSimulatedInterface(split.Interface with { Crossed = split.Interface.Crossed.RemoveAll(c => c.A == a) })
            : EditForm.Bad("input");
}
