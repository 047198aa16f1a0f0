using Keralith.Core.Gear;
using Keralith.Core.Ledger;
using Keralith.Core.People;
using Npgsql;

namespace Keralith.Data;

/// <summary>A person who may sign in.</summary>
/// <param name="IsOfDirectory">Whether the works' own directory signs them in, and no password does.</param>
public sealed record Person(Actor Actor, string PasswordHash, bool IsOfDirectory);

/// <summary>The people and how they sign in.</summary>
public sealed class PeopleStore(Database database)
{
    public Task<Person?> FindAsync(string username, CancellationToken cancel) =>
        database
            .Command(
                "select id, username, name, roles, password_hash, directory_subject is not null as directory from person where username = $1 and password_hash <> '' and disabled_at is null"
            )
            .Positional(username)
            .FirstAsync(From, cancel);

    public Task<List<Actor>> AllAsync(CancellationToken cancel) =>
        database
            .Command(
                """
                select id, username, name, roles, password_hash, directory_subject is not null as directory
                from person
                where (password_hash <> '' or directory_subject is not null) and disabled_at is null
                order by name
                """
            )
            .ListAsync(r => From(r).Actor, cancel);

    /// <summary>Adds a person with a password; for data that is laid out before anybody signs in.</summary>
    public Task AddAsync(Actor actor, string passwordHash, string mail, CancellationToken cancel) =>
        database
            .Command(
                "insert into person (id, username, name, roles, password_hash, mail) values ($1, $2, $3, $4, $5, $6)"
            )
            .Positional(actor.Id, actor.Username, actor.Name, actor.Roles.Codes, passwordHash, mail)
            .RunAsync(cancel);

    /// <summary>What a person is authorised to sign for, the newest of each group.</summary>
    public Task<List<Authorisation>> AuthorisationsAsync(Guid person, CancellationToken cancel) =>
        database.AskAsync(t => Authorisations(t, person), cancel);

    /// <summary>The same, on a trip made with other questions.</summary>
    public static Asked<List<Authorisation>> Authorisations(Trip trip, Guid person) =>
        trip.All(
            new NpgsqlBatchCommand(
                "select distinct on (family_group) family_group, until from authorisation where person_id = $1 order by family_group, id desc"
            ).Positional(person),
            r => new Authorisation(Code.Parse<FamilyGroup>(r.Get<string>("family_group")), r.Get<DateOnly>("until"))
        );

    /// <summary>Says up to when somebody may sign for a group; a day in the past ends it.</summary>
    public Task<Checked<Recorded>> AuthoriseAsync(
        Guid person,
        Authorisation authorisation,
        Stamp stamp,
        CancellationToken cancel
    ) =>
        Session.RunAsync(
            database,
            stamp,
            async session =>
            {
                var whom = await session
                    .ReadAsync(
                        "select username, roles from person where id = $1",
                        r => (Name: r.GetString(0), Roles: Roles.Parse(r.Get<string[]>("roles"))),
                        person
                    )
                    .ConfigureAwait(false);
                Roles? roles = whom.Count == 0 ? null : whom[0].Roles;
                if (PeopleActs.RefusalToAuthorise(authorisation.Group, roles, session.By) is { } refusal)
                    return refusal;
                await session
                    .WriteAsync(
                        "insert into authorisation (person_id, family_group, until, set_at, set_by) values ($1, $2, $3, $4, $5)",
                        person,
                        Code.Of(authorisation.Group),
                        authorisation.Until,
                        session.Stamp.At,
                        stamp.Actor.Id
                    )
                    .ConfigureAwait(false);
                await session
                    .LedgerAsync(new PersonAuthorised(Code.Of(authorisation.Group), authorisation.Until), whom[0].Name)
                    .ConfigureAwait(false);
                return null;
            },
            cancel
        );

    private static Person From(NpgsqlDataReader r) =>
        new(Actor.From(r), r.Get<string>("password_hash"), r.Get<bool>("directory"));
}
