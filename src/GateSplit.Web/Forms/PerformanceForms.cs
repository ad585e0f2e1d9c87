using System.Collections.Immutable;
using GateSplit.Core.Edits;
using GateSplit.Core.Splits;

namespace GateSplit.Web.Forms;

/// <summary>Forms about what is moved and played by hand during a pass.</summary>
public static class PerformanceForms
{
    private static readonly ImmutableArray<string> StepFields = [Field.Unit, Field.Element, "kind", "from", "to", "number"];

    /// <summary>A ride, as points that are written one after the other.</summary>
    public static readonly EditForm Ride = EditForm.Of(
        "ride", [Field.Unit, Field.Element, "control", "points"], f => new SetRide(new Ride(f.Element, f.Choice<RideControl>("control", "control"), Points(f))));

    /// <summary>A roll, repeat or variation.</summary>
    public static readonly EditForm Step = EditForm.Of("step", StepFields, f => new AddStep(StepOf(f)));

    /// <summary>Takes one away.</summary>
    public static readonly EditForm Unstep = EditForm.Of("unstep", StepFields, f => new RemoveStep(StepOf(f)));

    /// <summary>All of them.</summary>
    public static ImmutableArray<EditForm> All { get; } = [Ride, Step, Unstep];

    private static ImmutableArray<RidePoint> Points(FormFields fields)
    {
        var points = RidePoint.ReadAll(fields.Text("points"));
        return points.Ok ? [.. points.Value] : fields.Fault(points.Trouble, ImmutableArray<RidePoint>.Empty);
    }

    private static PerformedStep StepOf(FormFields fields) => new(
        fields.Element, fields.Choice<StepKind>("kind", "kind"), fields.Number("from", "first bar"), fields.Number("to", "last bar"), fields.Whole("number", "step"));
}
