using GateSplit.Core.Edits;
using GateSplit.Core.Splits;

namespace GateSplit.Core.Templates;

/// <summary>Adds a template to a session, as it was proposed.</summary>
/// <param name="Title">The template's name.</param>
/// <param name="Before">The split that it was proposed for.</param>
/// <param name="After">The split with it.</param>
public sealed record PutTemplate(string Title, Split Before, Split After) : Edit
{
    /// <inheritdoc/>
    public override string Name(Split split) => $"Add the template {Title}";

    /// <inheritdoc/>
    protected internal override Result<Split> Change(Split split) =>
        ReferenceEquals(split, Before) ? After : new Refusal("The session has changed since the template was looked at. Look at what it would do now.");
}
