namespace GateSplit.Core.Templates;

/// <summary>What becomes of a track of a template whose input is taken in the session.</summary>
public enum TakenInputs
{
    /// <summary>It gets no input.</summary>
    StayWithout,

    /// <summary>It listens there too.</summary>
    Share,

    /// <summary>Its cables are plugged into the next free inputs of the same row, where it listens. What no cable reaches stays without an input.</summary>
    NextFree,
}
