using Microsoft.AspNetCore.Html;

namespace Keralith.Web.Drawings;

/// <summary>Small signs on buttons that have no room for a word; the word stands beside them for screen readers.</summary>
public static class Icons
{
    /// <summary>A pencil on a line: a note.</summary>
    public static IHtmlContent Note { get; } = Of("""<path d="M5 16.5 14.2 7.3l2.5 2.5L7.5 19H5zM4 21.5h16"/>""");

    /// <summary>A box with an eye: a picture.</summary>
    public static IHtmlContent Camera { get; } =
        Of("""<path d="M4 8h4l1.6-2.4h4.8L16 8h4v11H4z"/><circle cx="12" cy="13.2" r="3.2"/>""");

    /// <summary>Two corners drawn apart: larger.</summary>
    public static IHtmlContent Larger { get; } =
        Of("""<path d="M13.5 5H19v5.5M10.5 19H5v-5.5M19 5l-5.5 5.5M5 19l5.5-5.5"/>""");

    private static HtmlString Of(string shape) =>
        new($"""<svg class="sign-icon" viewBox="0 0 24 24" aria-hidden="true" focusable="false">{shape}</svg>""");
}
