using Microsoft.AspNetCore.Html;
using Microsoft.AspNetCore.Razor.TagHelpers;

namespace GateSplit.Web.Forms;

/// <summary>A form of a page says by its attribute "edit" which edit it asks for, so that one that is not there does not build.</summary>
[HtmlTargetElement("form", Attributes = "edit")]
public sealed class EditFormTagHelper : TagHelper
{
    /// <summary>The edit.</summary>
    [HtmlAttributeName("edit")]
    public required EditForm Edit { get; set; }

    /// <inheritdoc/>
    public override void Process(TagHelperContext context, TagHelperOutput output) =>
        output.PreContent.AppendHtml(new HtmlString($"<input type=\"hidden\" name=\"{Field.Edit}\" value=\"{Edit.Name}\">"));
}
