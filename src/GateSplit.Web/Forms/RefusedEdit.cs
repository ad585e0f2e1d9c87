namespace GateSplit.Web.Forms;

/// <summary>
/// A change from a page that was no longer current, kept so that it can be made again on top of the current state. Every page that changes
/// something somebody else may have changed meanwhile answers with one.
/// </summary>
/// <param name="Address">Where it was sent.</param>
/// <param name="Revision">The revision that is there now.</param>
/// <param name="Fields">What was sent, without the revision.</param>
/// <param name="Meanwhile">What was done since the page was shown, the oldest first; empty where nobody knows.</param>
public sealed record RefusedEdit(string Address, int Revision, IReadOnlyList<(string Name, string Value)> Fields, IReadOnlyList<string> Meanwhile)
{
    /// <summary>Keeps what a request asked for.</summary>
    public static RefusedEdit Of(HttpRequest request, int revision, IReadOnlyList<string> meanwhile) => new(
        request.PathBase + request.Path + request.QueryString,
        revision,
        [
            .. from field in request.Form
               where field.Key is not (Field.Revision or "__RequestVerificationToken")
               from value in field.Value
               select (field.Key, value),
        ],
        meanwhile);
}
