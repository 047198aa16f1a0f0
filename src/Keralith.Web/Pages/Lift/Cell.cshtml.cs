using Keralith.Core.People;
using Keralith.Core.Quantities;
using Keralith.Web.Lifts;
using Keralith.Web.Security;
using Microsoft.AspNetCore.Mvc;

namespace Keralith.Web.Pages.Lift;

/// <summary>The load cell: what hangs on it now, and, on the stand-in, what is hung on it.</summary>
public sealed class CellModel(Here here, LoadCell cell) : YardPage(here)
{
    public bool IsThere => cell.IsThere;

    public CellReading? Reading { get; private set; }

    public string? Typed { get; private set; }

    public async Task OnGetAsync()
    {
        var read = await cell.ReadAsync(steady: false, Cancel);
        if (read.Ok)
            Reading = read.Value;
        else if (IsThere)
            Refuse(read.Fault!);
    }

    /// <summary>The next reading, for the page's own figure.</summary>
    public async Task<IActionResult> OnGetReadAsync()
    {
        var read = await cell.ReadAsync(steady: false, Cancel);
        return new JsonResult(
            read.Ok
                ? new { words = Words(read.Value), said = (string?)null }
                : new { words = string.Empty, said = read.Fault }
        );
    }

    [Takes(Right.PlanLift)]
    public async Task<IActionResult> OnPostAsync(string? load)
    {
        Typed = load;
        var read = Mass.Read(load is { Length: <= 40 } ? load : null);
        if (!read.Ok)
            Refuse(read.Fault!);
        else if (read.Value.Kilograms is < 0 or > 200_000)
            Refuse("The stand-in takes up to 200 t.");
        else if (await cell.HangAsync(read.Value, Cancel) is { Ok: false } away)
            Refuse(away.Fault!);
        return Refused is null ? Redirect("/lift/cell") : Page();
    }

    public static string Words(CellReading reading) =>
        FormattableString.Invariant(
            $"{reading.Load.Kilograms:0.0} kg, {reading.Load.Pounds:0} lb{(reading.Steady ? ", at rest" : ", still swinging")}"
        );
}
