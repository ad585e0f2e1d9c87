using GateSplit.Core;
using GateSplit.Core.Edits;
using GateSplit.Core.Splits;

namespace GateSplit.Web.Forms;

/// <summary>From the fields of a form about the recorder's side to an edit of the split.</summary>
public static class RecorderForm
{
    /// <summary>Reads the field "edit" and those that go with it.</summary>
    /// <returns>The edit, or a sentence about the field that does not make sense.</returns>
    public static Result<Edit> Read(IFormCollection form, Split split)
    {
        string Text(string name) => form[name].ToString();
        int? Whole(string name) => int.TryParse(Text(name), out var number) ? number : null;
        return Text("edit") switch
        {
            "switch-inputs" => Whole("from") is { } from && Whole("to") is { } to
                ? new SwitchInputs(Text("bank"), from, to, EditForm.Flag(Text("on")))
                : EditForm.Bad("input"),
            "bank" => Bank(form, split),
            "add-bank" => Whole("count") is { } count && Enum.TryParse<BankKind>(Text("kind"), out var kind)
                ? new AddBank(kind, Text("label"), count)
                : EditForm.Bad("number of inputs"),
            "remove-bank" => new RemoveBank(Text("bank")),
            "plug" => Whole("channel") is { } channel && Whole("count") is { } many && Whole("input") is { } input
                ? new PlugCables(Text("unit"), channel, many, new InputRef(Text("bank"), input))
                : EditForm.Bad("cable"),
            "pull" => new PullCables(Text("unit"), EditForm.Input(Text("input").Split('|')[0]), int.TryParse(Text("input").Split('|')[^1], out var pass) ? pass : null),
            "add-group" => new AddTrackGroup(Text("name"), EditForm.Flag(Text("sums"))),
            "remove-group" => new RemoveTrackGroup(Text("group")),
            "track-group" => Group(form, split),
            _ => new Refusal("The page sent something that is not understood here. Load it again."),
        };
    }

    private static Result<Edit> Bank(IFormCollection form, Split split)
    {
        if (split.Bank(form["bank"].ToString()) is not { } bank)
        {
            return new Refusal("This row of inputs is not in the split any more.");
        }

        var count = bank.Count;
        var delay = bank.DelaySamples;
        if ((form.ContainsKey("count") && !int.TryParse(form["count"], out count)) || (form.ContainsKey("delay") && !int.TryParse(form["delay"], out delay)))
        {
            return EditForm.Bad("row of inputs");
        }

        return new SetBank(bank with
        {
            Label = form["label"].ToString(),
            Count = count,
            DelaySamples = delay,
            OutboardDb = form.ContainsKey("outboard") ? EditForm.Number(form["outboard"].ToString()) ?? double.NaN : bank.OutboardDb,
            OutboardDrive = form.ContainsKey("drive") ? EditForm.Number(form["drive"].ToString()) ?? double.NaN : bank.OutboardDrive,
            OutboardNoiseDb = !form.ContainsKey("outboard-noise") ? bank.OutboardNoiseDb : form["outboard-noise"].ToString() is { Length: > 0 } noise ? EditForm.Number(noise) ?? double.NaN : null,
            Widths = Enum.TryParse<InputWidths>(form["widths"], out var widths) ? widths : bank.Widths,
            HeardDirectly = form.ContainsKey("direct") ? EditForm.Flag(form["direct"].ToString()) : bank.HeardDirectly,
            Connected = form.ContainsKey("connected") ? EditForm.Flag(form["connected"].ToString()) : bank.Connected,
        });
    }

    private static Result<Edit> Group(IFormCollection form, Split split)
    {
        if (split.TrackGroup(form["group"].ToString()) is not { } group)
        {
            return new Refusal("This group is not in the split any more.");
        }

        return EditForm.Number(form["level"].ToString()) is { } level
            ? new SetTrackGroup(group with { Name = form["name"].ToString().Trim(), LevelDb = level, Bus = EditForm.Input(form["bus"].ToString()) })
            : EditForm.Bad("level");
    }
}
