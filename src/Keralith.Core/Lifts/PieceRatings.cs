using Keralith.Core.Gear;
using Keralith.Core.Register;
using Keralith.Core.Sites;
using Keralith.Core.Tags;

namespace Keralith.Core.Lifts;

/// <summary>A registered piece as lifting sees it.</summary>
public static class PieceRatings
{
    /// <summary>What it may carry by hitch and angle; null for gear that is no sling.</summary>
    public static HitchRatings? RatingsAt(this Piece piece, Site site)
    {
        if (piece.Gear.Family.Kind == GearKind.Kit && KitMember.OneLeg(piece.Details.Members) is { } leg)
        {
            var one = RatedLoadHere.For(piece.Gear.Family, leg, piece.DesignFactor, site.Books);
            var straight = HitchRatings.Of(
                new(piece.Gear.Family, [new("legs", new WholeValue(1))]),
                one,
                TagWords.Plain with
                {
                    Hitch = Hitch.Vertical,
                },
                piece.Surroundings,
                site.Books
            );
            var counts = straight!.OneLeg!.Value;
            return HitchRatings.OfKit(
                counts,
                piece.Gear.Legs,
                piece.RatedLoad,
                [
                    .. piece.Details.Tag.LegTable.Select(r =>
                        r with
                        {
                            Load = r.Load * Figures.Ratio(counts.Kilograms, leg.Kilograms),
                        }
                    ),
                ]
            );
        }

        return piece.TagAt(site).Here is { } here
            ? HitchRatings.Of(piece.Gear, here, piece.Details.Tag, piece.Surroundings, site.Books)
            : null;
    }

    /// <summary>The piece as a lift looks at it, by the rules and the day of its own site.</summary>
    public static LiftGear OnLift(this Piece piece, DateTimeOffset now, SiteSet sites)
    {
        var site = sites.Of(piece.SiteId);
        return piece.OnLift(site.DayOf(now), site);
    }

    /// <summary>The piece as a lift looks at it.</summary>
    public static LiftGear OnLift(this Piece piece, DateOnly today, Site site)
    {
        var details = piece.Details;
        return new(piece.Mark, piece.Gear, piece.RatedLoad, piece.DesignFactor, details.Tag, piece.UseOn(today, site))
        {
            Hottest = piece.Surroundings.HasMet,
            Members = details.Members,
            LotCount = piece.LotCount,
            Fit = details.Fit,
            RatingPaper = details.RatingPaper,
            MakersAngle = details.MakersAngle?.Angle,
            IsCalculated = details.Calculation is not null,
        };
    }
}
