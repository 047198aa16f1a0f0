using Microsoft.AspNetCore.Mvc.Filters;
using Npgsql;

namespace Keralith.Web.Security;

/// <summary>
/// A database that does not answer is not a fault of the page: the person is told so, and that nothing was lost.
/// </summary>
internal sealed class DatabaseAwayFilter : IAsyncExceptionFilter
{
    public Task OnExceptionAsync(ExceptionContext context)
    {
        if (IsAway(context.Exception))
        {
            context.HttpContext.Response.Headers.RetryAfter = "5";
            context.Result = new Microsoft.AspNetCore.Mvc.StatusCodeResult(StatusCodes.Status503ServiceUnavailable);
            context.ExceptionHandled = true;
        }

        return Task.CompletedTask;
    }

    /// <summary>Whether an exception says that the database can't be reached just now.</summary>
    public static bool IsAway(Exception? exception) =>
        exception is NpgsqlException { IsTransient: true } or TimeoutException
        || (exception is PostgresException { SqlState: "57P01" or "57P02" or "57P03" or "53300" or "55000" })
        || (exception?.InnerException is { } inner && IsAway(inner));
}
