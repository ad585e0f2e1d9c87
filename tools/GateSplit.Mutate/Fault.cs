using Microsoft.CodeAnalysis;

namespace GateSplit.Mutate;

/// <summary>One small fault that could be planted.</summary>
/// <param name="File">The file, from the folder of the repository.</param>
/// <param name="Line">The line, from 1.</param>
/// <param name="Kind">What sort of fault it is.</param>
/// <param name="Before">What stands there.</param>
/// <param name="After">What would stand there.</param>
/// <param name="Old">The node that is replaced.</param>
/// <param name="New">The node that takes its place.</param>
internal sealed record Fault(string File, int Line, string Kind, string Before, string After, SyntaxNode Old, SyntaxNode New);
