namespace GateSplit.Core.Views;

/// <summary>Sides of a port: of a mono port there is only the left.</summary>
[Flags]
public enum PortSides
{
    /// <summary>Neither.</summary>
    None = 0,

    /// <summary>The left, or the whole of a mono port.</summary>
    Left = 1,

    /// <summary>The right.</summary>
    Right = 2,

    /// <summary>Both.</summary>
    Both = Left | Right,
}
