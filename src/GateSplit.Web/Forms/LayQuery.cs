using System.Collections.Immutable;
using GateSplit.Core.Charts;
using GateSplit.Core.Planning;
using GateSplit.Core.Splits;
using Microsoft.AspNetCore.Mvc;

namespace GateSplit.Web.Forms;

/// <summary>How lines are to be laid, as it stands in an address; what is as usual is left out.</summary>
public sealed class LayQuery
{
    /// <summary>True to lay everything again.</summary>
    [FromQuery(Name = "anew")]
    public bool Anew { get; set; }

    /// <summary>False to leave every line a port of its own.</summary>
    [FromQuery(Name = "pan")]
    public bool HardPan { get; set; } = true;

    /// <summary>False to leave outputs as they are declared.</summary>
    [FromQuery(Name = "declare")]
    public bool Declare { get; set; } = true;

    /// <summary>True to lay groups as one line each.</summary>
    [FromQuery(Name = "groups")]
    public bool ByGroup { get; set; }

    /// <summary>True to set the faders of single lines to unity.</summary>
    [FromQuery(Name = "unity")]
    public bool Unity { get; set; }

    /// <summary>True to give sharers of a voice passes of their own.</summary>
    [FromQuery(Name = "apart")]
    public bool SharersApart { get; set; }

    /// <summary>The only elements to lay, as "unit/element" with commas between; null for all.</summary>
    [FromQuery(Name = "only")]
    public string? Only { get; set; }

    /// <summary>Elements to lay as one line, in the same way.</summary>
    [FromQuery(Name = "merge")]
    public string? Merged { get; set; }

    /// <summary>Stereo elements to lay as mono, in the same way.</summary>
    [FromQuery(Name = "mono")]
    public string? AsMono { get; set; }

    /// <summary>The wish.</summary>
    public LayWish Wish => new(Anew, HardPan, ByGroup)
    {
        Declare = Declare,
        Unity = Unity,
        SharersApart = SharersApart,
        Only = string.IsNullOrWhiteSpace(Only) ? null : Elements(Only),
        Merged = Elements(Merged),
        AsMono = Elements(AsMono),
    };

    /// <summary>A wish as the end of an address.</summary>
    public static QueryString Of(LayWish wish)
    {
        var query = QueryString.Empty;
        void Add(string name, bool value, bool usual) => query = value == usual ? query : query.Add(name, value ? "true" : "false");
        void AddAll(string name, IEnumerable<ElementRef> elements) => query = elements.Any() ? query.Add(name, string.Join(',', elements.Select(e => e.ToString()).Order(StringComparer.Ordinal))) : query;
        Add("anew", wish.Anew, false);
        Add("pan", wish.HardPan, true);
        Add("declare", wish.Declare, true);
        Add("groups", wish.ByGroup, false);
        Add("unity", wish.Unity, false);
        Add("apart", wish.SharersApart, false);
        AddAll("only", wish.Only ?? []);
        AddAll("merge", wish.Merged);
        AddAll("mono", wish.AsMono);
        return query;
    }

    private static ImmutableHashSet<ElementRef> Elements(string? text) =>
        [.. (text ?? "").Split(',').Select(o => o.Split('/', 2)).Where(o => o.Length == 2).Select(o => new ElementRef(new UnitId(o[0]), new ElementId(o[1])))];
}
