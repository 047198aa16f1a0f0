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
            if (IsFull(context.Exception))
                context.HttpContext.Items[TextGate.Item] =
                    "The database's disk is full: nothing can be written until somebody makes room there, and then it goes on by itself.";
            context.Result = new Microsoft.AspNetCore.Mvc.StatusCodeResult(StatusCodes.Status503ServiceUnavailable);
            context.ExceptionHandled = true;
        }

        return Task.CompletedTask;
    }

    /// <summary>The server only follows another one: which leads now is asked anew.</summary>
    private const string OnlyFollows = "25006";

    private const string DiskFull = "53100";

    /// <summary>Given up at the server: nothing of it stands. A cancellation may come late and meet what is asked next.</summary>
    private const string Cancelled = "57014";

    /// <summary>Whether an exception says that the database has no room.</summary>
    private static bool IsFull(Exception? exception) =>
        exception is PostgresException { SqlState: DiskFull }
        || (exception?.InnerException is { } inner && IsFull(inner));

    /// <summary>Whether an exception comes of the database: it can't be reached, or is not as this program knows it.</summary>
    public static bool IsOfDatabase(Exception exception) => exception is NpgsqlException || IsAway(exception);

    /// <summary>Whether an exception says that the database can't be reached just now.</summary>
    public static bool IsAway(Exception? exception) =>
        exception
            is (NpgsqlException and not PostgresException)
                or NpgsqlException { IsTransient: true }
                or TimeoutException
        || (
            exception is PostgresException
            {
                SqlState: "57P01" or "57P02" or "57P03" or "53300" or "55000" or Cancelled or OnlyFollows or DiskFull
            }
        )
        || (exception?.InnerException is { } inner && IsAway(inner));
}
