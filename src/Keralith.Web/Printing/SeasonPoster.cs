using Keralith.Core.Schedule;

namespace Keralith.Web.Printing;

/// <summary>The season's mark to hang in the store, readable across a yard.</summary>
public static class SeasonPoster
{
    private const double Width = 210;
    private const double Height = 297;

    /// <summary>The poster as PDF, A4.</summary>
    /// <param name="made">When it is made.</param>
    public static byte[] Pdf(string site, SeasonScheme scheme, Season now, DateTimeOffset made) =>
        Paper.Pdf($"Season {now.Mark.Letter}", (Width, Height), 1, made, (ink, _) => Draw(ink, site, scheme, now));

    /// <summary>The same as SVG.</summary>
    public static string Svg(string site, SeasonScheme scheme, Season now)
    {
        var ink = new SvgInk(Width, Height);
        Draw(ink, site, scheme, now);
        return ink.ToString();
    }

    private static void Draw(Ink ink, string site, SeasonScheme scheme, Season now)
    {
        ink.Box(10, 10, Width - 20, Height - 20);
        ink.Text(20, 32, site, new(8), 170);
        ink.Text(20, 54, "Look for this mark", new(18, Bold: true), 170);
        ink.Season(20, 66, 92, now.Mark);
        ink.Text(20, 186, $"{now.Mark.Letter}, {now.Mark.Colour}", new(24, Bold: true), 170);
        ink.Text(20, 204, $"from {now.From:yyyy-MM-dd} until {now.Until:yyyy-MM-dd}", new(11, Mono: true), 170);
        if (scheme.On(now.From.AddDays(-1)) is { } before)
        {
            ink.Season(20, 216, 14, before.Mark);
            ink.Text(
                52,
                226,
                scheme.OverlapDays == 0
                    ? "counts no more"
                    : $"counts until {before.Until.AddDays(scheme.OverlapDays):yyyy-MM-dd}",
                new(7),
                140
            );
        }

        ink.Text(
            20,
            250,
            scheme.Enforced ? "Gear without it may not be used." : "Gear without it wants its season's look.",
            new(9, Bold: true),
            170
        );
        ink.Text(20, 262, "A mark says it was inspected, not what it may carry: read the tag.", new(6.4), 170);
        ink.Text(20, 272, "The maker's instructions, local code and a qualified person come first.", new(5), 170);
    }
}
