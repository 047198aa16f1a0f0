using Microsoft.AspNetCore.Http.Extensions;
using Microsoft.AspNetCore.Mvc.Rendering;
using Microsoft.AspNetCore.Mvc.ViewFeatures;
using Microsoft.AspNetCore.Razor.TagHelpers;

namespace Keralith.Web.Pages.Shared;

/// <summary>
/// A form that names no address is sent to its page's own main act. A browser would send it to the address of the page as
/// it is shown, which after a refused press is that of another act.
/// </summary>
[HtmlTargetElement("form", Attributes = "method")]
public sealed class OwnForm : TagHelper
{
    private const string Handler = "handler";

    [HtmlAttributeNotBound]
    [ViewContext]
    public ViewContext ViewContext { get; set; } = null!;

    /// <summary>After the framework's own, which names the address of forms that name an act.</summary>
    public override int Order => 1000;

    public override void Process(TagHelperContext context, TagHelperOutput output)
    {
        if (output.Attributes.ContainsName("action"))
            return;
        var request = ViewContext.HttpContext.Request;
        var query = new QueryBuilder(request.Query.Where(q => q.Key != Handler));
        output.Attributes.SetAttribute("action", $"{request.PathBase}{request.Path}{query}");
    }
}
