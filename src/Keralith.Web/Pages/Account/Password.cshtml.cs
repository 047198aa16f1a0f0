using Keralith.Core.People;
using Keralith.Data;
using Keralith.Web.Security;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.Mvc;

namespace Keralith.Web.Pages.Account;

/// <summary>Choosing a password by an address that works once: the first, or another.</summary>
[AllowAnonymous]
public sealed class PasswordModel(Here here, AccountStore accounts, SiteStore sites, IPasswordHasher<Actor> hasher)
    : YardPage(here)
{
    public string? Token { get; private set; }

    /// <summary>Whose password it is; null where the address works no more.</summary>
    public Actor? Whose { get; private set; }

    public bool IsFirst { get; private set; }

    public bool IsDone { get; private set; }

    public async Task OnGetAsync(string? token)
    {
        await LoadAsync(token);
    }

    public async Task<IActionResult> OnPostAsync(string? token, string? password, string? again)
    {
        await LoadAsync(token);
        if (Whose is not { } whose)
            return Page();
        var works = (await sites.GetAsync(Cancel)).Name;
        var refusal = PasswordRule.RefusalOf(password, again, [whose.Name, whose.Username, works], CommonPasswords.Has);
        if (refusal is null)
        {
            var chosen = await accounts.ChooseAsync(token, hasher.HashPassword(whose, password!), Here.Now, Cancel);
            (refusal, IsDone) = (chosen.Refusal, chosen.Ok);
        }

        if (refusal is not null)
            Refuse(refusal);
        return Page();
    }

    private async Task LoadAsync(string? token)
    {
        Token = token;
        var found = await accounts.OfLinkAsync(token, Here.Now, Cancel);
        if (found.Ok)
            (Whose, IsFirst) = (found.Value.Person, found.Value.Purpose == LinkPurpose.Invitation);
        else
            Refuse(found.Refusal!);
    }
}
