namespace GateSplit.Core.Templates;

/// <summary>What of a session a template keeps.</summary>
public enum TemplateKind
{
    /// <summary>All sources, inputs and tracks.</summary>
    Whole,

    /// <summary>One source with its inputs and the tracks that were made for it.</summary>
    Source,

    /// <summary>One source with its output layout alone: modes, outputs and what leaves by them.</summary>
    Outputs,
}
