using Keralith.Core.Ledger;
using Keralith.Core.People;
using Keralith.Core.Sites;
using Npgsql;

namespace Keralith.Data;

/// <summary>A works that begins: the address to set it up by, and setting it up.</summary>
public sealed class SetUpStore(Database database)
{
    /// <summary>Whether the works is set up: it has a site, and somebody who administers and can sign in.</summary>
    public async Task<bool> IsDoneAsync(CancellationToken cancel) =>
        await database.AskAsync(IsDone, cancel).ConfigureAwait(false);

    /// <summary>Makes an address to set the works up by; those made before go on until they run out.</summary>
    /// <returns>Its secret; null when the works is set up already.</returns>
    public async Task<string?> LinkAsync(DateTimeOffset now, CancellationToken cancel)
    {
        if (await IsDoneAsync(cancel).ConfigureAwait(false))
            return null;
        var secret = AccountStore.NewSecret();
        await database
            .Command("insert into one_time_link (hash, purpose, made_at, expires_at) values ($1, 'set-up', $2, $3)")
            .Positional(AccountStore.Hash(secret), now, now + Accounts.SetUpLasts)
            .RunAsync(cancel)
            .ConfigureAwait(false);
        return secret;
    }

    /// <summary>Why an address sets nothing up; null when it does.</summary>
    public async Task<Refusal?> RefusalOfAsync(string? secret, DateTimeOffset now, CancellationToken cancel)
    {
        var trip = new Trip();
        var (done, link) = (IsDone(trip), AccountStore.Link(trip, secret));
        await database.MakeAsync(trip, cancel).ConfigureAwait(false);
        return SetUp.RefusalOf(done.Value, ForSetUp(link.Value), now);
    }

    /// <summary>
    /// Sets the works up. Two people who do so at once are one after the other, and the second is told so.
    /// </summary>
    /// <param name="secret">The secret of the address it is set up by.</param>
    /// <returns>The administrator.</returns>
    public async Task<Checked<Actor>> SetUpAsync(
        NewWorks works,
        string passwordHash,
        string? secret,
        DateTimeOffset now,
        CancellationToken cancel
    )
    {
        var admin = new Actor(
            Guid.CreateVersion7(),
            works.Administrator.Username,
            works.Administrator.Name,
            works.Administrator.Roles
        );
        var done = await Session
            .RunAloneAsync(
                database,
                new Stamp(JudgeAgain.Itself, now, Guid.CreateVersion7()),
                async session =>
                {
                    var trip = new Trip();
                    var (isDone, link) = (IsDone(trip), AccountStore.Link(trip, secret));
                    await session.AskAsync(trip).ConfigureAwait(false);
                    if (SetUp.RefusalOf(isDone.Value, ForSetUp(link.Value), now) is { } refusal)
                        return refusal;
                    await SiteStore
                        .InsertAsync(
                            session.Command,
                            new(works.Name, works.Books, Core.Judgement.Judge.DefaultWatchShare, 30, false, false)
                            {
                                Zone = works.Zone,
                                Unit = works.Unit,
                            },
                            [new(works.Store, string.Empty, StoreKind.Rack, OftenOffline: false)],
                            cancel
                        )
                        .ConfigureAwait(false);
                    await AccountStore
                        .InsertAsync(session, admin.Id, works.Administrator, passwordHash)
                        .ConfigureAwait(false);
                    await session
                        .WriteAsync(
                            "update one_time_link set used_at = $1 where purpose = 'set-up' and used_at is null",
                            now
                        )
                        .ConfigureAwait(false);
                    await session
                        .LedgerAsync(
                            new WorksSetUp(
                                works.Name,
                                works.Unit,
                                works.Store,
                                [.. works.Books.Select(b => b.Id)],
                                works.Zone.Id,
                                admin.Username
                            ),
                            "site"
                        )
                        .ConfigureAwait(false);

                    // What a migration laid out: from the first entry on the ledger tells the whole record.
                    await RecordSeal.TellAsync(session).ConfigureAwait(false);
                    return null;
                },
                cancel
            )
            .ConfigureAwait(false);
        return done.Ok ? admin : done.Refusal!;
    }

    private static OneTimeLink? ForSetUp(AccountStore.MadeLink? link) =>
        link is { Purpose: LinkPurpose.SetUp } ? link.Link : null;

    private static Asked<bool> IsDone(Trip trip) =>
        trip.Ask(
            new NpgsqlBatchCommand(
                """
                select exists (select from site)
                  and exists (select from person where 'admin' = any(roles) and disabled_at is null
                    and (password_hash <> '' or directory_subject is not null))
                """
            ),
            r => r.GetBoolean(0),
            rows => rows[0]
        );
}
