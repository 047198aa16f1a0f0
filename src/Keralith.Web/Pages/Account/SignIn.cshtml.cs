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
    SignInStore signIns
) : YardPage(here)
{
    /// <summary>The password of every demo person; shown in demo mode only.</summary>
    public const string SharedDemoPassword = "lockgate-demo";

    /// <summary>One wording for a wrong name, a wrong password and a locked sign-in: nobody learns which names exist.</summary>
    private const string Wrong =
        "Name and password do not match, or there were too many tries. After six wrong passwords a sign-in is locked for five minutes.";

    public string Username { get; private set; } = string.Empty;

    public string? Next { get; private set; }

    public string SiteName { get; private set; } = string.Empty;

    public IReadOnlyList<Actor> Demo { get; private set; } = [];

    public string DemoPassword => SharedDemoPassword;

    public async Task OnGetAsync(string? next)
    {
        Next = next;
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

        await SignedIn.BeginAsync(HttpContext, actor, signIns, Here.Now);
        return Url.IsLocalUrl(next) ? LocalRedirect(next) : Redirect("/");
    }

    public static string Does(Role role) =>
        role switch
        {
            Role.Crew => "look gear over, stop on a doubt",
            Role.Stores => "register gear, keep the cage",
            Role.Trainee => "inspect, to be countersigned",
            Role.Inspector => "inspect, measure, sign",
            Role.Qualified => "release, condemn",
            Role.Admin => "set the site up",
            Role.Auditor => "read everything, change nothing",
        };

    private async Task LoadAsync()
    {
        if (await sites.FindAsync(Cancel) is not { Demo: true } site)
            return;
        SiteName = site.Name;
        Demo = (await people.AllAsync(Cancel)).OrderBy(p => p.Role).ToList();
    }
}
