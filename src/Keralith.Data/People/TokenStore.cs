using System.Buffers.Text;
using System.Security.Cryptography;
using System.Text;
using Keralith.Core.Ledger;
using Keralith.Core.People;

namespace Keralith.Data;

/// <summary>A token a program signs in with, as listed. The token itself is shown once and never kept.</summary>
public sealed record TokenRow(
    Guid Id,
    string Name,
    string Person,
    DateTimeOffset MadeAt,
    string MadeBy,
    DateTimeOffset? RevokedAt
)
{
    /// <summary>The last day it counts; null: it has no end, as tokens were made before.</summary>
    public DateOnly? Ends { get; init; }
}

/// <summary>Bearer tokens of programs: each acts for one person and can be revoked.</summary>
public sealed class TokenStore(Database database)
{
    /// <summary>What every token begins with, so that one found lying about is known for what it is.</summary>
    public const string Prefix = "kl_";

    private const int RandomBytes = 32;

    /// <summary>A new token: nobody has it yet and nothing is kept.</summary>
    public static string Make() => Prefix + Base64Url.EncodeToString(RandomNumberGenerator.GetBytes(RandomBytes));

    /// <summary>Tokens, those that count first.</summary>
    /// <param name="of">Whose; null: everybody's.</param>
    public Task<List<TokenRow>> ListAsync(Guid? of, CancellationToken cancel) =>
        database
            .Command(
                """
                select t.id, t.name, p.name as person, t.made_at, m.name as made_by, t.revoked_at, t.ends_on
                from api_token t join person p on p.id = t.person_id join person m on m.id = t.made_by
                where $1::uuid is null or t.person_id = $1
                order by t.revoked_at is not null, t.made_at desc
                """
            )
            .Positional(of)
            .ListAsync(
                r => new TokenRow(
                    r.Get<Guid>("id"),
                    r.Get<string>("name"),
                    r.Get<string>("person"),
                    r.Get<DateTimeOffset>("made_at"),
                    r.Get<string>("made_by"),
                    r.ValueOrNull<DateTimeOffset>("revoked_at")
                )
                {
                    Ends = r.ValueOrNull<DateOnly>("ends_on"),
                },
                cancel
            );

    /// <summary>Who a token acts for, and with which roles; null when it is none, was revoked, ran out or may nothing any more.</summary>
    /// <param name="today">The day by which it ends.</param>
    public async Task<Actor?> FindAsync(string token, DateOnly today, CancellationToken cancel)
    {
        var found = await database
            .Command(
                """
                select p.id, p.username, p.name, p.roles, t.roles as made_with, p.factor is not null as has_factor,
                  coalesce((select bool_or(second_factor) from site), false) as asks_factor
                from api_token t
                join person p on p.id = t.person_id
                where t.hash = $1 and t.revoked_at is null and p.disabled_at is null and (t.ends_on is null or t.ends_on >= $2)
                """
            )
            .Positional(Hash(token), today)
            .FirstAsync(
                r =>
                {
                    var actor = Actor.From(r);
                    return actor with
                    {
                        Roles = PeopleActs.RolesOfToken(
                            r.IsDBNull(r.GetOrdinal("made_with")) ? null : Roles.Parse(r.Get<string[]>("made_with")),
                            actor.Roles,
                            Accounts.LacksSecondFactor(
                                r.Get<bool>("asks_factor"),
                                actor.Roles,
                                r.Get<bool>("has_factor")
                            )
                        ),
                    };
                },
                cancel
            )
            .ConfigureAwait(false);
        return found is null || found.Roles.IsNone ? null : found;
    }

    /// <summary>Keeps a new token's hash. The token acts for whoever makes it, with some of their roles, until a day.</summary>
    public Task<Checked<Recorded>> AddAsync(
        string name,
        string token,
        DateOnly? ends,
        Roles roles,
        Stamp stamp,
        CancellationToken cancel
    ) =>
        Session.RunAsync(
            database,
            stamp,
            async session =>
            {
                if (PeopleActs.RefusalOfToken(name, ends, roles, session.By) is { } refusal)
                    return refusal;
                await session
                    .WriteAsync(
                        "insert into api_token (id, name, hash, person_id, made_at, made_by, ends_on, roles) values ($1, $2, $3, $4, $5, $4, $6, $7)",
                        stamp.Submission,
                        name.Trim(),
                        Hash(token),
                        stamp.Actor.Id,
                        session.Stamp.At,
                        ends,
                        roles.Codes
                    )
                    .ConfigureAwait(false);
                await session
                    .LedgerAsync(
                        new TokenMade(stamp.Submission, name.Trim()) { Ends = ends, Roles = roles.Codes },
                        "site"
                    )
                    .ConfigureAwait(false);
                return null;
            },
            cancel
        );

    /// <summary>Revokes a token at once.</summary>
    public Task<Checked<Recorded>> RevokeAsync(Guid id, Stamp stamp, CancellationToken cancel) =>
        Session.RunAsync(
            database,
            stamp,
            async session =>
            {
                var owner = await session
                    .ReadAsync(
                        "select person_id from api_token where id = $1 and revoked_at is null for update",
                        r => (Guid?)r.GetGuid(0),
                        id
                    )
                    .ConfigureAwait(false);
                if (PeopleActs.RefusalToRevoke(owner.FirstOrDefault(), session.By) is { } refusal)
                    return refusal;
                await session
                    .WriteAsync("update api_token set revoked_at = $2 where id = $1", id, session.Stamp.At)
                    .ConfigureAwait(false);
                await session.LedgerAsync(new TokenRevoked(id), "site").ConfigureAwait(false);
                return null;
            },
            cancel
        );

    private static byte[] Hash(string token) => SHA256.HashData(Encoding.UTF8.GetBytes(token));
}
