using Keralith.Core.Custody;
using Keralith.Core.Quantities;
using Keralith.Core.Register;
using Keralith.Core.Schedule;
using Keralith.Core.Sites;

namespace Keralith.Web.Printing;

/// <summary>A size labels are printed in.</summary>
/// <param name="Code">Short name.</param>
/// <param name="Name">What people read.</param>
/// <param name="Width">Of one label, in millimetres.</param>
/// <param name="Height">Of one label, in millimetres.</param>
/// <param name="Columns">Labels beside each other on a sheet.</param>
/// <param name="Rows">Labels above each other on a sheet.</param>
/// <param name="Page">Width and height of the sheet, in millimetres.</param>
public sealed record LabelSize(
    string Code,
    string Name,
    double Width,
    double Height,
    int Columns,
    int Rows,
    (double Width, double Height) Page
)
{
    private static readonly (double, double) A4 = (210, 297);
    private static readonly (double, double) Letter = (215.9, 279.4);

    /// <summary>The sizes there are.</summary>
    public static IReadOnlyList<LabelSize> All { get; } =
    [
        new("a4-24", "70 x 37 mm, 24 on an A4 sheet", 70, 37, 3, 8, A4),
        new("a4-14", "99 x 38 mm, 14 on an A4 sheet", 99, 38, 2, 7, A4),
        new("a4-8", "99 x 67 mm, 8 on an A4 sheet", 99, 67, 2, 4, A4),
        new("letter-10", "4 x 2 in, 10 on a Letter sheet", 101.6, 50.8, 2, 5, Letter),
        new("roll", "62 x 29 mm, one by one from a roll", 62, 29, 1, 1, (62, 29)),
    ];

    public int PerPage => Columns * Rows;
}

/// <summary>What a label says of a piece.</summary>
/// <param name="RatedFor">The legs and angle the load is for; null where it has one leg.</param>
/// <param name="Address">The address its code leads to.</param>
/// <param name="OutOfUse">Why it may not be used, for the label of the cage; null on an ordinary label.</param>
public sealed record Label(
    string Mark,
    string What,
    string RatedLoad,
    string? RatedFor,
    DateOnly? Due,
    SeasonMark? Season,
    string Address,
    string? OutOfUse
)
{
    /// <summary>The label of a piece.</summary>
    /// <param name="outOfUse">Whether the cage's label is wanted: large words, and why.</param>
    public static Label Of(Piece piece, Site site, DateOnly today, Uri address, bool outOfUse)
    {
        var use = piece.UseOn(today, site);
        var here = piece.TagAt(site).Here;
        var rated = here is { IsReduced: true }
            ? $"{QuantityFormat.Rounded(here.Here, here.Marked.Unit)} here"
            : piece.RatedLoad?.ToString() ?? "no rated load";

        // The load of several legs means nothing without how many, and at which angle.
        var ratedFor = piece.Gear.Legs > 1 && piece.RatedLoad is not null ? piece.RatedFor ?? AtWhat(piece) : null;
        var why =
            piece.State.IsRetired() ? "Never to be used again"
            : use.MayBeUsed ? "Taken out of use"
            : use.Reasons[0];
        return new(
            piece.Mark,
            Pages.Say.Gear(piece.Gear),
            rated,
            ratedFor,
            piece.PeriodicDue,
            site.Seasons is { } scheme && piece.SeasonFor is { } painted ? scheme.On(painted)?.Mark : null,
            new Uri(address, $"/piece/{piece.Mark}").ToString(),
            outOfUse ? why : null
        );
    }

    private static string AtWhat(Piece piece) =>
        piece.Details.Tag.Angle is { } angle
            ? $"{piece.Gear.Legs} legs at {angle}"
            : $"{piece.Gear.Legs} legs, angle not stated";

    /// <summary>Draws it in a box.</summary>
    public void Draw(Ink ink, double x, double y, double width, double height)
    {
        const double Margin = 2.5;
        var code = Math.Min(height - (2 * Margin), width * 0.42);
        ink.Modules(x + Margin, y + ((height - code) / 2), code, QrCode.Of(Address));
        var left = x + code + (2 * Margin);
        var room = width - code - (3 * Margin);

        // Five lines, no taller than lets the due date be read beside the season's mark; in the middle of a tall label.
        var step = Math.Min((height - (2 * Margin)) / 5, room / 9);
        var top = y + ((height - (5 * step)) / 2);
        if (OutOfUse is not null)
        {
            ink.Box(x + 0.8, y + 0.8, width - 1.6, height - 1.6);
            ink.Text(left, top + (step * 1.25), "DO NOT USE", new(step * 1.5, Bold: true), room);
            ink.Text(left, top + (step * 2.6), Mark, new(step * 1.3, Bold: true, Mono: true), room);
            ink.Text(left, top + (step * 3.7), What, new(step * 0.8), room);
            ink.Text(left, top + (step * 4.8), OutOfUse, new(step * 0.8, Bold: true), room);
            return;
        }

        ink.Text(left, top + (step * 1.15), Mark, new(step * 1.55, Bold: true, Mono: true), room);
        ink.Text(left, top + (step * (RatedFor is null ? 2.3 : 2.1)), What, new(step * 0.82), room);
        ink.Text(
            left,
            top + (step * (RatedFor is null ? 3.4 : 3.05)),
            RatedLoad,
            new(step * 1.0, Bold: true, Mono: true),
            room
        );
        if (RatedFor is not null)
            ink.Text(left, top + (step * 3.75), RatedFor, new(step * 0.7, Bold: true), room);
        var swatch = Season is null ? 0 : step * 1.2 * 44 / 24;
        ink.Text(
            left,
            top + (step * 4.75),
            Due is { } due ? $"inspect by {due:yyyy-MM-dd}" : "not inspected yet",
            new(step * 0.82),
            room - swatch - 1
        );
        if (Season is not null)
            ink.Season(x + width - Margin - swatch, top + (step * 3.95), step * 1.2, Season);
    }
}
