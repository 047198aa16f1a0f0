using System.Text.Json;
using Keralith.Core.Formats;
using Keralith.Core.Judgement;
using Keralith.Core.People;
using Keralith.Core.Register;
using Keralith.Core.Sites;
using Keralith.Data;
using Keralith.Data.Exchange;
using Keralith.Web.Security;

namespace Keralith.Web.Api;

/// <summary>The register for programs: list, read, create, update.</summary>
internal static class PiecesApi
{
    private const int MostAPage = 200;

    public static void Map(RouteGroupBuilder api)
    {
        api.MapGet("/pieces", ListAsync)
            .WithName("listPieces")
            .WithSummary("Pieces of the register, by mark.")
            .WithDescription(
                "q: fragments, each written somewhere on the piece. after: the last mark of the page before. most: up to 200, 50 unless stated."
            );
        api.MapGet("/pieces/{mark}", ReadAsync)
            .WithName("readPiece")
            .WithSummary("One piece, with its state, due dates and whether it may be used.");
        api.MapPost("/pieces", CreateAsync)
            .WithName("createPiece")
            .WithSummary("Registers a piece: new, to be inspected before first use.")
            .WithDescription("An Idempotency-Key header (a UUID) makes the same request sent twice one record.");
        api.MapPut("/pieces/{mark}", UpdateAsync)
            .WithName("updatePiece")
            .WithSummary("Changes what is entered of a piece. The document names the version it was made on.");
    }

    private static async Task ListAsync(HttpContext context, CancellationToken cancel)
    {
        var (pieces, sites, stores) = await StoresAsync(context, cancel);
        var query = context.Request.Query;
        var most = int.TryParse(query["most"], out var asked) ? Math.Clamp(asked, 1, MostAPage) : 50;
        var q = FreeText.Start(query["q"].ToString(), FreeText.MostAsked);
        var rows = await context
            .RequestServices.GetRequiredService<RegisterSearch>()
            .AfterAsync(q, query["after"].ToString() is { Length: > 0 and <= 60 } after ? after : null, most, cancel);
        await using var json = Json(context);
        json.WriteStartObject();
        json.WriteStartArray("pieces");
        var figures = await pieces.FiguresAsync(rows.Select(r => r.Id), cancel);
        foreach (var row in rows)
            Write(json, row, figures[row.Id], stores, sites, context);
        json.WriteEndArray();
        if (rows.Count == most)
            json.WriteString("next", rows[^1].Mark);
        json.WriteEndObject();
    }

    private static async Task ReadAsync(HttpContext context, CancellationToken cancel)
    {
        if (await FindAsync(context, cancel) is { } row)
            await AnswerAsync(context, row, StatusCodes.Status200OK, cancel);
    }

    private static async Task CreateAsync(HttpContext context, CancellationToken cancel)
    {
        if (!await MayAsync(context))
            return;
        if (await ApiBody.ReadAsync(context, cancel) is not { } body)
            return;
        var (pieces, _, stores) = await StoresAsync(context, cancel);
        var (read, version) = PieceDocument.Read(body, stores);
        if (version is not null)
            read = new(null, [.. read.Faults, new("$.version", "a new piece has no version yet")]);
        if (read.Value is not { } entry)
        {
            await ApiBody.RefuseAsync(context, StatusCodes.Status422UnprocessableEntity, read.Faults);
            return;
        }

        var stamp = Stamp(context);
        var result = await pieces.RegisterAsync(entry, stamp.Submission, stamp, cancel);
        if (!result.Ok)
            await ApiBody.RefuseAsync(context, StatusCodes.Status422UnprocessableEntity, [new("$", result.Fault!)]);
        else
            await AnswerAsync(
                context,
                (await pieces.FindAsync(entry.Mark.Text, cancel))!,
                StatusCodes.Status201Created,
                cancel
            );
    }

    private static async Task UpdateAsync(HttpContext context, CancellationToken cancel)
    {
        if (!await MayAsync(context) || await FindAsync(context, cancel) is not { } row)
            return;
        if (await ApiBody.ReadAsync(context, cancel) is not { } body)
            return;
        var (pieces, _, stores) = await StoresAsync(context, cancel);
        var (read, version) = PieceDocument.Read(body, stores);
        if (version is null)
            read = new(
                null,
                [.. read.Faults, new("$.version", "missing, expected the version the change was made on")]
            );
        if (read.Value is not { } entry)
        {
            await ApiBody.RefuseAsync(context, StatusCodes.Status422UnprocessableEntity, read.Faults);
            return;
        }

        var asked = context.Request.Query;
        if (asked["file"].ToString() is { Length: > 0 } named && !Guid.TryParse(named, out _))
        {
            await ApiBody.RefuseAsync(
                context,
                StatusCodes.Status422UnprocessableEntity,
                [new("?file", "no such paper")]
            );
            return;
        }

        var grounds = new Grounds(asked["why"], Guid.TryParse(asked["file"], out var paper) ? paper : null);
        var result = await pieces.EditAsync(row.Id, version!.Value, entry, grounds, Stamp(context), cancel);
        if (result.Ok)
            await AnswerAsync(context, (await pieces.GetAsync(row.Id, cancel))!, StatusCodes.Status200OK, cancel);
        else
            await ApiBody.RefuseAsync(
                context,
                result.Refusal!.Kind == RefusalKind.Forbidden ? StatusCodes.Status403Forbidden
                    : row.Version != version ? StatusCodes.Status409Conflict
                    : StatusCodes.Status422UnprocessableEntity,
                [new("$", result.Fault!)]
            );
    }

    private static async Task<bool> MayAsync(HttpContext context)
    {
        if (context.User.Actor()!.Roles.May(Right.Register))
            return true;
        await ApiBody.RefuseAsync(
            context,
            StatusCodes.Status403Forbidden,
            [new("$", "this token's person may read the register, not change it")]
        );
        return false;
    }

    private static async Task<Piece?> FindAsync(HttpContext context, CancellationToken cancel)
    {
        var mark = (string)context.Request.RouteValues["mark"]!;
        var row = await context.RequestServices.GetRequiredService<PieceStore>().FindAsync(mark, cancel);
        if (string.Equals(row?.Mark, mark.Trim(), StringComparison.OrdinalIgnoreCase))
            return row;
        await ApiBody.RefuseAsync(context, StatusCodes.Status404NotFound, [new("$", "there is no piece of this mark")]);
        return null;
    }

    private static async Task AnswerAsync(HttpContext context, Piece row, int status, CancellationToken cancel)
    {
        var (pieces, sites, stores) = await StoresAsync(context, cancel);
        var baselines = (await pieces.BaselinesAsync(row.Id, cancel)).ToDictionary(b => b.Key, b => b.Value.Figure);
        context.Response.StatusCode = status;
        if (status == StatusCodes.Status201Created)
            context.Response.Headers.Location = $"/api/v1/pieces/{row.Mark}";
        await using var json = Json(context);
        Write(json, row, baselines, stores, sites, context);
    }

    private static void Write(
        Utf8JsonWriter json,
        Piece row,
        IReadOnlyDictionary<BaselineKey, BaselineFigure> baselines,
        StoreNames stores,
        SiteSet sites,
        HttpContext context
    ) => PieceDocument.Write(json, row.Entry(baselines), stores, standing =>
        {
            var use = row.UseAt(context.RequestServices.GetRequiredService<Here>().Now, sites);
            standing.WriteString("state", Code.Of(row.State));
            if (row.Verdict is { } verdict)
                standing.WriteString("verdict", Code.Of(verdict));
            standing.WriteBoolean("mayBeUsed", use.MayBeUsed);
            standing.WriteStartArray("reasons");
            foreach (var reason in use.Reasons)
                standing.WriteStringValue(reason);
            standing.WriteEndArray();
            if (row.PeriodicDue is { } periodic)
                standing.WriteString("periodicDue", periodic.ToString("yyyy-MM-dd"));
            if (row.FrequentDue is { } frequent)
                standing.WriteString("frequentDue", frequent.ToString("yyyy-MM-dd"));
            standing.WriteNumber("version", row.Version);
        });

    private static async Task<(PieceStore Pieces, SiteSet Sites, StoreNames Stores)> StoresAsync(
        HttpContext context,
        CancellationToken cancel
    )
    {
        var sites = context.RequestServices.GetRequiredService<SiteStore>();
        return (
            context.RequestServices.GetRequiredService<PieceStore>(),
            await context.RequestServices.GetRequiredService<Here>().SitesAsync(cancel),
            await RegisterExport.StoresAsync(sites, cancel)
        );
    }

    private static Stamp Stamp(HttpContext context) =>
        context
            .RequestServices.GetRequiredService<Here>()
            .Stamp(
                context.Request.Headers["Idempotency-Key"].ToString() is { Length: > 0 } key
                    ? Sent.IdOf(key, context.User.Actor()!.Username)
                    : Guid.CreateVersion7()
            );

    private static Utf8JsonWriter Json(HttpContext context)
    {
        context.Response.ContentType = "application/json; charset=utf-8";
        return new(context.Response.BodyWriter);
    }
}
