using GateSplit.Web.Forms;

namespace GateSplit.Web.Pages;

/// <summary>A sentence for the top of a page.</summary>
/// <param name="Sentence">The sentence.</param>
/// <param name="Again">A change that was refused because the page was no longer current; null for none.</param>
public sealed record Notice(string Sentence, RefusedEdit? Again = null);
