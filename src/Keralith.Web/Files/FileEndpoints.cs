using Keralith.Core.Formats;
using Keralith.Core.Gear;
using Keralith.Core.Judgement;
using Keralith.Core.People;
using Keralith.Core.Schedule;
using Keralith.Data;
using Keralith.Data.Exchange;
using Keralith.Web.Lifts;
using Keralith.Web.Mailing;
using Keralith.Web.Printing;
using Keralith.Web.Running;
using Keralith.Web.Security;
using Microsoft.AspNetCore.Mvc;

namespace Keralith.Web.Files;

/// <summary>What is downloaded: the register, files of pieces, errors of an import.</summary>
internal static class FileEndpoints
{
    private const int MostPrinted = 5000;

    public static void Map(WebApplication app)
    {
        app.MapGet("/register/export.csv", CsvAsync).RequireAuthorization(nameof(Right.Read)).ExcludeFromDescription();
        app.MapGet("/register/export.xlsx", XlsxAsync)
            .RequireAuthorization(nameof(Right.Read))
            .ExcludeFromDescription();
        app.MapGet("/due/{token:regex(^[0-9a-f]{{48}}$)}.ics", DueFeed.SendAsync)
            .AllowAnonymous()
            .ExcludeFromDescription();
        app.MapGet("/season/poster.{extension:regex(^(pdf|svg)$)}", PosterAsync)
            .RequireAuthorization(nameof(Right.Read))
            .ExcludeFromDescription();
        app.MapGet("/lift/{id:guid}/document.json", LiftAsync)
            .RequireAuthorization(nameof(Right.Read))
            .ExcludeFromDescription();
        app.MapGet("/piece/{mark}/incident.pdf", IncidentEndpoint.SendAsync)
            .RequireAuthorization(nameof(Right.Read))
            .ExcludeFromDescription();
        app.MapGet("/ledger/pack.zip", PackAsync)
            .RequireAuthorization(nameof(Right.ReadLedger))
            .ExcludeFromDescription();
        app.MapGet("/inspection/{id:guid}/certificate.json", SealedCertificateAsync)
            .RequireAuthorization(nameof(Right.Read))
            .ExcludeFromDescription();
        app.MapGet("/inspection/{id:guid}/certificate.pdf", CertificateAsync)
            .RequireAuthorization(nameof(Right.Read))
            .ExcludeFromDescription();
        app.MapGet("/register/import/{id:guid}/errors.csv", ErrorsAsync)
            .RequireAuthorization(nameof(Right.Register))
            .ExcludeFromDescription();
        app.MapGet("/register/export.pdf", PdfAsync).RequireAuthorization(nameof(Right.Read)).ExcludeFromDescription();
        app.MapGet("/labels/printer/{name}.{extension}", (string name, string extension) =>
                LabelPrinter.FileOf(name, extension) is { } path
                    ? Results.File(path, extension == "pdf" ? "application/pdf" : "image/svg+xml")
                    : Results.NotFound()
            )
            .RequireAuthorization(nameof(Right.Read))
            .ExcludeFromDescription();
        app.MapGet("/due/outbox/{name}.eml", (string name, Here here) =>
                Outbox.FileOf(name, here.May(Right.ManagePeople) ? null : here.Actor.Username) is { } path
                    ? Results.File(path, "text/plain; charset=utf-8")
                    : Results.NotFound()
            )
            .RequireAuthorization(nameof(Right.Read))
            .ExcludeFromDescription();
        app.MapGet("/file/{id:guid}", (Guid id, FileStore files, HttpContext context, CancellationToken cancel) =>
                FileAsync(id, false, files, context, cancel)
            )
            .RequireAuthorization(nameof(Right.Read))
            .ExcludeFromDescription();
        app.MapGet("/file/{id:guid}/small", (Guid id, FileStore files, HttpContext context, CancellationToken cancel) =>
                FileAsync(id, true, files, context, cancel)
            )
            .RequireAuthorization(nameof(Right.Read))
            .ExcludeFromDescription();
    }

    private static async Task CsvAsync(
        HttpContext context,
        RegisterExport export,
        [FromQuery] bool? all,
        [FromQuery] bool? empty,
        CancellationToken cancel
    )
    {
        Name(context, "register.csv", "text/csv; charset=utf-8");
        var headings = await export.HeadingsAsync(all == true, cancel);
        await TableWriter.CsvAsync(
            context.Response.Body,
            headings,
            empty == true ? AsyncEnumerable.Empty<IReadOnlyList<string>>() : export.RowsAsync(headings, null, cancel),
            cancel
        );
    }

    private static async Task XlsxAsync(HttpContext context, RegisterExport export, CancellationToken cancel)
    {
        Name(context, "register.xlsx", "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet");
        var headings = await export.HeadingsAsync(true, cancel);
        using var sheet = new MemoryStream();
        await TableWriter.XlsxAsync(sheet, headings, export.RowsAsync(headings, null, cancel), cancel);
        sheet.Position = 0;
        await sheet.CopyToAsync(context.Response.Body, cancel);
    }

    private static async Task PdfAsync(
        HttpContext context,
        Here here,
        PieceStore pieces,
        [FromQuery] int? store,
        CancellationToken cancel
    )
    {
        var rows = await pieces.ListAsync(
            new()
            {
                Store = store,
                WithoutRetired = true,
                Most = MostPrinted,
            },
            cancel
        );
        var site = await here.SiteAsync(cancel);
        Name(context, "register.pdf", "application/pdf");
        await context.Response.Body.WriteAsync(
            RegisterSheet.Pdf(
                rows,
                $"Register of {site.Name}{(store is null || rows.Count == 0 ? string.Empty : $", {rows[0].Store}")}",
                here.Today,
                here.Now
            ),
            cancel
        );
    }

    private static async Task<IResult> LiftAsync(
        Guid id,
        LiftStore lifts,
        PieceStore pieces,
        Here here,
        HttpContext context,
        CancellationToken cancel
    )
    {
        if (await lifts.GetAsync(id, cancel) is not { } row)
            return Results.NotFound();
        var lift = await BenchedLift.OfAsync(row, null, lifts, pieces, here, cancel);
        var left = lift.Verdict is { } verdict ? LiftDocument.LeftOut(verdict.Planned) : [.. lift.Faults.Values];
        if (lift.Verdict?.Planned.Lift is not { } planned || LiftDocument.Write(planned) is not { } json)
            return Results.Text(
                $"The lift document has no place for this lift: {string.Join("; ", left)}.",
                statusCode: StatusCodes.Status422UnprocessableEntity
            );

        // What the document can't say is told beside it.
        if (left.Count > 0)
            context.Response.Headers["X-Left-Out"] = string.Join("; ", left);
        return Results.Text(json, "application/json; charset=utf-8");
    }

    private static async Task<IResult> PosterAsync(
        string extension,
        [FromQuery] int? site,
        Here here,
        CancellationToken cancel
    )
    {
        var at = await here.SiteAsync(site, cancel);
        if (at.Seasons is not { } scheme || scheme.On(here.Today) is not { } now)
            return Results.NotFound();
        return extension == "pdf"
            ? Results.File(SeasonPoster.Pdf(at.Name, scheme, now, here.Now), "application/pdf", "season.pdf")
            : Results.Text(SeasonPoster.Svg(at.Name, scheme, now), "image/svg+xml");
    }

    /// <summary>The auditor's pack of a period; what takes longer than a moment is waited for on a page of its own.</summary>
    private static async Task<IResult> PackAsync(
        [AsParameters] PackAsked asked,
        HttpContext context,
        Here here,
        Packing packing,
        CancellationToken cancel
    )
    {
        var scope = asked.Scope();
        if (!scope.Ok)
        {
            context.Items[TextGate.Item] = scope.Fault;
            return Results.StatusCode(StatusCodes.Status422UnprocessableEntity);
        }

        var run = await packing.OfAsync(scope.Value, (await here.SiteAsync(cancel)).Zone, cancel);
        if (!run.Result.IsCompleted)
            return Results.Redirect($"/ledger/pack{context.Request.QueryString}");
        if (await run.Result is not { } pack)
        {
            context.Items[TextGate.Item] = "The ledger is empty: there is nothing to pack.";
            return Results.StatusCode(StatusCodes.Status409Conflict);
        }

        return Results.File(
            pack,
            "application/zip",
            $"pack-{scope.Value.From:yyyy-MM-dd}-{scope.Value.Until:yyyy-MM-dd}.zip"
        );
    }

    /// <summary>A signed inspection as a certificate anybody can check alone.</summary>
    private static async Task<IResult> SealedCertificateAsync(
        Guid id,
        HttpContext context,
        InspectionStore inspections,
        PieceStore pieces,
        TreeHeadStore heads,
        CancellationToken cancel
    )
    {
        if (
            await inspections.FindSignedAsync(id, cancel) is not { } inspection
            || await pieces.GetAsync(inspection.Piece, cancel) is not { } piece
        )
            return Results.NotFound();
        if (await heads.CertificateAsync(piece.Mark, id, cancel) is not { } json)
        {
            context.Items[TextGate.Item] =
                "No head of the ledger holds this record yet: one is signed each day, or when an administrator asks.";
            return Results.StatusCode(StatusCodes.Status409Conflict);
        }

        Name(context, $"{piece.Mark}-{inspection.InspectedOn:yyyy-MM-dd}.json", "application/json");
        await context.Response.WriteAsync(json, cancel);
        return Results.Empty;
    }

    private static async Task<IResult> CertificateAsync(
        Guid id,
        HttpContext context,
        Here here,
        InspectionStore inspections,
        PieceStore pieces,
        LedgerStore ledger,
        CancellationToken cancel
    )
    {
        if (await inspections.FindSignedAsync(id, cancel) is not { } inspection)
            return Results.NotFound();
        var piece = (await pieces.GetAsync(inspection.Piece, cancel))!;
        if (piece.Distrust is { } why)
        {
            context.Items[TextGate.Item] = $"No certificate is made of records that do not verify: {why}";
            return Results.StatusCode(StatusCodes.Status409Conflict);
        }

        var site = await here.SiteOfAsync(piece, cancel);
        var names = Catalogue.Parts(piece.Gear, RuleBookShelf.All).ToDictionary(p => p.Path, p => p.Name);
        var (number, hash) = await ledger.OfInspectionAsync(piece.Mark, id, cancel) ?? (0, []);
        var facts = new CertificateFacts(
            site.Name,
            piece,
            inspection,
            Pages
                .Inspect.FindingLine.Of(inspection.VerdictDocument!, inspection.Own, names, inspection.CaseDocument)
                .Findings,
            Pages.Inspect.SignedModel.Worked(inspection),
            $"{number}",
            Convert.ToHexStringLower(hash),
            context.RequestServices.GetRequiredService<PublicAddress>().Of($"/inspection/{id}").ToString()
        )
        {
            Notes = string.Join("\n", inspection.NotesTold(names).Select(n => $"{n.Where}: {n.Note}")),
            NextBy = !inspection.Kind.IsFull()
                ? null
                : inspection.NextBy
                    ?? Intervals
                        .Periodic(piece.Gear.Family, piece.ServiceClass, site.Books)
                        .After(inspection.InspectedOn),
        };
        Name(context, $"{piece.Mark}-{inspection.InspectedOn:yyyy-MM-dd}.pdf", "application/pdf");
        await context.Response.Body.WriteAsync(Certificate.Pdf(facts), cancel);
        return Results.Empty;
    }

    private static async Task<IResult> ErrorsAsync(
        Guid id,
        HttpContext context,
        Here here,
        ImportFiles files,
        CancellationToken cancel
    )
    {
        if (await files.FindAsync(id, here.Actor.Id, cancel) is not { } file)
            return Results.NotFound();
        var plan = await files.PlanAsync(file, here.Actor.Roles, cancel);
        if (!plan.Ok)
            return Results.NotFound();
        Name(context, "errors.csv", "text/csv; charset=utf-8");
        await ImportErrors.WriteAsync(context.Response.Body, plan.Value, cancel);
        return Results.Empty;
    }

    private static async Task<IResult> FileAsync(
        Guid id,
        bool small,
        FileStore files,
        HttpContext context,
        CancellationToken cancel
    )
    {
        if (await files.ReadAsync(id, small, cancel) is not { } file)
            return Results.NotFound();

        // What came as a picture was drawn anew and may be shown; anything else is only ever saved.
        context.Response.Headers.CacheControl = "private, max-age=31536000, immutable";
        return small || file.MediaType == "image/jpeg"
            ? Results.Bytes(file.Bytes, "image/jpeg")
            : Results.File(
                file.Bytes,
                file.MediaType,
                $"{string.Concat(file.Title.Where(c => char.IsLetterOrDigit(c) || c is ' ' or '-' or '_'))}.pdf"
            );
    }

    internal static void Name(HttpContext context, string name, string type)
    {
        context.Response.ContentType = type;
        context.Response.Headers.ContentDisposition = $"attachment; filename=\"{name}\"";
    }
}
