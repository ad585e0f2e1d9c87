using System.Collections.Immutable;
using GateSplit.Core;
using GateSplit.Core.Edits;
using GateSplit.Core.Planning;
using GateSplit.Core.Splits;

namespace GateSplit.Web.Forms;

/// <summary>
/// The whole table of lines as it was sent: only what stands otherwise in it is an edit. A track that carries several elements stands
/// in several rows: the row that was changed counts.
/// </summary>
public static class TableForm
{
    private const string Port = "port:";
    private const string Input = "input:";
    private const string Monitor = "monitor:";
    private const string Pass = "track-pass:";
    private const string Arm = "arm";

    /// <summary>The field for the port of an element.</summary>
    public static string PortOf(ElementRef element) => Port + element;

    /// <summary>The field for the input of a track.</summary>
    public static string InputOf(TrackId track) => Input + track;

    /// <summary>The field for the monitoring of a track.</summary>
    public static string MonitorOf(TrackId track) => Monitor + track;

    /// <summary>The field for the pass of a track.</summary>
    public static string PassOf(TrackId track) => Pass + track;

    /// <summary>What its fields are called, or begin with.</summary>
    public static ImmutableArray<string> Columns { get; } = [Port, Input, Monitor, Pass, Arm];

    /// <summary>Reads it.</summary>
    public static Result<Edit> Read(FormFields fields)
    {
        var edits = ImmutableArray.CreateBuilder<Edit>();
        foreach (var (name, value) in fields.All.SelectMany(f => f.Value.OfType<string>().Select(v => (f.Key, v))))
        {
            if (Cell(fields, name, value) is { } edit)
            {
                edits.Add(edit);
            }
        }

        return edits.Count switch
        {
            0 => new Refusal("Nothing stands otherwise in the table."),
            1 => edits[0],
            _ => new Several($"Change {Words.Count(edits.Count, "setting")} in the table", edits.ToImmutable()),
        };
    }

    private static Edit? Cell(FormFields fields, string name, string value) => name switch
    {
        _ when Rest(name, Port) is { } of => PortCell(fields.Split, ElementRef.Read(of), value),
        _ when Rest(name, Input) is { } of => InputCell(fields, new TrackId(of), value),
        _ when Rest(name, Monitor) is { } of => MonitorCell(fields, new TrackId(of), value),
        _ when Rest(name, Pass) is { } of => PassCell(fields, new TrackId(of), value),
        Arm when value.Split(':') is [var track, ("true" or "false") and var on] => new SetArmed(new TrackId(track), on == "true"),
        _ => null,
    };

    private static string? Rest(string name, string column) => name.StartsWith(column, StringComparison.Ordinal) ? name[column.Length..] : null;

    private static AssignPort? PortCell(Split split, ElementRef? element, string value) =>
        element is { } of && split.HasElement(of) && int.TryParse(value, out var port)
        && split.Unit(of.UnitId)! is var unit && unit.PortOf(unit.Element(of.ElementId))?.Number != port
            ? new AssignPort(of, port)
            : null;

    private static SetTrackInput? InputCell(FormFields fields, TrackId track, string value)
    {
        if (fields.Split.Track(track) is not { } listening)
        {
            return null;
        }

        var input = value.Length == 0 ? null : InputRef.Read(value) ?? fields.Fault<InputRef?>("Choose an input.");
        return listening.Input == input ? null : new SetTrackInput(track, input);
    }

    private static Edit? PassCell(FormFields fields, TrackId track, string value)
    {
        if (fields.Split.Track(track) is not { } recorded || fields.View is not { } view)
        {
            return null;
        }

        var pass = int.TryParse(value, out var number) ? number : fields.Fault("Choose the pass of the track.", recorded.Pass);
        if (recorded.Pass == pass)
        {
            return null;
        }

        var moved = Bulk.IntoPass(view, [track], pass);
        return moved.Ok ? moved.Value : fields.Fault<Edit?>(moved.Trouble);
    }

    private static SetMonitor? MonitorCell(FormFields fields, TrackId track, string value)
    {
        if (fields.Split.Track(track) is not { } heard)
        {
            return null;
        }

        var mode = Enum.GetNames<MonitorMode>().Contains(value) ? Enum.Parse<MonitorMode>(value) : fields.Fault("Choose when the track is heard.", heard.Monitor);
        return heard.Monitor == mode ? null : new SetMonitor(track, mode);
    }
}
