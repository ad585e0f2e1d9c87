using System.Collections.Frozen;
using GateSplit.Core;
using GateSplit.Core.Edits;
using GateSplit.Core.Splits;
using GateSplit.Core.Views;

namespace GateSplit.Web.Forms;

/// <summary>All forms that edit a split. Pages and scripts name none that is not here: a test reads them.</summary>
public static class EditForms
{
    /// <summary>By their names.</summary>
    public static FrozenDictionary<string, EditForm> All { get; } =
        ((EditForm[])[.. SourceForms.All, .. RecorderForms.All, .. TrackForms.All, .. PerformanceForms.All, .. RigForms.All]).ToFrozenDictionary(f => f.Name);

    /// <summary>Reads the field "edit" and those that go with it.</summary>
    /// <param name="form">The form.</param>
    /// <param name="split">The split it is about.</param>
    /// <param name="view">What sounds where in it; null where no edit of the page needs it.</param>
    /// <returns>The edit, or a sentence about the field that does not make sense.</returns>
    public static Result<Edit> Read(IFormCollection form, Split split, SplitView? view = null) =>
        All.TryGetValue(form[Field.Edit].ToString(), out var known)
            ? known.Read(new FormFields(form, split, view))
            : new Refusal("The page sent something that is not understood here. Load it again.");
}
