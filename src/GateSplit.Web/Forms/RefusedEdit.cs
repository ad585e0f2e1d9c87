namespace GateSplit.Web.Forms;

/// <summary>An edit from a page that was no longer current, kept so that it can be made again on top of the current state.</summary>
/// <param name="Address">Where it was sent.</param>
/// <param name="Fields">What was sent, without the revision.</param>
/// <param name="Meanwhile">The edits made since the page was shown, the oldest first.</param>
public sealed record RefusedEdit(string Address, IReadOnlyList<(string Name, string Value)> Fields, IReadOnlyList<string> Meanwhile);
