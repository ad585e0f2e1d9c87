namespace GateSplit.Core.StandIns;

/// <summary>When the click is heard.</summary>
public enum ClickMode
{
    /// <summary>Never: the music begins at once.</summary>
    Off,

    /// <summary>In the bars counted before it.</summary>
    CountIn,

    /// <summary>Then and all the way.</summary>
    Throughout,
}
