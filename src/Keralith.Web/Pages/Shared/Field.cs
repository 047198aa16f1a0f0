using Microsoft.AspNetCore.Razor.TagHelpers;

namespace Keralith.Web.Pages.Shared;

/// <summary>
/// A field of a form: an input, a choice or lines of text with its words above it, a hint under them, and below it what is
/// wrong with what was typed. <c>&lt;input field="To whom" name="to"&gt;</c> stands in a label of its own, which a screen reader
/// reads with it.
/// </summary>
[HtmlTargetElement("input", Attributes = Words, TagStructure = TagStructure.WithoutEndTag)]
[HtmlTargetElement("select", Attributes = Words)]
[HtmlTargetElement("textarea", Attributes = Words)]
public sealed class Field : TagHelper
{
    private const string Words = "field";

    /// <summary>What is asked.</summary>
    [HtmlAttributeName(Words)]
    public string Label { get; set; } = string.Empty;

    /// <summary>Whether the words are read out alone, where the eye sees by its place what is asked.</summary>
    [HtmlAttributeName("field-unseen")]
    public bool Unseen { get; set; }

    /// <summary>How it is answered; null or empty: that needs no saying.</summary>
    public string? Hint { get; set; }

    /// <summary>What is wrong with what was typed; null or empty: nothing.</summary>
    public string? Fault { get; set; }

    /// <summary>Where it stands beside others.</summary>
    [HtmlAttributeName("field-class")]
    public string? Place { get; set; }

    public override void Process(TagHelperContext context, TagHelperOutput output)
    {
        output.PreElement.AppendHtml(
            string.IsNullOrEmpty(Place) ? "<label class=\"field\">" : $"<label class=\"field {Place}\">"
        );
        if (Unseen)
            output.PreElement.AppendHtml("<span class=\"sr-only\">").Append(Label).AppendHtml("</span>");
        else
            output.PreElement.Append(Label);
        if (!string.IsNullOrEmpty(Hint))
            output.PreElement.AppendHtml(" <span class=\"hint\">").Append(Hint).AppendHtml("</span> ");
        if (!string.IsNullOrEmpty(Fault))
        {
            var id = $"fault-{context.AllAttributes["name"]?.Value}";
            output.Attributes.SetAttribute("aria-invalid", "true");
            output.Attributes.SetAttribute("aria-describedby", id);
            output
                .PostElement.AppendHtml("<span class=\"fault\" id=\"")
                .Append(id)
                .AppendHtml("\">")
                .Append(Fault)
                .AppendHtml("</span>");
        }

        output.PostElement.AppendHtml("</label>");
    }
}
