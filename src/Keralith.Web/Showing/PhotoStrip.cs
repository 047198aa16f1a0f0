using System.Text;
using Microsoft.AspNetCore.Html;

namespace Keralith.Web.Showing;

/// <summary>Pictures in a row, each small and leading to the whole.</summary>
public static class PhotoStrip
{
    /// <param name="photos">Ids of files.</param>
    /// <param name="what">What they show, for those who hear the page.</param>
    public static IHtmlContent Of(IEnumerable<Guid> photos, string what)
    {
        var html = new StringBuilder();
        foreach (var (id, at) in photos.Select((id, i) => (id, i + 1)))
        {
            html.Append(
                $"<a href=\"/file/{id}\"><img src=\"/file/{id}/small\" alt=\"{System.Net.WebUtility.HtmlEncode(what)}, picture {at}\" loading=\"lazy\"></a>"
            );
        }

        return new HtmlString(html.Length == 0 ? string.Empty : $"<div class=\"photos\">{html}</div>");
    }
}
