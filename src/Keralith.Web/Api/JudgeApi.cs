using System.Buffers;
using System.Threading.RateLimiting;
using Keralith.Core.Formats;
using Keralith.Core.Judgement;
using Keralith.Core.Lifts;
using Keralith.Data;
using Keralith.Web.Security;

namespace Keralith.Web.Api;

/// <summary>Every fault of what was sent, each with its JSON path.</summary>
public sealed record ApiErrors(IReadOnlyList<Fault> Errors);

/// <summary>The HTTP interface for programs, under <c>/api/v1</c>.</summary>
internal static class JudgeApi
{
    public const string Limiter = "api";

    /// <summary>Requests a minute one token may make.</summary>
    private const int MostAMinute = 1200;

    public static void Map(WebApplication app)
    {
        app.MapOpenApi("/api/{documentName}/openapi.json").AllowAnonymous();
        var api = app.MapGroup("/api/v1")
            .RequireAuthorization(p => p.AddAuthenticationSchemes(BearerTokens.Name).RequireAuthenticatedUser())
            .RequireRateLimiting(Limiter);
        PiecesApi.Map(api);
        api.MapPost("/judge", JudgeAsync)
            .WithName("judge")
            .WithSummary("Judges one case: what an inspection's answers come to by the rule books named in it.")
            .WithDescription(
                "The case is keralith.case/1, the verdict keralith.verdict/1: the same input, the same output. Nothing is recorded. Planning help for competent people: the maker's instructions, local code and a qualified person come first."
            );
        api.MapGet("/criteria", Criteria)
            .WithName("criteria")
            .WithSummary("Every criterion with its question, and what each answer means.")
            .WithDescription(
                "To a question that is seen or tried, yes means that the fault is there and no that it is not; unsure and not-accessible are never taken as fine."
            );
        api.MapPost("/lift", LiftAsync)
            .WithName("lift")
            .WithSummary(
                "Works out one arrangement: the pull of each leg, what is asked of each piece and what it may carry so."
            )
            .WithDescription(
                "The arrangement is keralith.lift/1 or /2, the answer keralith.lift-result/1 or /2: the same input, the same output. Nothing is recorded. Planning help for competent people: the maker's instructions, local code and a qualified person come first."
            );
    }

    public static void AddServices(IServiceCollection services)
    {
        services.AddOpenApi("v1", ApiDocument.Describe);
        services.AddRateLimiter(o =>
        {
            o.OnRejected = async (c, cancel) =>
            {
                c.HttpContext.Response.StatusCode = StatusCodes.Status429TooManyRequests;
                c.HttpContext.Response.Headers.RetryAfter = "60";
                await c.HttpContext.Response.WriteAsJsonAsync(
                    new ApiErrors([new("$", $"more than {MostAMinute} requests in a minute: wait a little")]),
                    cancel
                );
            };
            o.AddPolicy(Limiter, context =>
                RateLimitPartition.GetFixedWindowLimiter(
                    context.User.Actor()?.Id.ToString() ?? "nobody",
                    _ => new FixedWindowRateLimiterOptions
                    {
                        PermitLimit = MostAMinute,
                        Window = TimeSpan.FromMinutes(1),
                    }
                )
            );
        });
    }

    /// <summary>A criterion as programs read it.</summary>
    /// <param name="Yes">What the answer yes means; null where a figure answers.</param>
    /// <param name="No">What the answer no means; null where a figure answers.</param>
    private sealed record CriterionDocument(
        string Id,
        string Kind,
        string Title,
        string Question,
        string? Yes,
        string? No,
        string? Baseline,
        string Source
    );

    private static IEnumerable<CriterionDocument> Criteria() =>
        Core.Gear.Catalogue.All.Select(c => new CriterionDocument(
            c.Id,
            c.Kind.ToString().ToLowerInvariant(),
            c.Title,
            c.Question,
            c.IsAnswerChosen ? $"The fault is there: {c.Question}" : null,
            c.IsAnswerChosen ? "No fault." : null,
            c.BaselineName,
            c.Source.ToString()
        ));

    private static Task JudgeAsync(HttpContext context, CancellationToken cancel) =>
        AnswerAsync(
            context,
            CaseReader.Read,
            (c, output) =>
            {
                WorksMeter.Judgements.Add(1);
                VerdictWriter.Write(output, Judge.Of(c));
            },
            cancel
        );

    private static Task LiftAsync(HttpContext context, CancellationToken cancel) =>
        AnswerAsync(context, LiftReader.Read, (l, output) => LiftWriter.Write(output, LiftJudge.Of(l)), cancel);

    private static async Task AnswerAsync<T>(
        HttpContext context,
        Func<ReadOnlyMemory<byte>, ReadResult<T>> read,
        Action<T, IBufferWriter<byte>> write,
        CancellationToken cancel
    )
        where T : class
    {
        if (await ApiBody.ReadAsync(context, cancel) is not { } body)
            return;
        var result = read(body);
        if (result.Value is not { } document)
        {
            await ApiBody.RefuseAsync(context, StatusCodes.Status422UnprocessableEntity, result.Faults);
            return;
        }

        var answer = new ArrayBufferWriter<byte>(4096);
        write(document, answer);
        context.Response.ContentType = "application/json; charset=utf-8";
        await context.Response.BodyWriter.WriteAsync(answer.WrittenMemory, cancel);
    }
}
