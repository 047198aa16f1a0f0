using Keralith.Core.People;
using Npgsql;

namespace Keralith.Data;

/// <summary>How each person likes to work: mails, explanations, the unit of a bare figure, the strip of first steps.</summary>
public sealed class OwnWaysStore(Database database)
{
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
}
