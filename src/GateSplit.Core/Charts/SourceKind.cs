namespace GateSplit.Core.Charts;

/// <summary>What sort of box a source is.</summary>
public enum SourceKind
{
    /// <summary>A plug-in instrument; its ports return inside the recorder.</summary>
    PlugIn,

    /// <summary>A box of its own; its ports arrive over USB or cables.</summary>
    Hardware,

    /// <summary>An instrument host on a tablet; its ports are joined one by one to the recorder's.</summary>
    Tablet,

    /// <summary>Groups that are already inside the recorder and leave by its own buses.</summary>
    Recorder,
}
