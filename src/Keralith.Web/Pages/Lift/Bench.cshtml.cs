using Keralith.Core.Lifts;
using Keralith.Core.People;
using Keralith.Data;
using Keralith.Data.Exchange;
using Keralith.Web.Lifts;
using Keralith.Web.Security;
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

    public IReadOnlyList<LiftRecord> Records => Lift.Records;

    public async Task<IActionResult> OnGetAsync(Guid id) => await ShowAsync(id, null) ? Page() : NotFound();

    /// <summary>Fields somebody else changed too, to something else.</summary>
    public IReadOnlyList<PlanClash> Clashes { get; private set; } = [];

    /// <summary>Whether what somebody else changed meanwhile came in.</summary>
    public bool Merged { get; private set; }

    /// <summary>What the last trial lift says of the centre of gravity; null where it was level, or the legs stand otherwise.</summary>
    public (string Low, string By, string Off)? TrialSays =>
        Row.State == LiftState.Planned
        && Lift.Plan?.Stand is StandPoints { Geometry: var geometry }
        && Records.FirstOrDefault(r => r.Kind == "trial") is { } trial
        && Records.TakeWhile(r => r != trial).All(r => r.Kind != "moved")
        && trial.Version >= Row.Version - 1
        && TrialFinding.Read(trial.Data.GetValueOrDefault("low end"), trial.Data.GetValueOrDefault("by"))
            is { Ok: true, Value: var found }
            ? (trial.Data["low end"], found.Tilt.ToString(), Lift.Reach(found.Off(geometry.Hook.Z - geometry.Centre.Z)))
            : null;

    /// <summary>Moves the centre of gravity where the last trial lift puts it.</summary>
    public async Task<IActionResult> OnPostCentreAsync(Guid id, int version)
    {
        var typed = PlanForm.Typed(Request.Form);
        if (!await ShowAsync(id, typed))
            return NotFound();
        if (
            Lift.Plan?.Stand is not StandPoints { Geometry: var geometry }
            || Records.FirstOrDefault(r => r.Kind == "trial") is not { } trial
        )
            return Redirect($"/lift/{id}");
        var found = TrialFinding.Read(trial.Data.GetValueOrDefault("low end"), trial.Data.GetValueOrDefault("by"));
        if (!found.Ok)
        {
            Refuse(found.Refusal!);
            return Page();
        }

        var centre = found.Value.Centre(geometry);
        foreach (var (axis, at) in new[] { ("x", centre.X), ("y", centre.Y), ("z", centre.Z) })
            typed[$"g-{axis}"] = Lift.Reach(at);
        return await KeepAsync(id, version, typed);
    }

    /// <summary>What is typed, worked out and kept, as the part of the page that shows it.</summary>
    public async Task<IActionResult> OnPostWorkAsync(Guid id, int version)
    {
        var typed = PlanForm.Typed(Request.Form);
        if (!await ShowAsync(id, typed))
            return NotFound();
        if (!Same(typed, Row.Fields))
        {
            var saved = await Lifts.SaveAsync(id, version, typed, Here.Actor, Here.Now, Cancel);
            if (saved.Refusal is { Kind: RefusalKind.Conflict } && Seen() is { } seen)
            {
                // Two work on one plan: what each typed stands, field by field.
                var merge = PlanMerge.Of(seen, typed, Row.Fields);
                saved = await Lifts.SaveAsync(id, Row.Version, merge.Fields, Here.Actor, Here.Now, Cancel);
                if (saved.Ok)
                {
                    await ShowAsync(id, merge.Fields);
                    (Merged, Clashes) = (true, merge.Clashes);
                }
            }

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
            return await RefuseAsync(id, version, typed, refusal.Words);

        return await KeepAsync(id, version, typed, "#gear");
    }

    /// <summary>Takes a row of gear off.</summary>
    public async Task<IActionResult> OnPostOffAsync(Guid id, int version, int off)
    {
        var typed = PlanForm.Typed(Request.Form);
        PlanGear.Off(typed, off);
        return await KeepAsync(id, version, typed, "#gear");
    }

    /// <summary>Weighs the load with the cell, and puts it on record: the plan goes by it.</summary>
    public async Task<IActionResult> OnPostWeighAsync(Guid id, int version)
    {
        var typed = PlanForm.Typed(Request.Form);
        if (!await ShowAsync(id, typed))
            return NotFound();
        var reading = await cell.ReadAsync(steady: true, Cancel);
        return !reading.Ok || reading.Value.Load.Kilograms <= 0
            ? await RefuseAsync(id, version, typed, reading.Fault ?? "Nothing hangs on the load cell.")
            : await WeighedAsync(id, version, typed, new(reading.Value.Load, "load cell"));
    }

    /// <summary>Puts on record what an instrument showed, on one cell or on supports.</summary>
    public async Task<IActionResult> OnPostRecordAsync(Guid id, int version, string? with)
    {
        var typed = PlanForm.Typed(Request.Form);
        if (!await ShowAsync(id, typed))
            return NotFound();
        var read = LiftPlanReader.Weighing(typed, with);
        return read.Ok
            ? await WeighedAsync(id, version, typed, read.Value)
            : await RefuseAsync(id, version, typed, read.Fault!);
    }

    /// <summary>Sets a source that says the harsher aside for this version of the plan.</summary>
    [Takes(Right.SignLift)]
    public async Task<IActionResult> OnPostAsideAsync(Guid id, int version, string? what, string? why)
    {
        if (!await ShowAsync(id, null))
            return NotFound();
        return await AfterAsync(
            await Lifts.StepAsync(id, version, new SetSourceAside(what, why), Here.Stamp(Submission), Cancel),
            $"/lift/{id}",
            () => ShowAsync(id, null)
        );
    }

    private async Task<IActionResult> WeighedAsync(
        Guid id,
        int version,
        Dictionary<string, string> typed,
        WeighLift weighing
    )
    {
        // The plan goes by the weighing; once its gear is out it stands as it is, and the weighing counts all the same.
        typed.Remove("weighed");
        typed["basis"] = Code.Of(LoadBasis.Weighed);
        if (Row.State.MayChange())
        {
            var saved = await Lifts.SaveAsync(id, version, typed, Here.Actor, Here.Now, Cancel);
            if (!saved.Ok)
            {
                Refuse(saved.Fault!);
                return Page();
            }

            version = saved.Value;
        }

        return await AfterAsync(
            await Lifts.StepAsync(id, version, weighing, Here.Stamp(Submission), Cancel),
            $"/lift/{id}",
            () => ShowAsync(id, null)
        );
    }

    /// <summary>What else is known of the load, by the name it is set aside by, with who set it aside on this version.</summary>
    public IReadOnlyList<(string Code, string Words, LiftRecord? Aside)> OnRecord
    {
        get
        {
            var sources = Lift
                .Known.Weighings.Select(w =>
                    (w.Code, Words: $"{char.ToUpperInvariant(w.ToString()[0])}{w.ToString()[1..]}")
                )
                .ToList();
            if (Lift.Verdict?.HasOtherCentre == true)
                sources.Add(
                    (
                        LiftKnown.Centre,
                        "The centre of gravity by the load's own figures, by weighings or by the trial lift"
                    )
                );
            return sources.ConvertAll(s => (s.Code, s.Words, Aside(s.Code)));
        }
    }

    private LiftRecord? Aside(string code) =>
        Records.FirstOrDefault(r =>
            r.Kind == SetSourceAside.Kind
            && r.Version == Row.Version
            && r.Data.GetValueOrDefault(SetSourceAside.Named) == code
        );

    /// <summary>Charts entered on other lifts, by the lift, under the crane's name.</summary>
    public IReadOnlyList<(Guid Lift, string Name)> Charts { get; private set; } = [];

    /// <summary>Takes a crane's chart: from a file, from lines, or as it stands on another lift.</summary>
    public async Task<IActionResult> OnPostChartAsync(Guid id, int version, [FromQuery] string? of)
    {
        var called = of == LiftPlanReader.SecondCrane ? of : LiftPlanReader.FirstCrane;
        var after = called == LiftPlanReader.FirstCrane ? string.Empty : $"-{called}";
        var file = Request.Form.Files.GetFile($"chart-file{after}");
        Guid? from = Guid.TryParse(Request.Form[$"chart-from{after}"], out var chosen) ? chosen : null;
        var typed = PlanForm.Typed(Request.Form);
        if (!await ShowAsync(id, typed))
            return NotFound();
        Checked<CraneChart> chart;
        if (from is { } other && await Lifts.GetAsync(other, Cancel) is { } like)
        {
            typed.TryAdd($"{called}-name", like.Fields.GetValueOrDefault("crane-name") ?? string.Empty);
            chart = ChartText.Read(like.Fields.GetValueOrDefault("crane-chart"));
        }
        else if (file is { Length: > 0 and <= MostOfAChart })
        {
            using var bytes = new MemoryStream();
            await file.CopyToAsync(bytes, Cancel);
            chart = ChartFile.Read(bytes.ToArray(), Cancel);
        }
        else
            chart = ChartFile.Read(
                System.Text.Encoding.UTF8.GetBytes(Request.Form[$"chart-lines{after}"].ToString()),
                Cancel
            );
        typed["machine"] = "crane";
        return await ChartedAsync(id, version, typed, called, chart);
    }

    /// <summary>Takes one figure out of a crane's chart, or puts one in.</summary>
    public async Task<IActionResult> OnPostFigureAsync(Guid id, int version, [FromQuery] string? of)
    {
        var typed = PlanForm.Typed(Request.Form);
        if (!await ShowAsync(id, typed))
            return NotFound();
        var called = of == LiftPlanReader.SecondCrane ? of : LiftPlanReader.FirstCrane;
        string Given(string name) => Request.Form[$"figure-{name}"].ToString().Trim();
        var configuration = Given("configuration") is { Length: > 0 } named
            ? named
            : typed.GetValueOrDefault($"{called}-configuration") ?? string.Empty;
        return await ChartedAsync(
            id,
            version,
            typed,
            called,
            int.TryParse(Request.Form["figure-off"], out var row)
                ? ChartText.Without(typed.GetValueOrDefault($"{called}-chart"), row)
                : ChartText.With(
                    typed.GetValueOrDefault($"{called}-chart"),
                    [configuration, Given("boom"), Given("radius"), Given("capacity")]
                )
        );
    }

    private async Task<IActionResult> ChartedAsync(
        Guid id,
        int version,
        Dictionary<string, string> typed,
        string called,
        Checked<CraneChart> chart
    )
    {
        if (!chart.Ok)
            return await RefuseAsync(id, version, typed, chart.Fault!);
        typed[$"{called}-chart"] = ChartText.Write(chart.Value);
        return await KeepAsync(id, version, typed);
    }

    private const int MostOfAChart = 200_000;

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

    /// <summary>Refuses an act, and keeps what was typed with it: whoever goes on from there loses nothing.</summary>
    private async Task<IActionResult> RefuseAsync(Guid id, int version, Dictionary<string, string> typed, string words)
    {
        if (
            !Same(typed, Row.Fields)
            && (await Lifts.SaveAsync(id, version, typed, Here.Actor, Here.Now, Cancel)).Ok
            && !await ShowAsync(id, typed)
        )
            return NotFound();
        Refuse(words);
        return Page();
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
        Charts = await Lifts.ChartsAsync(id, Cancel);
        return true;
    }

    /// <summary>The plan as this page last had it from the record; null where it does not say.</summary>
    private Dictionary<string, string>? Seen()
    {
        try
        {
            return Request.Form["seen"].ToString() is { Length: > 0 } sent
                ? System.Text.Json.JsonSerializer.Deserialize<Dictionary<string, string>>(sent)
                : null;
        }
        catch (System.Text.Json.JsonException)
        {
            return null;
        }
    }

    private static bool Same(Dictionary<string, string> a, IReadOnlyDictionary<string, string> b) =>
        a.Count == b.Count && a.All(f => b.TryGetValue(f.Key, out var other) && other == f.Value);
}
