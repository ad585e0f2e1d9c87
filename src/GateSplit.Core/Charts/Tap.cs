namespace GateSplit.Core.Charts;

/// <summary>Where in the source's signal path a port listens.</summary>
public enum Tap
{
    /// <summary>Before the element's fader: the fader does not change what is printed.</summary>
    BeforeFader,

    /// <summary>After the element's fader: the fader is printed.</summary>
    AfterFader,

    /// <summary>After the source's master effects.</summary>
    AfterMaster,
}
