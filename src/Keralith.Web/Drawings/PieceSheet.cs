using Keralith.Core.Gear;
using Keralith.Web.Showing;

namespace Keralith.Web.Drawings;

/// <summary>A sheet for one piece: draws the parts it has, by path, under the names the catalogue gives them.</summary>
internal sealed class PieceSheet(GearPiece gear, DrawingOptions options)
{
    private readonly Placement _placement = Catalogue.PlacementOf(gear, RuleBookShelf.All);

    public Sheet S { get; } = new(options);

    public GearPiece Gear { get; } = gear;

    public bool Silhouette => S.Options.Silhouette;

    /// <summary>Draws a part; nothing where this piece has none of that path.</summary>
    public void Part(string path, Action draw)
    {
        if (_placement.Find(path) is not { } part)
            return;
        if (Silhouette || part.Criteria.Count == 0)
            draw();
        else
            S.Part(path, part.Name, draw);
    }

    /// <summary>A part with no shape of its own: a stamp with a word on it, to press. Not on a silhouette.</summary>
    public void Stamp(string path, double x, double y, string word)
    {
        if (Silhouette)
            return;
        Part(path, () =>
        {
            var half = 7 + (word.Length * 2.2);
            S.Rect(x - half, y - 8, half * 2, 16, 8);
            S.Text(x, y + 2.6, word, "figure small");
        });
    }

    /// <summary>The tag on its wire. Not on a silhouette.</summary>
    public void Tag(double x, double y)
    {
        if (!Silhouette)
            Part("tag", () => S.At(x, y, 0, 1, () => Shapes.Tag(S)));
    }

    /// <summary>What hangs at an end: a hook, a link or a shackle; the origin is where it bears.</summary>
    public void End(string prefix)
    {
        Part($"{prefix}hook", () => Shapes.Hook(S, 8, Gear.HookLatch));
        Part($"{prefix}fitting", () =>
        {
            if (Gear.EndFitting == "shackle")
                S.At(0, -8, 0, 0.62, () =>
                {
                    Shapes.ShackleBow(S);
                    Shapes.ShacklePin(S, Gear.PinType ?? "screw");
                });
            else
                S.At(0, -9, 0, 1, () => Shapes.OvalLink(S, 22, 36, 4.5));
        });
    }

    /// <summary>A figure written beside a point, where it is known.</summary>
    public void Figure(string key, double x, double y, double toX, double toY, string before = "")
    {
        if (!Silhouette && S.Options.Figures.TryGetValue(key, out var figure))
            S.Leader(x, y, toX, toY, $"{before}{figure}");
    }

    /// <summary>Closes the sheet.</summary>
    /// <param name="x">Left edge of what is drawn.</param>
    /// <param name="y">Top edge.</param>
    /// <param name="width">Width of what is drawn; a sheet that is no silhouette gets room for figures at both sides.</param>
    /// <param name="height">Height.</param>
    public string Close(double x, double y, double width, double height)
    {
        if (Silhouette)
            return S.Svg(x - 2, y - 2, width + 4, height + 4, Gear.Family.Name);
        Stamp("whole", x + width + 24, y + 10, "whole");
        return S.Svg(x - 92, y - 8, width + 184, height + 16, Say.Gear(Gear));
    }
}
