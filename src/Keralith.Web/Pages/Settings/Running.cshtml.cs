using System.Reflection;
using Keralith.Core.People;
using Keralith.Data;
using Keralith.Web.Mailing;
using Keralith.Web.Running;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;

namespace Keralith.Web.Pages.Settings;

/// <summary>How the works runs: scheduled work, the database, mails, versions.</summary>
[Authorize(Policy = nameof(Right.Operate))]
public sealed class RunningModel(
    Here here,
    Chores chores,
    ChoreStore store,
    RunningStore running,
    MailStore mailStore,
    Mails mails,
    Backups backups
) : YardPage(here)
{
    public IReadOnlyList<(Chore Chore, ChoreRow? Row)> Rows { get; private set; } = [];

    public DatabaseStanding Database { get; private set; } = null!;

    public (int Waiting, int GivenUp) Mails { get; private set; }

    public string MailsGo => mails.Where;

    public string? BackupFolder => backups.Folder;

    /// <summary>Whether something runs or was asked for: the page looks again by itself.</summary>
    public bool IsMoving => Rows.Any(r => r.Row is { EndedAt: null, StartedAt: not null } or { IsAsked: true });

    /// <summary>The program's version.</summary>
    public static string Version { get; } =
        typeof(RunningModel).Assembly.GetCustomAttribute<AssemblyInformationalVersionAttribute>()?.InformationalVersion
            is { } full
            ? full.Split('+') is [var number, { Length: > ShortHash } hash]
                ? $"{number} ({hash[..ShortHash]})"
                : full
            : "unknown";

    private const int ShortHash = 8;

    public async Task OnGetAsync()
    {
        var rows = await store.AllAsync(Cancel);
        Rows = [.. chores.All.Select(c => (c, rows.GetValueOrDefault(c.Name)))];
        Database = await running.StandingAsync(Cancel);
        Mails = await mailStore.CountAsync(Cancel);
    }

    /// <summary>Has a piece of work done now.</summary>
    public async Task<IActionResult> OnPostAsync(string? chore)
    {
        if (chores.All.FirstOrDefault(c => c.Name == chore) is not { } known)
            return NotFound();
        await chores.AskAsync(known.Name, Cancel);
        return Redirect("/settings/running");
    }
}
