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
    /// <param name="backs">Whether each sheet is followed by its back, turned over its long side.</param>
    /// <param name="made">When they are made.</param>
    public static byte[] Pdf(
        IReadOnlyList<Label> labels,
        LabelSize size,
        int skip,
        DateTimeOffset made,
        bool backs = false
    )
    {
        var sides = backs ? 2 : 1;
        return Paper.Pdf(
            $"Labels, {size.Name}",
            size.Page,
            Pages(labels.Count, size, skip) * sides,
            made,
            (ink, page) => Draw(ink, labels, size, skip, page / sides, back: page % sides == 1)
        );
    }

    /// <summary>How many sheets are needed.</summary>
    public static int Pages(int labels, LabelSize size, int skip) =>
        Math.Max(1, (labels + skip + size.PerPage - 1) / size.PerPage);

    private static void Draw(
        Ink ink,
        IReadOnlyList<Label> labels,
        LabelSize size,
        int skip,
        int page,
        bool back = false
    )
    {
        var left = (size.Page.Width - (size.Columns * size.Width)) / 2;
        var top = (size.Page.Height - (size.Rows * size.Height)) / 2;
        for (var place = 0; place < size.PerPage; place++)
        {
            var index = (page * size.PerPage) + place - skip;
            if (index < 0 || index >= labels.Count)
                continue;
            var column = place % size.Columns;
            var x = left + ((back ? size.Columns - 1 - column : column) * size.Width);
            var y = top + (place / size.Columns * size.Height);
            if (back)
                labels[index].DrawBack(ink, x, y, size.Width, size.Height);
            else
                labels[index].Draw(ink, x, y, size.Width, size.Height);
        }
    }
}
