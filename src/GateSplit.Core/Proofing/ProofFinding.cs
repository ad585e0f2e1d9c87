using GateSplit.Core.Views;

namespace GateSplit.Core.Proofing;

/// <summary>One thing a proof has to say.</summary>
/// <param name="Fault">What it is.</param>
/// <param name="Severity">How much it matters.</param>
/// <param name="File">The file it is about, by its place; null for the whole take.</param>
/// <param name="Sentence">What is wrong.</param>
public sealed record ProofFinding(ProofFault Fault, Severity Severity, int? File, string Sentence)
{
    /// <summary>Names it among those of its proof.</summary>
    public string Key => $"{Fault}@{File?.ToString() ?? "take"}";

    /// <summary>True if it should be mended before the files leave.</summary>
    public bool ToMend => Severity >= Severity.Warning;
}
