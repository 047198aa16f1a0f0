namespace Keralith.Web.Printing;

/// <summary>Labels laid out on sheets.</summary>
public static class LabelSheet
{
    /// <summary>One sheet as SVG.</summary>
    /// <param name="skip">Places left free at the start of the first sheet: some were used before.</param>
    public static string Svg(IReadOnlyList<Label> labels, LabelSize size, int skip, int page)
    {
        var ink = new SvgInk(size.Page.Width, size.Page.Height);
        Draw(ink, labels, size, skip, page);
        return ink.ToString();
    }

    /// <summary>All sheets as PDF.</summary>
    public static byte[] Pdf(IReadOnlyList<Label> labels, LabelSize size, int skip) =>
        Paper.Pdf($"Labels, {size.Name}", size.Page, Pages(labels.Count, size, skip), (ink, page) =>
            Draw(ink, labels, size, skip, page)
        );

    /// <summary>How many sheets are needed.</summary>
    public static int Pages(int labels, LabelSize size, int skip) =>
        Math.Max(1, (labels + skip + size.PerPage - 1) / size.PerPage);

    private static void Draw(Ink ink, IReadOnlyList<Label> labels, LabelSize size, int skip, int page)
    {
        var left = (size.Page.Width - (size.Columns * size.Width)) / 2;
        var top = (size.Page.Height - (size.Rows * size.Height)) / 2;
        for (var place = 0; place < size.PerPage; place++)
        {
            var index = (page * size.PerPage) + place - skip;
            if (index < 0 || index >= labels.Count)
                continue;
            labels[index]
                .Draw(
                    ink,
                    left + (place % size.Columns * size.Width),
                    top + (place / size.Columns * size.Height),
                    size.Width,
                    size.Height
                );
        }
    }
}
