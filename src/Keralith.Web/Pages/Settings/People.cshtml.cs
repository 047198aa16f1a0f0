using Keralith.Core.Gear;
using Keralith.Core.People;
using Keralith.Data;
using Keralith.Web.Security;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;

namespace Keralith.Web.Pages.Settings;

/// <summary>The people of the works, who may sign for which gear and until when, and inviting somebody.</summary>
[Authorize(Policy = nameof(Right.ReadSettings))]
public sealed class PeopleModel(
    Here here,
    PeopleStore people,
    AccountStore accounts,
    Invitations invitations,
    FactorStore factors
) : YardPage(here)
{
    public IReadOnlyList<(PersonRow Row, IReadOnlyList<Authorisation> Held)> People { get; private set; } = [];

    /// <summary>The invitation just made; null on every other showing.</summary>
    public Invitation? Made { get; private set; }

    public Task OnGetAsync() => LoadAsync();

    /// <summary>Authorises somebody to sign for a group of gear.</summary>
    [Takes(Right.Authorise)]
    public async Task<IActionResult> OnPostAsync(Guid person, string? group, string? until)
    {
        if (Code.Find<FamilyGroup>(group) is { } chosen && IsDay(until, "Until", out var on) && on is { } day)
        {
            return await AfterAsync(
                await people.AuthoriseAsync(person, new(chosen, day), Here.Stamp(Submission), Cancel),
                "/settings/people",
                LoadAsync
            );
        }

        if (Refused is null)
            Refuse("Choose the group, and the day as year-month-day.");
        await LoadAsync();
        return Page();
    }

    /// <summary>Invites somebody: an address that works once is shown, and mailed where a mail address is known.</summary>
    [Takes(Right.ManagePeople)]
    public async Task<IActionResult> OnPostInviteAsync(
        string? username,
        string? name,
        string[] role,
        string? mail,
        bool send
    )
    {
        var read = Accounts.Read(username, name, role, mail);
        if (!read.Ok)
        {
            Refuse(read.Refusal!);
        }
        else
        {
            var made = await invitations.InviteAsync(read.Value, send, Here.Stamp(Submission), Cancel);
            if (made.Ok)
                Made = made.Value;
            else
                Refuse(made.Refusal!);
        }

        if (Made is not null)
            Submission = Guid.CreateVersion7();
        ModelState.Remove(nameof(Submission));
        await LoadAsync();
        return Page();
    }

    /// <summary>Sets whether a second factor is asked of those who release, condemn or administer.</summary>
    [Takes(Right.ManagePeople)]
    public async Task<IActionResult> OnPostFactorAsync(bool ask) =>
        await AfterAsync(await factors.AskAsync(ask, Here.Stamp(Submission), Cancel), "/settings/people", LoadAsync);

    /// <summary>Whether a second factor is asked.</summary>
    public bool AsksFactor { get; private set; }

    private async Task LoadAsync()
    {
        AsksFactor = (await Here.SiteAsync(Cancel)).AsksSecondFactor;
        var all = new List<(PersonRow, IReadOnlyList<Authorisation>)>();
        foreach (var row in await accounts.AllAsync(Here.Now, Cancel))
            all.Add((row, await people.AuthorisationsAsync(row.Actor.Id, Cancel)));
        People = all;
    }
}
