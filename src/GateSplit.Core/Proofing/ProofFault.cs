namespace GateSplit.Core.Proofing;

/// <summary>What a proof can find wrong.</summary>
public enum ProofFault
{
    /// <summary>A file holds nothing.</summary>
    Silent,

    /// <summary>It holds another element than its name says.</summary>
    OtherElement,

    /// <summary>It holds something, but none of the elements can be made out in it.</summary>
    Unknown,

    /// <summary>It holds what another file holds.</summary>
    Double,

    /// <summary>The whole take is late or early.</summary>
    TakeOff,

    /// <summary>The whole take runs slow or fast.</summary>
    Drift,

    /// <summary>One file is late or early against its take.</summary>
    TrackOff,

    /// <summary>Files lie apart, and nothing tells which of them is late or early.</summary>
    Apart,

    /// <summary>It is upside down.</summary>
    UpsideDown,

    /// <summary>Both sides of a pair hold the same.</summary>
    OneChannel,

    /// <summary>One side of a pair is silent.</summary>
    SideMissing,

    /// <summary>One side of a pair is the other upside down.</summary>
    SidesOpposed,

    /// <summary>Several notes at its start are missing.</summary>
    EntersLate,

    /// <summary>There are holes or doubled buffers in it.</summary>
    Dropouts,

    /// <summary>There are clicks in it.</summary>
    Clicks,

    /// <summary>It clips.</summary>
    Clips,

    /// <summary>It breaks off while it still sounds.</summary>
    CutOff,

    /// <summary>It begins when something already sounds.</summary>
    BeginsInside,

    /// <summary>It does not stand about zero.</summary>
    Dc,

    /// <summary>Another element is heard in it.</summary>
    Bleed,

    /// <summary>Files that should be alike in length, rate or shape are not.</summary>
    Uneven,

    /// <summary>The tracks do not add up to the mix.</summary>
    NotTheMix,
}
