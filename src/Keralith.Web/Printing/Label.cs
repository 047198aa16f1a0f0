using Keralith.Core.Custody;
using Keralith.Core.Quantities;
using Keralith.Core.Register;
using Keralith.Core.Schedule;
using Keralith.Core.Sites;
using Keralith.Web.Showing;

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
/// <param name="Care">What is done for it before it hangs again, for its back.</param>
public sealed record Label(
    string Mark,
    string What,
    string RatedLoad,
    string? RatedFor,
    DateOnly? Due,
    SeasonMark? Season,
    string Address,
    string? OutOfUse,
    IReadOnlyList<string> Care
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
            Say.Gear(piece.Gear),
            rated,
            ratedFor,
            piece.PeriodicDue,
            site.Seasons is { } scheme && piece.SeasonFor is { } painted ? scheme.On(painted)?.Mark : null,
            new Uri(address, $"/piece/{piece.Mark}").ToString(),
            outOfUse ? why : null,
            [.. Core.Gear.Care.Of(piece.Gear.Family).Select(l => l.Text)]
        );
    }

    private static string AtWhat(Piece piece) =>
        piece.Details.Tag.Angle is { } angle
            ? $"{piece.Gear.Legs} legs at {angle}"
            : $"{piece.Gear.Legs} legs, angle not stated";

    private const double Margin = 2.5;

    /// <summary>The share of a label's width its code takes at most: the words get the rest.</summary>
    private const double CodeShare = 0.36;

    /// <summary>How much taller than the words beside it a season's mark is, and how wide for its height.</summary>
    private const double SwatchHeight = 1.25;
    private const double SwatchWidth = SwatchHeight * 44 / 24;

    /// <summary>Draws its face in a box: every line as large as the box lets it be.</summary>
    public void Draw(Ink ink, double x, double y, double width, double height)
    {
        var code = Math.Min(height - (2 * Margin), width * CodeShare);
        ink.Modules(x + Margin, y + ((height - code) / 2), code, QrCode.Of(Address), Address);
        var left = x + code + (2 * Margin);
        var room = width - code - (3 * Margin);
        if (OutOfUse is not null)
            ink.Box(x + 0.8, y + 0.8, width - 1.6, height - 1.6);
        foreach (var line in Words.Fit(OutOfUse is null ? Face() : Warning(OutOfUse), room, height - (2 * Margin)))
        {
            var baseline = y + Margin + line.Baseline;
            ink.Text(left, baseline, line.Text, line.Type, room);
            if (line.Of.Beside > 0 && Season is not null)
                ink.Season(
                    left + room - (SwatchWidth * line.Type.Size),
                    baseline - (line.Type.Size * (SwatchHeight + 0.7) / 2),
                    SwatchHeight * line.Type.Size,
                    Season
                );
        }
    }

    /// <summary>Draws its back in a box: what is done before it hangs again.</summary>
    public void DrawBack(Ink ink, double x, double y, double width, double height)
    {
        var lines = Care.Select(l => new Words(l, 1, Most: 2)).Prepend(new(Mark, 1.3, Bold: true, Mono: true)).ToList();
        foreach (var line in Words.Fit(lines, width - (2 * Margin), height - (2 * Margin)))
            ink.Text(x + Margin, y + Margin + line.Baseline, line.Text, line.Type, width - (2 * Margin));
    }

    private IReadOnlyList<Words> Face() =>
        [
            new(Mark, 1.6, Bold: true, Mono: true),
            new(What, 0.8, Most: 2),
            new(RatedLoad, 1.3, Bold: true, Mono: true),
            .. RatedFor is null ? Enumerable.Empty<Words>() : [new(RatedFor, 0.8, Bold: true, Most: 2)],
            new(
                Due is { } due ? $"inspect by {due:yyyy-MM-dd}" : "not inspected yet",
                0.8,
                Beside: Season is null ? 0 : SwatchWidth + 0.4
            ),
        ];

    private IReadOnlyList<Words> Warning(string why) =>
        [
            new("DO NOT USE", 1.6, Bold: true),
            new(Mark, 1.4, Bold: true, Mono: true),
            new(What, 0.8, Most: 2),
            new(why, 0.8, Bold: true, Most: 3),
        ];
}
