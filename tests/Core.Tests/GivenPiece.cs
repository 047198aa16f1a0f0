using Keralith.Core.Custody;
using Keralith.Core.Gear;
using Keralith.Core.Judgement;
using Keralith.Core.Quantities;
using Keralith.Core.Register;
using Keralith.Core.Schedule;

namespace Keralith.Core.Tests;

/// <summary>A piece as it stands in a register.</summary>
internal static class GivenPiece
{
    /// <summary>A screw pin shackle, 7/8 in, its marking whole.</summary>
    public static Piece Shackle(PieceState state = PieceState.InService, IReadOnlyList<string>? holds = null) =>
        new()
        {
            Id = Guid.NewGuid(),
            Mark = "HM-1",
            Gear = new(
                GearFamilies.Find("shackle")!,
                [
                    new("size", GearAttributes.Find("size")!.Read("7/8 in").Value),
                    new("pinType", GearAttributes.Find("pinType")!.Read("screw").Value),
                ]
            ),
            RatedLoad = Mass.Parse("6-1/2 short ton"),
            TagEntries = [.. GearFamilies.Find("shackle")!.TagEntries.Select(e => e.Code)],
            ServiceClass = ServiceClass.Normal,
            StoreId = 1,
            Store = "Basin Yard",
            Peg = "A1",
            State = state,
            OpenHolds = holds ?? [],
            Version = 1,
        };

    /// <summary>Every figure when new that its gear wants, an inch each.</summary>
    public static Dictionary<BaselineKey, BaselineFigure> Figures(
        GearPiece gear,
        BaselineBasis basis = BaselineBasis.New
    ) =>
        PieceEntryReader
            .BaselinesOf(gear)
            .ToDictionary(
                b => new BaselineKey(b.Part.Path, b.Criterion.Id),
                b => new BaselineFigure(Length.Parse("1 in"), basis, b.Criterion.OverLinks ? 5 : null)
            );
}
