namespace GateSplit.Core.Charts;

/// <summary>What really happens on the rig while a setting is not made.</summary>
public enum SettingEffect
{
    /// <summary>Nothing that a simulated source could show.</summary>
    None,

    /// <summary>Only the main output carries anything.</summary>
    MainOnly,

    /// <summary>Every element is in the main mix and nowhere else.</summary>
    AllInMain,

    /// <summary>Elements on ports of their own are in the main mix as well.</summary>
    AlsoInMain,

    /// <summary>The source does not start with the recorder.</summary>
    NoStart,

    /// <summary>What is plugged into the external input is not heard.</summary>
    NoExternal,
}
