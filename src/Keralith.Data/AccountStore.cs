using System.Buffers.Text;
using System.Security.Cryptography;
using System.Text;
using Keralith.Core.Ledger;
using Keralith.Core.People;
using Npgsql;

namespace Keralith.Data;

/// <summary>A person as administrators see them.</summary>
/// <param name="HasPassword">Whether they have chosen a password.</param>
/// <param name="IsOfDirectory">Whether the works' own directory signs them in, and it alone.</param>
/// <param name="SeenAt">When they were last seen; null: never.</param>
/// <param name="SignIns">How many sign-ins are open.</param>
/// <param name="Mails">What they want by mail.</param>
/// <param name="Explain">When explanations stand open beside what is asked.</param>
/// <param name="Unit">The unit they like a bare figure taken in: <c>in</c> or <c>mm</c>; null: the site's.</param>
public sealed record PersonRow(
    Actor Actor,
    string Mail,
    bool HasPassword,
    bool IsOfDirectory,
    bool IsDisabled,
    bool HasFactor,
    DateTimeOffset? SeenAt,
    int SignIns,
    IReadOnlyList<MailKind> Mails,
    Explain Explain,
    string? Unit
)
{
    /// <summary>Whether they can't sign in yet: they have not chosen a password.</summary>
    public bool IsInvited => !HasPassword && !IsOfDirectory;

    internal const string Columns = """
        p.id, p.username, p.name, p.roles, p.mail, p.password_hash <> '' as password, p.disabled_at is not null as disabled,
        p.directory_subject is not null as directory,
        p.factor is not null as factor, case when p.mails then p.mail_kinds else array[]::text[] end as mails, p.explain, p.unit,
        (select max(s.seen_at) from sign_in s where s.person_id = p.id) as seen,
        (select count(*)::int from sign_in s where s.person_id = p.id and s.ended_at is null and s.begun_at > $1 and s.seen_at > $2) as open
        """;

    internal static PersonRow From(NpgsqlDataReader r) =>
        new(
            Actor.From(r),
            r.Get<string>("mail"),
            r.Get<bool>("password"),
            r.Get<bool>("directory"),
            r.Get<bool>("disabled"),
            r.Get<bool>("factor"),
            r.ValueOrNull<DateTimeOffset>("seen"),
            r.Get<int>("open"),
            [.. r.Get<string[]>("mails").Select(k => Code.Parse<MailKind>(k))],
            Code.Parse<Explain>(r.Get<string>("explain")),
            r.TextOrNull("unit")
        );
}

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

    /// <summary>Keeps what a person wants by mail.</summary>
    public Task WantMailsAsync(Guid person, IEnumerable<MailKind> kinds, CancellationToken cancel) =>
        database
            .Command("update person set mail_kinds = $2, mails = cardinality($2) > 0 where id = $1")
            .Positional(person, kinds.Distinct().Select(Code.Of).ToArray())
            .RunAsync(cancel);

    /// <summary>Which of some kinds of ledger entry a person has; null where they took the strip of steps away.</summary>
    public static Asked<IReadOnlySet<string>?> Did(Trip trip, Actor who, IReadOnlyCollection<string> kinds) =>
        trip.Ask(
            new NpgsqlBatchCommand(
                """
                select w.shows_steps,
                  (select coalesce(array_agg(k), '{}') from unnest($2::text[]) k
                   where exists (select from ledger l where l.actor = w.username and l.kind = k)) as did
                from person w
                where w.id = $1
                """
            ).Positional(who.Id, kinds.ToArray()),
            r => (Shows: r.Get<bool>("shows_steps"), Did: r.Get<string[]>("did")),
            IReadOnlySet<string>? (rows) => rows is [{ Shows: true }] ? rows[0].Did.ToHashSet() : null
        );

    /// <summary>Takes the strip of first steps away.</summary>
    public Task LeaveStepsAsync(Guid person, CancellationToken cancel) =>
        database.Command("update person set shows_steps = false where id = $1").Positional(person).RunAsync(cancel);

    /// <summary>Keeps when explanations stand open for a person.</summary>
    public Task ExplainAsync(Guid person, Explain when, CancellationToken cancel) =>
        database
            .Command("update person set explain = $2 where id = $1")
            .Positional(person, Code.Of(when))
            .RunAsync(cancel);

    /// <summary>When explanations stand open for a person, and whether they have signed a record of a family.</summary>
    public async Task<(Explain When, bool HasSigned)> ExplainsAsync(
        Guid person,
        string family,
        CancellationToken cancel
    ) =>
        (
            await database
                .Command(
                    """
                    select explain, exists (
                      select from inspection i join piece p on p.id = i.piece_id
                      where i.signed_by = person.id and p.family = $2) as signed
                    from person where id = $1
                    """
                )
                .Positional(person, family)
                .ListAsync(r => (Code.Parse<Explain>(r.Get<string>("explain")), r.Get<bool>("signed")), cancel)
                .ConfigureAwait(false)
        ).Single();

    /// <summary>Keeps the unit a person likes a bare figure taken in: <c>in</c> or <c>mm</c>; null: the site's.</summary>
    public Task LikeUnitAsync(Guid person, string? unit, CancellationToken cancel) =>
        database.Command("update person set unit = $2 where id = $1").Positional(person, unit).RunAsync(cancel);

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
