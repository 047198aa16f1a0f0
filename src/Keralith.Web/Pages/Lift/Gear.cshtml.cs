using Keralith.Core.Gear;
using Keralith.Core.Lifts;
using Keralith.Core.Register;
using Keralith.Data;
using Microsoft.AspNetCore.Mvc;

namespace Keralith.Web.Pages.Lift;

/// <summary>Which gear of a store will do for a place of a lift, the tightest fit first, and why near misses do not.</summary>
public sealed class GearModel(Here here, LiftStore lifts, PieceStore pieces, SiteStore sites)
    : LiftPage(here, lifts, pieces)
{
    private const int MostTried = 5000;

    public GearFamily Family { get; private set; } = null!;

    public bool Above { get; private set; }

    public int? Store { get; private set; }

    public IReadOnlyList<Store> Stores { get; private set; } = [];

    /// <summary>Null while the load or its stand is not given.</summary>
    public GearSearch? Search { get; private set; }

    /// <summary>The offered pieces as the register has them.</summary>
    public IReadOnlyDictionary<string, Piece> Found { get; private set; } = new Dictionary<string, Piece>();

    public async Task<IActionResult> OnGetAsync(Guid id, string? family, bool above, int? store)
    {
        if (
            GearFamilies.Find(family ?? string.Empty) is not { } known
            || LiftGear.RoleOf(known) == LiftRole.None
            || !await LoadAsync(id)
        )
            return NotFound();
        (Family, Above, Store, Stores) = (
            known,
            above || (LiftGear.RoleOf(known) == LiftRole.Above && Lift.Plan?.Stand is not StandDrift),
            store,
            await sites.StoresAsync(Cancel)
        );
        if (Lift.Plan is not { } plan)
            return Page();
        var candidates = await Register.ListAsync(
            new()
            {
                Store = store,
                Families = [known.Code],
                WithoutRetired = true,
                Most = MostTried,
            },
            Cancel
        );
        Found = candidates.ToDictionary(c => c.Mark);
        var works = await Here.SitesAsync(Cancel);
        Search = GearSearch.Of(
            plan,
            known,
            Above,
            candidates.Select(c => c.OnLift(Here.Now, works)),
            works.Together(candidates.Concat(Lift.Pieces.Values).Select(c => c.SiteId)).Books,
            chosen: Lift.Gear
        );
        return Page();
    }

    /// <summary>Puts an offered piece on.</summary>
    public async Task<IActionResult> OnPostAsync(Guid id, int version, string? mark, bool above)
    {
        if (!await LoadAsync(id))
            return Redirect($"/lift/{id}");
        var fields = new Dictionary<string, string>(Row.Fields);
        var scanned = mark ?? string.Empty;
        if (PlanGear.Add(fields, scanned, await GearAsync(scanned), Lift.Gear, above) is not null)
            return Redirect($"/lift/{id}");
        return await Lifts.SaveAsync(id, version, fields, Here.Actor, Here.Now, Cancel) is { Ok: true }
            ? Redirect($"/lift/{id}#gear")
            : Redirect($"/lift/{id}");
    }
}
