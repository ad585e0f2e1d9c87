namespace GateSplit.Core.Templates;

/// <summary>What becomes of something that a template has.</summary>
public enum TemplateFate
{
    /// <summary>It is there already and is used.</summary>
    Found,

    /// <summary>It is made.</summary>
    Made,

    /// <summary>It is not there, so what needs it stays unassigned.</summary>
    Missing,

    /// <summary>It is made otherwise than it was kept, since something is there already.</summary>
    Clash,

    /// <summary>It is left out, as asked.</summary>
    LeftOut,
}
