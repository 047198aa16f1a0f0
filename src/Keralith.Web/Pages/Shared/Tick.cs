using Microsoft.AspNetCore.Razor.TagHelpers;

namespace Keralith.Web.Pages.Shared;

/// <summary>A box to tick, or one of several to choose, with its words beside it: <c>&lt;input tick="often without network" type="checkbox" name="offline" value="true"&gt;</c>.</summary>
[HtmlTargetElement("input", Attributes = Words, TagStructure = TagStructure.WithoutEndTag)]
public sealed class Tick : TagHelper
{
    private const string Words = "tick";

    /// <summary>What is said by ticking it.</summary>
    [HtmlAttributeName(Words)]
    public string Label { get; set; } = string.Empty;

    /// <summary>Where it stands beside others.</summary>
    [HtmlAttributeName("tick-class")]
    public string? Place { get; set; }

    public override void Process(TagHelperContext context, TagHelperOutput output)
    {
        output.PreElement.AppendHtml(Place is null ? "<label class=\"ticked\">" : $"<label class=\"ticked {Place}\">");
        output.PostElement.AppendHtml(" ").Append(Label).AppendHtml("</label>");
    }
}
