namespace GateSplit.Core.Templates;

/// <summary>What becomes of one thing that a template has.</summary>
/// <param name="What">The thing, in words: "Mudlark Nine", "the row USB", "track Kick".</param>
/// <param name="Fate">What becomes of it.</param>
/// <param name="Sentence">The same as a sentence.</param>
/// <param name="Id">Its id in the template, if it can be brought along.</param>
public sealed record TemplateRow(string What, TemplateFate Fate, string Sentence, string? Id = null);
