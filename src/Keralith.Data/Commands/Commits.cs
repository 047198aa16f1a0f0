using Npgsql;

namespace Keralith.Data;

/// <summary>The end of a transaction whose outcome somebody is told.</summary>
internal static class Commits
{
    /// <summary>
    /// Commits so that what is acknowledged stands wherever the server was told to keep it. Where a follower that must have it
    /// does not answer within a question's time, the server ends its wait with a warning, and what was written stands on it
    /// alone: that is no acknowledgement. Whoever leaves meanwhile does not cut it off.
    /// </summary>
    /// <exception cref="TimeoutException">It is recorded, on one server alone as yet; sent again, it is acknowledged once it is not.</exception>
    public static async Task CommitDurablyAsync(this NpgsqlTransaction transaction)
    {
        var connection = transaction.Connection!;
        var stands = true;
        connection.Notice += Hear;
        try
        {
            await transaction.CommitAsync(CancellationToken.None).ConfigureAwait(false);
        }
        finally
        {
            connection.Notice -= Hear;
        }

        if (!stands)
            throw new TimeoutException("No other server confirmed what was recorded.");

        void Hear(object sender, NpgsqlNoticeEventArgs heard) => stands &= heard.Notice.InvariantSeverity != "WARNING";
    }
}
