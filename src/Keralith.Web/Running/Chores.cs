using System.Globalization;
using Keralith.Data;
using Keralith.Web.Mailing;
using Npgsql;

namespace Keralith.Web.Running;

/// <summary>
/// The scheduled work of the works: the record verified and its head sealed, mails delivered, reminders written, what no
/// longer counts thrown away, backups. Each is done by whichever node comes first; what came of it stands on the page
/// <c>/running</c>.
/// </summary>
public sealed partial class Chores : BackgroundService
{
    /// <summary>How often it is looked whether something is due.</summary>
    private static readonly TimeSpan Look = TimeSpan.FromSeconds(15);

    /// <summary>After the start, so that it does not stand in the way of the first requests.</summary>
    private static readonly TimeSpan First = TimeSpan.FromMinutes(1);

    private static readonly TimeSpan Daily = TimeSpan.FromDays(1);

    private readonly ChoreStore _store;
    private readonly VerifyStore _verify;
    private readonly Security.WorksKey _works;
    private readonly TimeProvider _time;
    private readonly ILogger<Chores> _log;
    private readonly SemaphoreSlim _asked = new(0, 1);

    /// <summary>Sees to it that scheduled work is done.</summary>
    public Chores(
        ChoreStore store,
        VerifyStore verify,
        Mails mails,
        Reminders reminders,
        NoticeMails notices,
        SignInStore signIns,
        Backups backups,
        Security.WorksKey works,
        TimeProvider time,
        ILogger<Chores> log
    )
    {
        (_store, _verify, _works, _time, _log) = (store, verify, works, time, log);
        All =
        [
            new("verify", "Verify all records, and seal the ledger's head", Daily, VerifyAsync),
            new(
                "mails",
                "Mail people what they are told, and deliver what waits",
                TimeSpan.FromMinutes(1),
                async (_, cancel) =>
                {
                    await notices.SendAsync(cancel);
                    var (sent, failed) = await mails.DeliverAsync(cancel);
                    return failed > 0
                        ? $"{sent} delivered; {failed} could not be, and are tried again."
                        : $"{sent} delivered.";
                }
            ),
            new("reminders", "Remind who signs of what is due", TimeSpan.FromDays(7), async (_, cancel) =>
                $"{await reminders.SendAsync(Reminders.RoundOf(reminders.Today), cancel)} written."
            ),
            new("thin", "Throw away sign-ins that ended long ago", Daily, async (_, cancel) =>
                $"{await signIns.ThinAsync(_time.GetUtcNow(), cancel)} thrown away."
            ),
            .. backups.Folder is null
                ? Array.Empty<Chore>()
                : [new("backup", $"Back up into {backups.Folder}", Daily, backups.RunAsync)],
        ];
    }

    /// <summary>All scheduled work.</summary>
    public IReadOnlyList<Chore> All { get; }

    /// <summary>Has a piece of work done now.</summary>
    public async Task AskAsync(string name, CancellationToken cancel)
    {
        await _store.AskAsync(name, cancel);
        if (_asked.CurrentCount == 0)
            _asked.Release();
    }

    /// <inheritdoc />
    public override async Task StopAsync(CancellationToken cancellationToken)
    {
        await base.StopAsync(cancellationToken);
        try
        {
            await _verify.SealAsync(_time.GetUtcNow(), cancellationToken);
        }
        catch (Exception e) when (e is NpgsqlException or OperationCanceledException)
        {
            // The database is away: the head is sealed with the next run.
            NotNow(e);
        }
    }

    /// <inheritdoc />
    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        try
        {
            await _asked.WaitAsync(First, stoppingToken);
            while (true)
            {
                foreach (var chore in All)
                    await TryAsync(chore, stoppingToken);
                await _asked.WaitAsync(Look, stoppingToken);
            }
        }
        catch (OperationCanceledException)
        {
            // The application stops.
        }
    }

    private async Task TryAsync(Chore chore, CancellationToken cancel)
    {
        try
        {
            if (await _store.RunIfDueAsync(chore.Name, chore.Every, chore.Work, cancel) is { } fault)
                Failed(chore.Name, fault);
        }
        catch (NpgsqlException e)
        {
            // The database is away or not migrated: the next time.
            NotNow(e);
        }
    }

    private async Task<string> VerifyAsync(Func<string, Task> say, CancellationToken cancel)
    {
        var found = await _verify.RunAsync(_time.GetUtcNow(), cancel, say);
        foreach (var (mark, why) in found)
            Unverified(mark ?? "the ledger", why);
        await _verify.SealAsync(_time.GetUtcNow(), cancel);

        // A ledger that does not verify gets no new head: what is signed was whole.
        if (found.All(f => f.Mark is not null))
            await _works.SignAsync(rotate: false, cancel);
        return found.Count == 0
            ? "Everything verifies."
            : string.Create(
                CultureInfo.InvariantCulture,
                $"{found.Count} do not verify: {string.Join(", ", found.Select(f => f.Mark ?? "the ledger").Distinct().Take(8))}. Those pieces may not be used."
            );
    }

    [LoggerMessage(Level = LogLevel.Error, Message = "verify: {Subject}: {Why}")]
    private partial void Unverified(string subject, string why);

    [LoggerMessage(Level = LogLevel.Error, Message = "scheduled: {Name} failed")]
    private partial void Failed(string name, Exception e);

    [LoggerMessage(Level = LogLevel.Warning, Message = "scheduled: not now")]
    private partial void NotNow(Exception e);
}
