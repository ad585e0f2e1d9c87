namespace GateSplit.Web.Forms;

/// <summary>The names of the fields in forms that edit a split, each spelt here and nowhere else in the program.</summary>
public static class Field
{
    /// <summary>Which edit a form asks for.</summary>
    public const string Edit = "edit";

    /// <summary>The revision that the page showed.</summary>
    public const string Revision = "revision";

    /// <summary>A source.</summary>
    public const string Unit = "unit";

    /// <summary>An element of the source.</summary>
    public const string Element = "element";

    /// <summary>A voice of the source.</summary>
    public const string Voice = "voice";

    /// <summary>A track.</summary>
    public const string Track = "track";

    /// <summary>Several tracks.</summary>
    public const string Tracks = "tracks";

    /// <summary>Several elements.</summary>
    public const string Elements = "chosen";

    /// <summary>A row of inputs.</summary>
    public const string Bank = "bank";

    /// <summary>A group of a source, or of tracks.</summary>
    public const string Group = "group";

    /// <summary>A finding's key.</summary>
    public const string Finding = "finding";

    /// <summary>Yes or no.</summary>
    public const string On = "on";

    /// <summary>A number in the unit of the edit.</summary>
    public const string Value = "value";

    /// <summary>A name.</summary>
    public const string Name = "name";
}
