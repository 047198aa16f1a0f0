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
);

/// <summary>Bearer tokens of programs: each acts for one person and can be revoked.</summary>
public sealed class TokenStore(Database database)
{
    /// <summary>What every token begins with, so that one found lying about is known for what it is.</summary>
    public const string Prefix = "kl_";

    private const int RandomBytes = 32;

    /// <summary>A new token: nobody has it yet and nothing is kept.</summary>
    public static string Make() => Prefix + Base64Url.EncodeToString(RandomNumberGenerator.GetBytes(RandomBytes));

    public Task<List<TokenRow>> ListAsync(CancellationToken cancel) =>
        database
            .Command(
                """
                select t.id, t.name, p.name as person, t.made_at, m.name as made_by, t.revoked_at
                from api_token t join person p on p.id = t.person_id join person m on m.id = t.made_by
                order by t.revoked_at is not null, t.made_at desc
                """
            )
            .ListAsync(
                r => new TokenRow(
                    r.Get<Guid>("id"),
                    r.Get<string>("name"),
                    r.Get<string>("person"),
                    r.Get<DateTimeOffset>("made_at"),
                    r.Get<string>("made_by"),
                    r.ValueOrNull<DateTimeOffset>("revoked_at")
                ),
                cancel
            );

    /// <summary>Who a token acts for; null when it is none or was revoked.</summary>
    public Task<Actor?> FindAsync(string token, CancellationToken cancel) =>
        database
            .Command(
                """
                select p.id, p.username, p.name, p.roles
                from api_token t
                join person p on p.id = t.person_id
                where t.hash = $1 and t.revoked_at is null and p.disabled_at is null
                """
            )
            .Positional(Hash(token))
            .FirstAsync(Actor.From, cancel);

    /// <summary>Keeps a new token's hash. The token acts for whoever makes it.</summary>
    public Task<Checked<Recorded>> AddAsync(string name, string token, Stamp stamp, CancellationToken cancel) =>
        Session.RunAsync(
            database,
            stamp,
            async session =>
            {
                if (PeopleActs.RefusalOfToken(name, session.By) is { } refusal)
                    return refusal;
                await session
                    .WriteAsync(
                        "insert into api_token (id, name, hash, person_id, made_at, made_by) values ($1, $2, $3, $4, $5, $4)",
                        stamp.Submission,
                        name.Trim(),
                        Hash(token),
                        stamp.Actor.Id,
                        session.Stamp.At
                    )
                    .ConfigureAwait(false);
                await session.LedgerAsync(new TokenMade(stamp.Submission, name.Trim()), "site").ConfigureAwait(false);
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
                var revoked = await session
                    .WriteAsync(
                        "update api_token set revoked_at = $2 where id = $1 and revoked_at is null",
                        id,
                        session.Stamp.At
                    )
                    .ConfigureAwait(false);
                if (PeopleActs.RefusalToRevoke(revoked == 1, session.By) is { } refusal)
                    return refusal;
                await session.LedgerAsync(new TokenRevoked(id), "site").ConfigureAwait(false);
                return null;
            },
            cancel
        );

    private static byte[] Hash(string token) => SHA256.HashData(Encoding.UTF8.GetBytes(token));
}
