using System.Buffers.Text;
using System.Security.Cryptography;
using System.Text;
using Keralith.Core.Ledger;
using Keralith.Core.People;
using Npgsql;

namespace Keralith.Data;

/// <summary>What an address that works once is for.</summary>
public enum LinkPurpose
{
    /// <summary>To set the works up.</summary>
    [Code("set-up")]
    SetUp,

    /// <summary>To choose a first password.</summary>
    [Code("invitation")]
    Invitation,

    /// <summary>To choose another password.</summary>
    [Code("reset")]
    Reset,
}

/// <summary>Who may sign in: invited, changed, disabled, and the addresses by which they choose their passwords.</summary>
public sealed class AccountStore(Database database)
{
    private const int SecretBytes = 32;

    /// <summary>Everybody who was ever invited, the program itself left out.</summary>
    public Task<List<PersonRow>> AllAsync(DateTimeOffset now, CancellationToken cancel) =>
        database
            .Command(
                $"select {PersonRow.Columns} from person p where p.username <> '{Accounts.Itself}' order by p.disabled_at is not null, p.name"
            )
            .Positional(now - SignInStore.Longest, now - SignInStore.Idle)
            .ListAsync(PersonRow.From, cancel);

    /// <summary>A person by their sign-in name; null when there is none.</summary>
    public Task<PersonRow?> FindAsync(string username, DateTimeOffset now, CancellationToken cancel) =>
        database
            .Command(
                $"select {PersonRow.Columns} from person p where p.username = $3 and p.username <> '{Accounts.Itself}'"
            )
            .Positional(now - SignInStore.Longest, now - SignInStore.Idle, username)
            .FirstAsync(PersonRow.From, cancel);

    /// <summary>A new secret for an address that works once: nobody has it yet and nothing is kept.</summary>
    public static string NewSecret() => Base64Url.EncodeToString(RandomNumberGenerator.GetBytes(SecretBytes));

    /// <summary>Invites somebody.</summary>
    /// <param name="secret">The secret of the address by which they choose a password.</param>
    public Task<Checked<Recorded>> InviteAsync(
        NewPerson person,
        string secret,
        Stamp stamp,
        CancellationToken cancel
    ) =>
        Session.RunAsync(
            database,
            stamp,
            async session =>
            {
                var taken = await session
                    .ReadAsync("select 1 from person where username = $1", r => r.GetInt32(0), person.Username)
                    .ConfigureAwait(false);
                if (Accounts.RefusalToInvite(person, taken.Count > 0, session.By) is { } refusal)
                    return refusal;
                var id = Guid.CreateVersion7();
                var written = await InsertAsync(session, id, person, string.Empty).ConfigureAwait(false);
                if (written == 0)
                    return Accounts.RefusalToInvite(person, isTaken: true, session.By);
                await LinkAsync(session, LinkPurpose.Invitation, id, secret, Accounts.InvitationLasts)
                    .ConfigureAwait(false);
                await session
                    .LedgerAsync(new PersonInvited(person.Name, person.Roles.Codes), person.Username)
                    .ConfigureAwait(false);
                return null;
            },
            cancel
        );

    /// <summary>Changes a person's name, roles and address; it counts on their next request.</summary>
    public Task<Checked<Recorded>> ChangeAsync(
        string username,
        string name,
        Roles roles,
        string mail,
        Stamp stamp,
        CancellationToken cancel
    ) =>
        OnPersonAsync(
            username,
            (whom, by) => Accounts.RefusalToChange(whom, roles, by),
            async (session, whom) =>
            {
                await session
                    .WriteAsync(
                        "update person set name = $2, roles = $3, mail = $4 where id = $1",
                        whom.Id,
                        name,
                        roles.Codes,
                        mail
                    )
                    .ConfigureAwait(false);
                return new PersonChanged(whom.Name, name, whom.Standing.Roles.Codes, roles.Codes);
            },
            stamp,
            cancel
        );

    /// <summary>Disables a person: their sign-ins, programs and feeds end at once. Records go on naming them.</summary>
    public Task<Checked<Recorded>> DisableAsync(string username, Stamp stamp, CancellationToken cancel) =>
        OnPersonAsync(
            username,
            Accounts.RefusalToDisable,
            async (session, whom) =>
            {
                await session
                    .WriteAsync("update person set disabled_at = $2 where id = $1", whom.Id, session.Stamp.At)
                    .ConfigureAwait(false);
                return new PersonDisabled(true);
            },
            stamp,
            cancel
        );

    /// <summary>Lets a disabled person sign in again.</summary>
    public Task<Checked<Recorded>> EnableAsync(string username, Stamp stamp, CancellationToken cancel) =>
        OnPersonAsync(
            username,
            Accounts.RefusalToEnable,
            async (session, whom) =>
            {
                await session
                    .WriteAsync("update person set disabled_at = null where id = $1", whom.Id)
                    .ConfigureAwait(false);
                return new PersonDisabled(false);
            },
            stamp,
            cancel
        );

    /// <summary>Makes an address by which a person chooses another password, or their first; earlier ones end.</summary>
    /// <param name="secret">Its secret.</param>
    public Task<Checked<Recorded>> ResetAsync(string username, string secret, Stamp stamp, CancellationToken cancel) =>
        OnPersonAsync(
            username,
            Accounts.RefusalToReset,
            async (session, whom) =>
            {
                var (purpose, lasts) = whom.IsInvited
                    ? (LinkPurpose.Invitation, Accounts.InvitationLasts)
                    : (LinkPurpose.Reset, Accounts.ResetLasts);
                var until = await LinkAsync(session, purpose, whom.Id, secret, lasts).ConfigureAwait(false);
                return new PersonLinkMade(Code.Of(purpose), until);
            },
            stamp,
            cancel
        );

    /// <summary>Ends all sign-ins of a person.</summary>
    public Task<Checked<Recorded>> EndSignInsAsync(string username, Stamp stamp, CancellationToken cancel) =>
        OnPersonAsync(
            username,
            Accounts.RefusalToReset,
            async (session, whom) => new SignInsEnded(await EndAllAsync(session, whom.Id, null).ConfigureAwait(false)),
            stamp,
            cancel
        );

    /// <summary>Takes a person's second factor off: phone and paper are lost.</summary>
    public Task<Checked<Recorded>> DropFactorAsync(string username, Stamp stamp, CancellationToken cancel) =>
        OnPersonAsync(
            username,
            Accounts.RefusalToReset,
            async (session, whom) =>
            {
                await FactorStore.WriteAsync(session, whom.Id, null, null, []).ConfigureAwait(false);
                return new SecondFactorSet(false);
            },
            stamp,
            cancel
        );

    /// <summary>Who an address to choose a password belongs to, and what it is for; the refusal where it works no more.</summary>
    public async Task<Checked<(Actor Person, LinkPurpose Purpose)>> OfLinkAsync(
        string? secret,
        DateTimeOffset now,
        CancellationToken cancel
    )
    {
        var found = await database.AskAsync(t => Link(t, secret), cancel).ConfigureAwait(false);
        if (Accounts.RefusalOfLink(found?.Link, now) is { } refusal)
            return refusal;
        return found!.Person is { } person ? (person, found.Purpose) : Accounts.RefusalOfLink(null, now)!;
    }

    /// <summary>Chooses a password by an address that works once; it is used up, and all sign-ins end.</summary>
    public async Task<Checked<Actor>> ChooseAsync(
        string? secret,
        string passwordHash,
        DateTimeOffset now,
        CancellationToken cancel
    )
    {
        var whose = await OfLinkAsync(secret, now, cancel).ConfigureAwait(false);
        if (!whose.Ok)
            return whose.Refusal!;
        var (person, purpose) = whose.Value;
        var done = await Session
            .RunAsync(
                database,
                new Stamp(person, now, Guid.CreateVersion7()) { ByDatabase = false },
                async session =>
                {
                    var used = await session
                        .WriteAsync(
                            "update one_time_link set used_at = $2 where hash = $1 and used_at is null and expires_at > $2",
                            Hash(secret!),
                            now
                        )
                        .ConfigureAwait(false);
                    if (used == 0)
                        return Accounts.RefusalOfLink(new(now.AddDays(1), now), now);
                    await session
                        .WriteAsync("update person set password_hash = $2 where id = $1", person.Id, passwordHash)
                        .ConfigureAwait(false);
                    await session
                        .LedgerAsync(new PasswordChosen(Code.Of(purpose)), person.Username)
                        .ConfigureAwait(false);
                    return null;
                },
                cancel
            )
            .ConfigureAwait(false);
        return done.Ok ? person : done.Refusal!;
    }

    /// <summary>Changes one's own password; every other sign-in ends.</summary>
    /// <param name="keep">The sign-in that goes on.</param>
    public Task<Checked<Recorded>> ChangeOwnAsync(
        string passwordHash,
        string keep,
        Stamp stamp,
        CancellationToken cancel
    ) =>
        Session.RunAsync(
            database,
            stamp,
            async session =>
            {
                await session
                    .WriteAsync("update person set password_hash = $2 where id = $1", stamp.Actor.Id, passwordHash)
                    .ConfigureAwait(false);
                await session
                    .WriteAsync(
                        "update sign_in set ended_at = null where hash = $1 and person_id = $2",
                        SignInStore.Hash(keep),
                        stamp.Actor.Id
                    )
                    .ConfigureAwait(false);
                await session.LedgerAsync(new PasswordChosen("self"), stamp.Actor.Username).ConfigureAwait(false);
                return null;
            },
            cancel
        );

    internal static Task<int> InsertAsync(Session session, Guid id, NewPerson person, string passwordHash) =>
        session.WriteAsync(
            """
            insert into person (id, username, name, roles, mail, password_hash, added_at) values ($1, $2, $3, $4, $5, $6, $7)
            on conflict (username) do nothing
            """,
            id,
            person.Username,
            person.Name,
            person.Roles.Codes,
            person.Mail,
            passwordHash,
            session.Stamp.At
        );

    /// <summary>An address that works once, as it was made; null when there is none of that secret.</summary>
    internal static Asked<MadeLink?> Link(Trip trip, string? secret) =>
        trip.Ask(
            new NpgsqlBatchCommand(
                """
                select l.purpose, l.expires_at, l.used_at, p.id, p.username, p.name, p.roles
                from one_time_link l left join person p on p.id = l.person_id and p.disabled_at is null
                where l.hash = $1
                """
            ).Positional(Hash(secret ?? string.Empty)),
            r => new MadeLink(
                Code.Parse<LinkPurpose>(r.Get<string>("purpose")),
                new(r.Get<DateTimeOffset>("expires_at"), r.ValueOrNull<DateTimeOffset>("used_at")),
                r.IsDBNull(r.GetOrdinal("id")) ? null : Actor.From(r)
            ),
            rows => rows.FirstOrDefault()
        );

    /// <summary>Hashes a secret as it is kept.</summary>
    internal static byte[] Hash(string secret) => SHA256.HashData(Encoding.UTF8.GetBytes(secret));

    private static async Task<DateTimeOffset> LinkAsync(
        Session session,
        LinkPurpose purpose,
        Guid person,
        string secret,
        TimeSpan lasts
    )
    {
        var until = session.Stamp.At + lasts;
        await session
            .WriteAsync(
                "update one_time_link set used_at = $2 where person_id = $1 and used_at is null",
                person,
                session.Stamp.At
            )
            .ConfigureAwait(false);
        await session
            .WriteAsync(
                "insert into one_time_link (hash, purpose, person_id, made_at, expires_at) values ($1, $2, $3, $4, $5)",
                Hash(secret),
                Code.Of(purpose),
                person,
                session.Stamp.At,
                until
            )
            .ConfigureAwait(false);
        return until;
    }

    /// <summary>Ends a person's sign-ins, but for one.</summary>
    private static Task<int> EndAllAsync(Session session, Guid person, byte[]? but) =>
        session.WriteAsync(
            "update sign_in set ended_at = clock_timestamp() where person_id = $1 and ended_at is null and hash is distinct from $2::bytea",
            person,
            but
        );

    /// <summary>One act on a person, with nobody else acting on people meanwhile: who is the last is known for sure.</summary>
    private Task<Checked<Recorded>> OnPersonAsync(
        string username,
        Func<PersonStanding?, Signer, Refusal?> ask,
        Func<Session, LockedPerson, Task<LedgerRecord>> act,
        Stamp stamp,
        CancellationToken cancel,
        [System.Runtime.CompilerServices.CallerMemberName] string name = ""
    ) =>
        Session.RunAsync(
            database,
            stamp,
            async session =>
            {
                var whom = await LockAsync(session, "username = $1", username).ConfigureAwait(false);
                if (ask(whom?.Standing, session.By) is { } refusal)
                    return refusal;
                var record = await act(session, whom!).ConfigureAwait(false);
                await session.LedgerAsync(record, username).ConfigureAwait(false);
                return null;
            },
            cancel,
            act: name
        );

    /// <summary>A person, locked with everybody who administers; null when there is none.</summary>
    /// <param name="which">A condition on $1.</param>
    internal static async Task<LockedPerson?> LockAsync(Session session, string which, string value)
    {
        await session
            .ReadAsync(
                $"select 1 from person where 'admin' = any(roles) or {which} order by id for update",
                r => r.GetInt32(0),
                value
            )
            .ConfigureAwait(false);
        var found = await session
            .ReadAsync(
                $"""
                select id, username, name, roles, disabled_at is not null as disabled,
                  password_hash = '' and directory_subject is null as invited,
                  (select count(*)::int from person o where 'admin' = any(o.roles) and o.disabled_at is null
                    and (o.password_hash <> '' or o.directory_subject is not null) and o.id <> p.id) as others
                from person p where {which} and username <> '{Accounts.Itself}'
                """,
                r => new LockedPerson(
                    r.Get<Guid>("id"),
                    r.Get<string>("name"),
                    r.Get<bool>("invited"),
                    new(
                        r.Get<string>("username"),
                        Roles.Parse(r.Get<string[]>("roles")),
                        r.Get<bool>("disabled"),
                        r.Get<int>("others")
                    )
                ),
                value
            )
            .ConfigureAwait(false);
        return found.FirstOrDefault();
    }

    /// <summary>An address as it was made, with whose it is.</summary>
    internal sealed record MadeLink(LinkPurpose Purpose, OneTimeLink Link, Actor? Person);

    internal sealed record LockedPerson(Guid Id, string Name, bool IsInvited, PersonStanding Standing);
}
