using System.Security.Cryptography;
using Keralith.Core.People;

namespace Keralith.Data;

/// <summary>A sign-in that counts, as its person sees it.</summary>
/// <param name="Agent">What the browser says it is; may be empty.</param>
/// <param name="IsThis">Whether it is the one that asks.</param>
public sealed record OpenSignIn(
    Guid Id,
    string Address,
    string Agent,
    DateTimeOffset BegunAt,
    DateTimeOffset SeenAt,
    bool IsThis
);

/// <summary>Whom a sign-in belongs to, as they are now.</summary>
/// <param name="LacksFactor">Whether they must set a second factor up before they go on.</param>
public sealed record SignedInAs(Actor Actor, bool LacksFactor);

/// <summary>Who is signed in, and how often somebody tried to.</summary>
public sealed class SignInStore(Database database)
{
    private const int SecretBytes = 32;

    /// <summary>How long a sign-in lasts at the most, and how long without anything done.</summary>
    public static TimeSpan Longest { get; } = TimeSpan.FromHours(12);

    /// <summary>How long a sign-in lasts without anything done.</summary>
    public static TimeSpan Idle { get; } = TimeSpan.FromHours(3);

    /// <summary>How long tries are counted together.</summary>
    public static TimeSpan Window { get; } = TimeSpan.FromMinutes(5);

    /// <summary>Begins a sign-in.</summary>
    /// <returns>Its secret, which nobody else is told and only a hash of which is kept.</returns>
    /// <param name="agent">What the browser says it is; empty: it says nothing.</param>
    public async Task<string> BeginAsync(
        Guid person,
        string address,
        string agent,
        DateTimeOffset now,
        CancellationToken cancel
    )
    {
        var secret = Convert.ToBase64String(RandomNumberGenerator.GetBytes(SecretBytes));
        await database
            .Command(
                "insert into sign_in (hash, person_id, address, agent, begun_at, seen_at) values ($1, $2, $3, $4, $5, $5)"
            )
            .Positional(Hash(secret), person, address, agent, now)
            .RunAsync(cancel)
            .ConfigureAwait(false);
        return secret;
    }

    /// <summary>
    /// Who a secret signs in, as they are now; null where it was ended, ran out, or belongs to somebody who is disabled.
    /// </summary>
    public async Task<SignedInAs?> FindAsync(string secret, DateTimeOffset now, CancellationToken cancel)
    {
        var hash = Hash(secret);
        var found = await database
            .Command(
                """
                select p.id, p.username, p.name, p.roles, p.unit, s.seen_at, p.factor is not null or p.directory_subject is not null as factor,
                  coalesce((select bool_or(second_factor) from site), false) as asked
                from sign_in s
                join person p on p.id = s.person_id
                where s.hash = $1 and s.ended_at is null and p.disabled_at is null and s.begun_at > $2 and s.seen_at > $3
                """
            )
            .Positional(hash, now - Longest, now - Idle)
            .ListAsync(
                r =>
                    (
                        Actor: Actor.From(r) with
                        {
                            Unit = r.TextOrNull("unit"),
                        },
                        SeenAt: r.Get<DateTimeOffset>("seen_at"),
                        HasFactor: r.Get<bool>("factor"),
                        IsAsked: r.Get<bool>("asked")
                    ),
                cancel
            )
            .ConfigureAwait(false);
        if (found.Count == 0)
            return null;

        // Often enough to know who is there, seldom enough to cost nothing.
        if (now - found[0].SeenAt > TimeSpan.FromMinutes(1))
            await database
                .Command("update sign_in set seen_at = greatest(seen_at, $2) where hash = $1")
                .Positional(hash, now)
                .RunAsync(cancel)
                .ConfigureAwait(false);
        var (who, _, hasFactor, isAsked) = found[0];
        return new(who, Accounts.LacksSecondFactor(isAsked, who.Roles, hasFactor));
    }

    /// <summary>Ends a sign-in.</summary>
    public Task EndAsync(string secret, CancellationToken cancel) =>
        database
            .Command("update sign_in set ended_at = clock_timestamp() where hash = $1 and ended_at is null")
            .Positional(Hash(secret))
            .RunAsync(cancel);

    /// <summary>Where a person is signed in now, the last seen first.</summary>
    /// <param name="secret">The sign-in that asks.</param>
    public Task<List<OpenSignIn>> OpenAsync(Guid person, string secret, DateTimeOffset now, CancellationToken cancel) =>
        database
            .Command(
                """
                select id, address, agent, begun_at, seen_at, hash = $4 as own from sign_in
                where person_id = $1 and ended_at is null and begun_at > $2 and seen_at > $3
                order by seen_at desc
                """
            )
            .Positional(person, now - Longest, now - Idle, Hash(secret))
            .ListAsync(
                r => new OpenSignIn(
                    r.Get<Guid>("id"),
                    r.Get<string>("address"),
                    r.Get<string>("agent"),
                    r.Get<DateTimeOffset>("begun_at"),
                    r.Get<DateTimeOffset>("seen_at"),
                    r.Get<bool>("own")
                ),
                cancel
            );

    /// <summary>Ends one of a person's own sign-ins.</summary>
    public Task EndOwnAsync(Guid person, Guid id, CancellationToken cancel) =>
        database
            .Command(
                "update sign_in set ended_at = clock_timestamp() where id = $2 and person_id = $1 and ended_at is null"
            )
            .Positional(person, id)
            .RunAsync(cancel);

    /// <summary>Throws away what no longer counts: sign-ins that ran out, and tries long past.</summary>
    /// <returns>How many sign-ins.</returns>
    public async Task<int> ThinAsync(DateTimeOffset now, CancellationToken cancel)
    {
        await database
            .Command("delete from attempt where since < $1")
            .Positional(now - Longest)
            .RunAsync(cancel)
            .ConfigureAwait(false);

        // The last of each address stays: it says that a person has been seen there before.
        return await database
            .Command(
                """
                delete from sign_in s where s.begun_at < $1
                  and exists (select from sign_in o where o.person_id = s.person_id and o.address = s.address and o.begun_at > s.begun_at)
                """
            )
            .Positional(now - TimeSpan.FromDays(30))
            .RunAsync(cancel)
            .ConfigureAwait(false);
    }

    /// <summary>Whether a person has signed in from an address before.</summary>
    public async Task<bool> HasBeenAsync(string username, string address, CancellationToken cancel) =>
        (
            await database
                .Command(
                    "select 1 from sign_in s join person p on p.id = s.person_id where p.username = $1 and s.address = $2 limit 1"
                )
                .Positional(username, address)
                .ListAsync(r => r.GetInt32(0), cancel)
                .ConfigureAwait(false)
        ).Count > 0;

    /// <summary>
    /// Counts a try under each of its keys, in one statement: tries at the same moment are counted one after the other.
    /// </summary>
    /// <param name="keys">What is counted, and how many tries of it may be made within <see cref="Window"/>.</param>
    /// <returns>Whether this one may be made.</returns>
    public async Task<bool> MayTryAsync(
        IReadOnlyList<(string Key, int Most)> keys,
        DateTimeOffset now,
        CancellationToken cancel
    )
    {
        var most = keys.ToDictionary(k => k.Key, k => k.Most);
        var counted = await database
            .Command(
                """
                insert into attempt as a (key, tries, since)
                select key, 1, $2 from unnest($1::text[]) as key order by key
                on conflict (key) do update
                set tries = case when a.since < $3 then 1 else a.tries + 1 end,
                  since = case when a.since < $3 then $2 else a.since end
                returning key, tries
                """
            )
            .Positional(keys.Select(k => k.Key).ToArray(), now, now - Window)
            .ListAsync(r => (Key: r.GetString(0), Tries: r.GetInt32(1)), cancel)
            .ConfigureAwait(false);
        return counted.All(c => c.Tries <= most[c.Key]);
    }

    /// <summary>Takes back what was counted of a try that was right.</summary>
    public Task ForgetAsync(IEnumerable<string> keys, CancellationToken cancel) =>
        database.Command("delete from attempt where key = any($1)").Positional([keys.ToArray()]).RunAsync(cancel);

    /// <summary>Takes back one try of each key: it was right, and many may sign in at one address.</summary>
    public Task GiveBackAsync(IEnumerable<string> keys, CancellationToken cancel) =>
        database
            .Command("update attempt set tries = greatest(0, tries - 1) where key = any($1)")
            .Positional([keys.ToArray()])
            .RunAsync(cancel);

    internal static byte[] Hash(string secret) => SHA256.HashData(System.Text.Encoding.UTF8.GetBytes(secret));
}
