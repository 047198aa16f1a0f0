namespace Keralith.Data;

/// <summary>A mail to be delivered.</summary>
/// <param name="Id">The same id twice is one mail.</param>
/// <param name="Username">Whom it is to, by sign-in name.</param>
/// <param name="Address">Where it goes.</param>
public sealed record Mail(Guid Id, string Username, string Name, string Address, string Subject, string Body);

/// <summary>Mails on their way: kept until they are delivered, tried again when they could not be.</summary>
public sealed class MailStore(Database database)
{
    /// <summary>How often a mail is tried before it is given up; the last try is some three days after the first.</summary>
    public const int MostTries = 12;

    /// <summary>Keeps a mail to be delivered; the same id twice is one.</summary>
    public Task AddAsync(Mail mail, CancellationToken cancel) =>
        database
            .Command(
                "insert into mail (id, username, name, address, subject, body) values ($1, $2, $3, $4, $5, $6) on conflict do nothing"
            )
            .Positional(mail.Id, mail.Username, mail.Name, mail.Address, mail.Subject, mail.Body)
            .RunAsync(cancel);

    /// <summary>How many wait, and how many were given up.</summary>
    public async Task<(int Waiting, int GivenUp)> CountAsync(CancellationToken cancel) =>
        (
            await database
                .Command(
                    $"select (count(*) filter (where tries < {MostTries}))::int, (count(*) filter (where tries >= {MostTries}))::int from mail where sent_at is null"
                )
                .ListAsync(r => (r.GetInt32(0), r.GetInt32(1)), cancel)
                .ConfigureAwait(false)
        )[0];

    /// <summary>
    /// Delivers what waits, one after the other. A mail that can't be delivered is tried again later, each time after
    /// twice as long.
    /// </summary>
    /// <param name="deliver">Delivers one; throws where it can't.</param>
    /// <returns>How many were delivered, and how many could not be.</returns>
    public async Task<(int Sent, int Failed)> DeliverAsync(
        Func<Mail, CancellationToken, Task> deliver,
        CancellationToken cancel
    )
    {
        var waiting = await database
            .Command(
                $"""
                select id, username, name, address, subject, body from mail
                where sent_at is null and tries < {MostTries} and next_try <= clock_timestamp()
                order by made_at limit 200
                """
            )
            .ListAsync(
                r => new Mail(
                    r.GetGuid(0),
                    r.GetString(1),
                    r.GetString(2),
                    r.GetString(3),
                    r.GetString(4),
                    r.GetString(5)
                ),
                cancel
            )
            .ConfigureAwait(false);
        var (sent, failed) = (0, 0);
        foreach (var mail in waiting)
        {
            try
            {
                await deliver(mail, cancel).ConfigureAwait(false);
                await database
                    .Command("update mail set sent_at = clock_timestamp(), tries = tries + 1 where id = $1")
                    .Positional(mail.Id)
                    .RunAsync(cancel)
                    .ConfigureAwait(false);
                sent++;
            }
            catch (Exception e) when (e is not OperationCanceledException)
            {
                // Whatever a mail server makes of it: kept, told, tried again.
                await database
                    .Command(
                        """
                        update mail set tries = tries + 1, last_fault = $2,
                          next_try = clock_timestamp() + least(interval '12 hours', interval '1 minute' * power(2, tries + 1))
                        where id = $1
                        """
                    )
                    .Positional(mail.Id, e.Message)
                    .RunAsync(cancel)
                    .ConfigureAwait(false);
                failed++;
            }
        }

        return (sent, failed);
    }
}
