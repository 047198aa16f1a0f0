using Keralith.Core.Ledger;
using Keralith.Core.People;

namespace Keralith.Data;

/// <summary>A person's second factor, as it is kept.</summary>
/// <param name="Sealed">The secret both sides know, sealed.</param>
/// <param name="LastStep">The time step of the last code taken: a code counts once.</param>
public sealed record KeptFactor(byte[] Sealed, long? LastStep);

/// <summary>The second factor of people, and the codes that stand in for a lost one.</summary>
public sealed class FactorStore(Database database)
{
    /// <summary>How many codes stand in for a lost second factor.</summary>
    public const int RecoveryCodes = 10;

    /// <summary>A person's second factor; null where they have none.</summary>
    public Task<KeptFactor?> FindAsync(Guid person, CancellationToken cancel) =>
        database
            .Command("select factor, last_step from person where id = $1 and factor is not null")
            .Positional(person)
            .FirstAsync(r => new KeptFactor(r.GetFieldValue<byte[]>(0), r.ValueOrNull<long>("last_step")), cancel);

    /// <summary>Takes a time step, unless it or a later one was taken: two requests with one code are one.</summary>
    /// <returns>Whether it was taken.</returns>
    public async Task<bool> TakeStepAsync(Guid person, long step, CancellationToken cancel) =>
        await database
            .Command("update person set last_step = $2 where id = $1 and (last_step is null or last_step < $2)")
            .Positional(person, step)
            .RunAsync(cancel)
            .ConfigureAwait(false) == 1;

    /// <summary>Takes a recovery code, which counts once.</summary>
    /// <returns>Whether it was one that still counted.</returns>
    public async Task<bool> TakeRecoveryAsync(Guid person, string code, DateTimeOffset now, CancellationToken cancel) =>
        await database
            .Command("update recovery_code set used_at = $3 where person_id = $1 and hash = $2 and used_at is null")
            .Positional(person, AccountStore.Hash(code), now)
            .RunAsync(cancel)
            .ConfigureAwait(false) == 1;

    /// <summary>How many recovery codes still count.</summary>
    public async Task<int> RecoveryLeftAsync(Guid person, CancellationToken cancel) =>
        (
            await database
                .Command("select count(*)::int from recovery_code where person_id = $1 and used_at is null")
                .Positional(person)
                .ListAsync(r => r.GetInt32(0), cancel)
                .ConfigureAwait(false)
        )[0];

    /// <summary>Sets one's own second factor up, or takes it off.</summary>
    /// <param name="factor">The sealed secret; null takes it off.</param>
    /// <param name="step">The time step of the code that proved it.</param>
    /// <param name="recovery">The codes that stand in for it.</param>
    public Task<Checked<Recorded>> SetAsync(
        byte[]? factor,
        long? step,
        IReadOnlyList<string> recovery,
        Stamp stamp,
        CancellationToken cancel
    ) =>
        Session.RunAsync(
            database,
            stamp,
            async session =>
            {
                await WriteAsync(session, stamp.Actor.Id, factor, step, recovery).ConfigureAwait(false);
                await session
                    .LedgerAsync(new SecondFactorSet(factor is not null), stamp.Actor.Username)
                    .ConfigureAwait(false);
                return null;
            },
            cancel
        );

    /// <summary>Sets whether a second factor is asked of those who release, condemn or administer.</summary>
    public Task<Checked<Recorded>> AskAsync(bool ask, Stamp stamp, CancellationToken cancel) =>
        Session.RunAloneAsync(
            database,
            stamp,
            async session =>
            {
                var own = await session
                    .ReadAsync(
                        "select factor is not null from person where id = $1",
                        r => r.GetBoolean(0),
                        stamp.Actor.Id
                    )
                    .ConfigureAwait(false);
                if (Accounts.RefusalToAskFactor(ask, own is [true], session.By) is { } refusal)
                    return refusal;
                await session.WriteAsync("update site set second_factor = $1", ask).ConfigureAwait(false);
                await session.LedgerAsync(new SecondFactorAsked(ask), "site").ConfigureAwait(false);
                return null;
            },
            cancel
        );

    internal static async Task WriteAsync(
        Session session,
        Guid person,
        byte[]? factor,
        long? step,
        IReadOnlyList<string> recovery
    )
    {
        await session
            .WriteAsync(
                "update person set factor = $2::bytea, last_step = $3::bigint where id = $1",
                person,
                factor,
                step
            )
            .ConfigureAwait(false);
        await session.WriteAsync("delete from recovery_code where person_id = $1", person).ConfigureAwait(false);
        await session
            .WriteAsync(
                "insert into recovery_code (person_id, hash) select $1, h from unnest($2::bytea[]) as h",
                person,
                recovery.Select(AccountStore.Hash).ToArray()
            )
            .ConfigureAwait(false);
    }
}
