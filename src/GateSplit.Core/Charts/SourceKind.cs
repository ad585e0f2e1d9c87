namespace GateSplit.Core.Charts;

/// <summary>What sort of box a source is.</summary>
public enum SourceKind
{
    /// <summary>A plug-in instrument; its ports return inside the recorder.</summary>
    PlugIn,

    /// <summary>A box of its own; its ports arrive over USB or cables.</summary>
    Hardware,
}
