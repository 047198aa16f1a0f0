using Keralith.Core.People;
using Keralith.Data;
using Keralith.Web.Security;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;

namespace Keralith.Web.Pages.Settings;

/// <summary>One person: name, roles and address; another password, their sign-ins, disabled or not.</summary>
[Authorize(Policy = nameof(Right.ManagePeople))]
public sealed class PersonModel(Here here, AccountStore accounts, Invitations invitations) : YardPage(here)
{
    public PersonRow Row { get; private set; } = null!;

    /// <summary>The address just made; null on every other showing.</summary>
    public Invitation? Made { get; private set; }

    private string Again => $"/settings/person/{Row.Actor.Username}";

    public Task<IActionResult> OnGetAsync(string username) =>
        OnAsync(username, () => Task.FromResult<IActionResult>(Page()));

    /// <summary>Changes name, roles and address.</summary>
    public Task<IActionResult> OnPostAsync(string username, string? name, string[] role, string? mail) =>
        OnAsync(username, async () =>
        {
            var (named, roles, at) = (Accounts.ReadName(name), Accounts.ReadRoles(role), Accounts.ReadMail(mail));
            if ((named.Refusal ?? roles.Refusal ?? at.Refusal) is { } refusal)
            {
                Refuse(refusal);
                return Page();
            }

            return await AfterAsync(
                await accounts.ChangeAsync(
                    username,
                    named.Value,
                    roles.Value,
                    at.Value,
                    Here.Stamp(Submission),
                    Cancel
                ),
                Again,
                () => Task.CompletedTask
            );
        });

    /// <summary>Makes them another address to choose a password by.</summary>
    public Task<IActionResult> OnPostResetAsync(string username, bool send) => OnAsync(username, async () =>
        {
            var made = await invitations.ResetAsync(Row, send, Here.Stamp(Submission), Cancel);
            if (made.Ok)
                Made = made.Value;
            else
                Refuse(made.Refusal!);
            Submission = Guid.CreateVersion7();
            ModelState.Remove(nameof(Submission));
            return Page();
        });

    /// <summary>Ends all their sign-ins.</summary>
    public Task<IActionResult> OnPostEndAsync(string username) => ActAsync(username, accounts.EndSignInsAsync);

    /// <summary>Takes their second factor off.</summary>
    public Task<IActionResult> OnPostFactorAsync(string username) => ActAsync(username, accounts.DropFactorAsync);

    /// <summary>Disables them.</summary>
    public Task<IActionResult> OnPostDisableAsync(string username) => ActAsync(username, accounts.DisableAsync);

    /// <summary>Lets them sign in again.</summary>
    public Task<IActionResult> OnPostEnableAsync(string username) => ActAsync(username, accounts.EnableAsync);

    private Task<IActionResult> ActAsync(
        string username,
        Func<string, Stamp, CancellationToken, Task<Checked<Recorded>>> act
    ) =>
        OnAsync(username, async () =>
            await AfterAsync(await act(username, Here.Stamp(Submission), Cancel), Again, () => Task.CompletedTask)
        );

    private async Task<IActionResult> OnAsync(string username, Func<Task<IActionResult>> act)
    {
        if (await accounts.FindAsync(username, Here.Now, Cancel) is not { } row)
            return NotFound();
        Row = row;
        return await act();
    }
}
