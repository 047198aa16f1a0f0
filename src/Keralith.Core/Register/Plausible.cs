using Keralith.Core.Gear;
using Keralith.Core.Judgement;
using Keralith.Core.Tags;

namespace Keralith.Core.Register;

/// <summary>
/// Whether what is entered of a piece can be so, all of it together: rating against size, figures when new against
/// size, own weight against rating, measured figures on record against what is said now.
/// </summary>
public static class Plausible
{
    /// <summary>A measured figure this far from what is said now was measured on another piece, or this is misread.</summary>
    private const decimal OffMeasured = 0.25m;

    /// <summary>Why what is entered can't be so; null when it can.</summary>
    public static Refusal? RefusalOf(PieceEntry entry)
    {
        if (entry.RatedLoad is { } marked && UsualRating.Above(entry.Gear, marked) is { Refused: true } far)
            return new Refusal($"{entry.Mark}: {far.Words}");
        if (
            entry.Gear.Mass("ownWeight") is { } own
            && entry.RatedLoad is { } rated
            && own.Kilograms >= rated.Kilograms
            && entry.Gear.Family.Group is FamilyGroup.Sling or FamilyGroup.Hardware
        )
            return new Refusal($"{entry.Mark}: it weighs {own} and is rated {rated}: one of them is misread.");
        foreach (var (key, figure) in entry.Baselines)
        {
            if (FaultOf(entry.Gear, key, figure) is { } fault)
                return new Refusal($"{entry.Mark}: {fault}");
        }

        return null;
    }

    /// <summary>What the last full inspection measured that does not go with what is entered now; null when all does.</summary>
    /// <param name="measured">The last full inspection that counts; null: none.</param>
    public static string? AgainstMeasured(Case? measured, GearPiece gear)
    {
        if (measured is null || gear.Size is not { } size || measured.Gear.Size == size)
            return null;
        var off = measured.Answers.FirstOrDefault(a =>
            a.Response is Measured { Value: var value }
            && a.Criterion.BaselineFromSize
            && Math.Abs(value.Millimetres - size.Millimetres) > size.Millimetres * OffMeasured
        );
        return off is null
            ? null
            : $"{((Measured)off.Response).Value} was measured on {off.Part} ({off.Criterion.Title.ToLowerInvariant()}), which is none of size {size}";
    }

    private static string? FaultOf(GearPiece gear, BaselineKey key, BaselineFigure figure)
    {
        if ((gear.Size ?? gear.Length("ropeSize")) is not { } size || size.Millimetres <= 0)
            return null;
        if (Catalogue.Find(key.Criterion) is not { LikelyOfSize: { } likely } criterion)
            return null;
        if (criterion.OverLinks && figure.Links is not > 0)
            return null;
        var of = figure.Length.Millimetres / (criterion.OverLinks ? figure.Links!.Value : 1) / size.Millimetres;
        return of >= likely.Least && of <= likely.Most ? null
            : criterion.OverLinks
                ? $"{figure.Length} over {figure.Links} links of {size} chain: a link is about three times its stock long. Length, links or size misread?"
            : $"{criterion.BaselineName} {figure.Length} on {key.Part}, where the size is {size}: figure, size or unit misread?";
    }
}
