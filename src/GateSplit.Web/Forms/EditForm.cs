using System.Collections.Immutable;
using GateSplit.Core;
using GateSplit.Core.Edits;

namespace GateSplit.Web.Forms;

/// <summary>A form that asks for an edit: what it is called, which fields it has, and the edit they make.</summary>
/// <param name="Name">Its name in the field "edit".</param>
/// <param name="Fields">Its fields, beside the edit and the revision; one that ends in a colon begins the names of many.</param>
/// <param name="Make">The edit of its fields, or a sentence.</param>
public sealed record EditForm(string Name, ImmutableArray<string> Fields, Func<FormFields, Result<Edit>> Make)
{
    /// <summary>A form whose fields always make an edit once each of them makes sense.</summary>
    public static EditForm Of(string name, ImmutableArray<string> fields, Func<FormFields, Edit> make) => new(name, fields, f => make(f));

    /// <summary>Reads the edit.</summary>
    /// <returns>The edit, or a sentence about the first field that makes no sense.</returns>
    public Result<Edit> Read(FormFields fields)
    {
        var edit = Make(fields);
        return fields.Trouble is { } trouble ? new Refusal(trouble) : edit;
    }
}
