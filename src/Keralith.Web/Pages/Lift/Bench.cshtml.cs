using Keralith.Core.Lifts;
using Keralith.Core.People;
using Keralith.Data;
using Keralith.Web.Lifts;
using Microsoft.AspNetCore.Mvc;

namespace Keralith.Web.Pages.Lift;

/// <summary>The bench: load, hitch, angle and gear, and what the arrangement may carry.</summary>
public sealed class BenchModel(Here here, LiftStore lifts, PieceStore pieces, LoadCell cell)
    : LiftPage(here, lifts, pieces)
{
    public BenchFields F { get; private set; } = null!;

    public bool HasCell => cell.IsThere;

    /// <summary>Whether the plan takes changes from this person.</summary>
    public bool MayChange => Here.May(Right.PlanLift) && Row.State.MayChange();

    public IReadOnlyList<LiftRecord> Records { get; private set; } = [];

    public async Task<IActionResult> OnGetAsync(Guid id) => await ShowAsync(id, null) ? Page() : NotFound();

    /// <summary>What is typed, worked out and kept, as the part of the page that shows it.</summary>
    public async Task<IActionResult> OnPostWorkAsync(Guid id, int version)
    {
        var typed = PlanForm.Typed(Request.Form);
        if (!await ShowAsync(id, typed))
            return NotFound();
        if (!Same(typed, Row.Fields))
        {
            var saved = await Lifts.SaveAsync(id, version, typed, Here.Actor, Here.Now, Cancel);
            if (!saved.Ok)
                Refuse(saved.Fault!);
            Response.Headers["X-Lift-Version"] = (saved.Ok ? saved.Value : version).ToString(
                System.Globalization.CultureInfo.InvariantCulture
            );
        }

        Response.StatusCode = StatusCodes.Status200OK;
        return Partial("_Worked", this);
    }

    /// <summary>The same without script: keeps what is typed and shows the page again.</summary>
    public async Task<IActionResult> OnPostSaveAsync(Guid id, int version) =>
        await KeepAsync(id, version, PlanForm.Typed(Request.Form));

    /// <summary>Puts a piece on by its mark; one that may not be used is not put on.</summary>
    public async Task<IActionResult> OnPostAddAsync(Guid id, int version, string? add)
    {
        var typed = PlanForm.Typed(Request.Form);
        if (!await ShowAsync(id, typed))
            return NotFound();
        if (string.IsNullOrWhiteSpace(add))
            return await KeepAsync(id, version, typed);
        if (PlanGear.Add(typed, add, await GearAsync(add), Lift.Gear) is { } refusal)
        {
            Refuse(refusal.Words);
            return Page();
        }

        return await KeepAsync(id, version, typed, "#gear");
    }

    /// <summary>Takes a row of gear off.</summary>
    public async Task<IActionResult> OnPostOffAsync(Guid id, int version, int off)
    {
        var typed = PlanForm.Typed(Request.Form);
        PlanGear.Off(typed, off);
        return await KeepAsync(id, version, typed, "#gear");
    }

    /// <summary>Weighs the load with the cell: the figure takes the place of the estimate.</summary>
    public async Task<IActionResult> OnPostWeighAsync(Guid id, int version)
    {
        var typed = PlanForm.Typed(Request.Form);
        if (!await ShowAsync(id, typed))
            return NotFound();
        var reading = await cell.ReadAsync(steady: true, Cancel);
        if (!reading.Ok || reading.Value.Load.Kilograms <= 0)
        {
            Refuse(reading.Fault ?? "Nothing hangs on the load cell.");
            return Page();
        }

        typed["weighed"] = reading.Value.Load.ToString();
        typed["basis"] = Code.Of(LoadBasis.Weighed);
        var saved = await Lifts.SaveAsync(id, version, typed, Here.Actor, Here.Now, Cancel);
        if (saved.Ok)
            return await AfterAsync(
                await Lifts.StepAsync(id, saved.Value, new WeighLift(typed["weighed"]), Here.Stamp(Submission), Cancel),
                $"/lift/{id}",
                () => ShowAsync(id, null)
            );
        Refuse(saved.Fault!);
        return Page();
    }

    /// <summary>Keeps the arrangement as a template.</summary>
    public async Task<IActionResult> OnPostTemplateAsync(Guid id)
    {
        if (!await ShowAsync(id, null))
            return NotFound();
        var fields = Row
            .Fields.Where(f => !f.Key.StartsWith("piece-", StringComparison.Ordinal) && f.Key != "weighed")
            .ToDictionary();
        return await AfterAsync(await Lifts.BeginAsync(fields, true, Here.Stamp(Submission), Cancel), "/lift", () =>
            ShowAsync(id, null)
        );
    }

    private async Task<IActionResult> KeepAsync(Guid id, int version, Dictionary<string, string> typed, string at = "")
    {
        var saved = await Lifts.SaveAsync(id, version, typed, Here.Actor, Here.Now, Cancel);
        if (saved.Ok)
            return Redirect($"/lift/{id}{at}");
        if (!await ShowAsync(id, typed))
            return NotFound();
        Refuse(saved.Fault!);
        return Page();
    }

    private async Task<bool> ShowAsync(Guid id, IReadOnlyDictionary<string, string>? typed)
    {
        if (!await LoadAsync(id, typed))
            return false;
        F = new(Lift.Fields, Lift.TypedFaults);
        Records = await Lifts.RecordsAsync(id, Cancel);
        return true;
    }

    private static bool Same(Dictionary<string, string> a, IReadOnlyDictionary<string, string> b) =>
        a.Count == b.Count && a.All(f => b.TryGetValue(f.Key, out var other) && other == f.Value);
}
