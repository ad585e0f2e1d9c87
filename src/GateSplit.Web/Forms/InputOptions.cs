using System.Text;
using System.Text.Encodings.Web;
using GateSplit.Core;
using GateSplit.Core.Charts;
using GateSplit.Core.Splits;
using Microsoft.AspNetCore.Html;

namespace GateSplit.Web.Forms;

/// <summary>
/// The inputs a track may choose, as options of a control. Made as text: a long table has a control in every row, and a
/// partial page for each would take longer than all the rest.
/// </summary>
public static class InputOptions
{
    /// <summary>All inputs that fit a track, its own chosen, with who listens there already.</summary>
    public static IHtmlContent All(Split split, Track track)
    {
        var text = new StringBuilder();
        var chosen = Value(track.Input);
        Option(text, "", "no input", chosen);
        var takers = (from other in split.Tracks
                      where other.Input is not null
                      from side in Enumerable.Range(0, (int)other.Width)
                      select (At: other.Input! with { Channel = other.Input!.Channel + side }, Track: other)).ToLookup(t => t.At, t => t.Track);
        foreach (var bank in split.Banks)
        {
            text.Append("<optgroup label=\"").Append(Encode(bank.UnitId is { } u ? split.Unit(u)!.Name : bank.Label)).Append("\">");
            for (var channel = 1; channel + (int)track.Width - 1 <= bank.Count; channel++)
            {
                var value = Value(new InputRef(bank.Id, channel));
                if (value == chosen || (bank.Trouble(channel, track.Width) is null && (track.Width == Width.Mono || channel % 2 == 1)))
                {
                    var others = takers[new InputRef(bank.Id, channel)].Concat(track.Width == Width.Mono ? [] : takers[new InputRef(bank.Id, channel + 1)]).Where(t => t.Id != track.Id && t.Pass == track.Pass).Select(t => t.Title).Distinct().ToList();
                    Option(text, value, bank.InputName(channel, track.Width) + (others.Count == 0 ? "" : $" ({Words.List(others, most: 2)})"), chosen);
                }
            }

            text.Append("</optgroup>");
        }

        return new HtmlString(text.ToString());
    }

    /// <summary>Only the input that a track has, and none.</summary>
    public static IHtmlContent Own(Split split, Track track)
    {
        var text = new StringBuilder();
        var chosen = Value(track.Input);
        Option(text, "", "no input", chosen);
        if (track.Input is not null)
        {
            Option(text, chosen, split.InputName(track), chosen);
        }

        return new HtmlString(text.ToString());
    }

    private static string Value(InputRef? input) => input?.ToString() ?? "";

    private static void Option(StringBuilder text, string value, string name, string chosen) => text
        .Append("<option value=\"").Append(Encode(value)).Append(value == chosen ? "\" selected>" : "\">")
        .Append(Encode(name)).Append("</option>");

    private static string Encode(string text) => HtmlEncoder.Default.Encode(text);
}
