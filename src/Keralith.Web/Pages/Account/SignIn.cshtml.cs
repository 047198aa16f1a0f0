using Keralith.Core.People;
using Keralith.Data;
using Keralith.Web.Security;
using Microsoft.AspNetCore.Authentication;
using Microsoft.AspNetCore.Authentication.Cookies;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.Mvc;

namespace Keralith.Web.Pages.Account;

[AllowAnonymous]
public sealed class SignInModel(Here here, SiteStore sites, PeopleStore people, IPasswordHasher<Actor> hasher) : YardPage(here)
{
    /// <summary>The password of every demo person; shown in demo mode only.</summary>
    public const string SharedDemoPassword = "lockgate-demo";

    /// <summary>One wording for a wrong name, a wrong password and a locked sign-in: nobody learns which names exist.</summary>
    private const string Wrong = "Name and password do not match, or there were too many tries. After six wrong passwords a sign-in is locked for five minutes.";

    private static readonly Actor Nobody = new(Guid.Empty, "nobody", "Nobody", Role.Auditor);
    private static readonly string NobodysHash = new PasswordHasher<Actor>().HashPassword(Nobody, Guid.NewGuid().ToString());

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
        var person = Username.Length is 0 or > 60 ? null : await people.FindAsync(Username, Cancel);
        var locked = person?.LockedUntil > Here.Now;
        var matches = hasher.VerifyHashedPassword(person?.Actor ?? Nobody, person?.PasswordHash ?? NobodysHash, password is { Length: <= 200 } ? password : string.Empty) != PasswordVerificationResult.Failed;
        if (person is null || locked || !matches)
        {
            if (person is not null && !locked) await people.CountFailureAsync(person.Actor.Id, Here.Now, Cancel);
            Refuse(Wrong);
            await LoadAsync();
            return Page();
        }

        await people.ForgetFailuresAsync(person.Actor.Id, Cancel);
        await HttpContext.SignInAsync(CookieAuthenticationDefaults.AuthenticationScheme, ClaimsReading.Principal(person.Actor, CookieAuthenticationDefaults.AuthenticationScheme));
        return Url.IsLocalUrl(next) ? LocalRedirect(next) : Redirect("/");
    }

    public static string Does(Role role) => role switch
    {
        Role.Crew => "look gear over, stop on a doubt",
        Role.Stores => "register gear, keep the cage",
        Role.Trainee => "draft inspections",
        Role.Inspector => "inspect, measure, sign",
        Role.Qualified => "release, condemn",
        Role.Admin => "set the site up",
        Role.Auditor => "read everything, change nothing",
        _ => throw new ArgumentOutOfRangeException(nameof(role), role, null),
    };

    private async Task LoadAsync()
    {
        if (await sites.FindAsync(Cancel) is not { Demo: true } site) return;
        SiteName = site.Name;
        Demo = (await people.AllAsync(Cancel)).OrderBy(p => p.Role).ToList();
    }
}
