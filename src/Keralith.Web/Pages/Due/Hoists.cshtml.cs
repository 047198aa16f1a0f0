using Keralith.Core.Gear;
using Keralith.Core.Register;
using Keralith.Data;

namespace Keralith.Web.Pages.Due;

/// <summary>The monthly record of hoists' hooks and chains (29 CFR 1910.179(j), 1926.1501): a year on one sheet.</summary>
public sealed class HoistsModel(Here here, PieceStore pieces, InspectionStore inspections) : YardPage(here)
{
    private const int Most = 200;

    public int Year { get; private set; }

    public IReadOnlyList<(Piece Piece, IReadOnlyDictionary<int, InspectionDay> Months)> Rows { get; private set; } = [];

    public async Task OnGetAsync(int? year)
    {
        Year = Math.Clamp(year ?? Here.Today.Year, 2000, Here.Today.Year);
        var hoists = await pieces.ListAsync(
            new()
            {
                Families = GearFamilies.All.Where(f => f.Group == FamilyGroup.Hoist).Select(f => f.Code).ToList(),
                WithoutRetired = true,
                Most = Most,
            },
            Cancel
        );
        var days = (
            await inspections.DaysAsync(hoists.Select(h => h.Id), new(Year, 1, 1), new(Year, 12, 31), Cancel)
        ).ToLookup(d => d.Piece);
        Rows = hoists
            .Select(h =>
                (
                    h,
                    (IReadOnlyDictionary<int, InspectionDay>)
                        days[h.Id].GroupBy(d => d.Day.Month).ToDictionary(g => g.Key, g => g.MaxBy(d => d.Day)!)
                )
            )
            .ToList();
    }
}
