using Microsoft.AspNetCore.Razor.TagHelpers;

namespace Keralith.Web.Pages.Shared;

/// <summary>
/// A field of a form: an input with its words above it, and a hint under them. <c>&lt;input field="To whom" name="to"&gt;</c>
/// stands in a label of its own, which a screen reader reads with it.
/// </summary>
[HtmlTargetElement("input", Attributes = Words, TagStructure = TagStructure.WithoutEndTag)]
public sealed class Field : TagHelper
{
    private const string Words = "field";

    /// <summary>What is asked.</summary>
    [HtmlAttributeName(Words)]
    public string Label { get; set; } = string.Empty;

    /// <summary>How it is answered; null: that needs no saying.</summary>
    public string? Hint { get; set; }

    /// <summary>Where it stands beside others.</summary>
    [HtmlAttributeName("field-class")]
    public string? Place { get; set; }

    public override void Process(TagHelperContext context, TagHelperOutput output)
    {
        output.PreElement.AppendHtml(Place is null ? "<label class=\"field\">" : $"<label class=\"field {Place}\">");
        output.PreElement.Append(Label);
        if (Hint is not null)
            output.PreElement.AppendHtml(" <span class=\"hint\">").Append(Hint).AppendHtml("</span> ");
        output.PostElement.AppendHtml("</label>");
    }
}
