using Keralith.Core.People;
using Keralith.Data;
using Keralith.Web.Security;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;

namespace Keralith.Web.Pages.Account;

[AllowAnonymous]
public sealed class SignInModel(
    Here here,
    SiteStore sites,
    PeopleStore people,
    Passwords passwords,
    SignInStore signIns,
    FactorStore factors,
    SecondFactor second,
    Served served
) : YardPage(here)
{
    /// <summary>The password of every demo person; shown in demo mode only.</summary>
    public const string SharedDemoPassword = "lockgate-demo";

    /// <summary>One wording for a wrong name, a wrong password and a locked sign-in: nobody learns which names exist.</summary>
    private const string Wrong =
        "Name and password do not match, or there were too many tries. After six wrong passwords a sign-in is locked for five minutes.";

    public string Username { get; private set; } = string.Empty;

    public string? Next { get; private set; }

    /// <summary>Whether the works' own directory signs people in.</summary>
    public bool HasDirectory => served.Directory is not null;

    /// <summary>That the password was right and a code is asked now; null: the password is.</summary>
    public string? Half { get; private set; }

    public string SiteName { get; private set; } = string.Empty;

    public IReadOnlyList<Actor> Demo { get; private set; } = [];

    public string DemoPassword => SharedDemoPassword;

    public async Task OnGetAsync(string? next, string? directory)
    {
        Next = next;
        if (DirectorySignIn.RefusalOf(directory) is { } refusal)
            Refuse(refusal);
        await LoadAsync();
    }

    public async Task<IActionResult> OnPostAsync(string? username, string? password, string? next)
    {
        Username = (username ?? string.Empty).Trim().ToLowerInvariant();
        Next = next;
        if (await passwords.CheckAsync(Username, password, HttpContext.Address(), Here.Now, Cancel) is not { } actor)
        {
            Refuse(Wrong);
            await LoadAsync();
            return Page();
        }

        if (await factors.FindAsync(actor.Id, Cancel) is not null)
        {
            Half = second.Half(actor);
            return Page();
        }

        return await InAsync(actor, next);
    }

    /// <summary>The second step: a code of the phone, or one from the paper.</summary>
    public async Task<IActionResult> OnPostCodeAsync(string? half, string? code, string? next)
    {
        Next = next;
        if (second.OfHalf(half) is not { } id || (await people.AllAsync(Cancel)).Find(p => p.Id == id) is not { } actor)
        {
            Refuse(Accounts.TooLate);
            await LoadAsync();
            return Page();
        }

        if (await second.CheckAsync(actor, code, Here.Now, Cancel))
            return await InAsync(actor, next);
        Half = half;
        Refuse(Accounts.WrongCode);
        return Page();
    }

    private async Task<IActionResult> InAsync(Actor actor, string? next)
    {
        await SignedIn.BeginAsync(HttpContext, actor, signIns, Here.Now);
        return Url.IsLocalUrl(next) ? LocalRedirect(next) : Redirect("/");
    }

    private async Task LoadAsync()
    {
        if (await sites.FindAsync(Cancel) is not { Demo: true } site)
            return;
        SiteName = site.Name;
        Demo = (await people.AllAsync(Cancel)).OrderBy(p => p.Roles.Each.First()).ToList();
    }
}
