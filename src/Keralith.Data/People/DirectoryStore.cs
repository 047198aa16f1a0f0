using Keralith.Core.Ledger;
using Keralith.Core.People;

namespace Keralith.Data;

/// <summary>People whom the works' own directory signs in: entered the first time, brought up to it with every sign-in.</summary>
public sealed class DirectoryStore(Database database)
{
    /// <summary>Somebody whom the works' own directory signed in: entered the first time, brought up to it later.</summary>
    /// <param name="subject">The name the directory gives them, which never changes.</param>
    public async Task<Checked<Actor>> OfDirectoryAsync(
        string subject,
        NewPerson person,
        DateTimeOffset now,
        CancellationToken cancel
    )
    {
        var done = await Session
            .RunAsync(
                database,
                new Stamp(JudgeAgain.Itself, now, Guid.CreateVersion7()),
                async session =>
                {
                    var known = await AccountStore
                        .LockAsync(session, "directory_subject = $1", subject)
                        .ConfigureAwait(false);
                    var taken = await session
                        .ReadAsync("select 1 from person where username = $1", r => r.GetInt32(0), person.Username)
                        .ConfigureAwait(false);
                    if (Accounts.RefusalOfDirectory(known?.Standing, taken.Count > 0) is { } refusal)
                        return refusal;
                    return known is null
                        ? await EnterAsync(session, subject, person).ConfigureAwait(false)
                        : await BringUpAsync(session, known, person).ConfigureAwait(false);
                },
                cancel
            )
            .ConfigureAwait(false);
        if (!done.Ok)
            return done.Refusal!;
        var found = await database
            .Command(
                "select id, username, name, roles from person where directory_subject = $1 and disabled_at is null"
            )
            .Positional(subject)
            .FirstAsync(Actor.From, cancel)
            .ConfigureAwait(false);
        return found is null ? Accounts.NotByDirectory : found;
    }

    private static async Task<Refusal?> EnterAsync(Session session, string subject, NewPerson person)
    {
        var id = Guid.CreateVersion7();
        if (await AccountStore.InsertAsync(session, id, person, string.Empty).ConfigureAwait(false) == 0)
            return Accounts.RefusalOfDirectory(null, isTaken: true);
        await session
            .WriteAsync("update person set directory_subject = $2 where id = $1", id, subject)
            .ConfigureAwait(false);
        await session
            .LedgerAsync(new PersonInvited(person.Name, person.Roles.Codes), person.Username)
            .ConfigureAwait(false);
        return null;
    }

    private static async Task<Refusal?> BringUpAsync(Session session, AccountStore.LockedPerson known, NewPerson person)
    {
        var roles = Accounts.RolesByDirectory(known.Standing, person.Roles);
        var changed = await session
            .WriteAsync(
                """
                update person set name = $2, roles = $3, mail = $4
                where id = $1 and (name, roles, mail) is distinct from ($2, $3::text[], $4)
                """,
                known.Id,
                person.Name,
                roles.Codes,
                person.Mail
            )
            .ConfigureAwait(false);
        if (changed > 0)
            await session
                .LedgerAsync(
                    new PersonChanged(known.Name, person.Name, known.Standing.Roles.Codes, roles.Codes),
                    known.Standing.Username
                )
                .ConfigureAwait(false);
        return null;
    }
}
