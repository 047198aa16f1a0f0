using Keralith.Core.People;
using Keralith.Data;
using Keralith.Web.Security;
using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.Mvc;

namespace Keralith.Web.Pages.Account;

/// <summary>What a person does about themself: password, where they are signed in, second factor, mails.</summary>
public sealed class AccountModel(
    Here here,
    SignInStore signIns,
    AccountStore accounts,
    OwnWaysStore ways,
    Passwords passwords,
    IPasswordHasher<Actor> hasher
) : YardPage(here)
{
    public Actor Who => Here.Actor;

    /// <summary>The person as they stand; null where the program itself asks.</summary>
    public PersonRow? Row { get; private set; }

    public IReadOnlyList<OpenSignIn> SignIns { get; private set; } = [];

    /// <summary>What was just done, in words; null: nothing.</summary>
    public string? Said { get; private set; }

    /// <summary>
    /// Whether the directory signs them in and they have no password yet to sign records with: they choose one, just
    /// after they signed in.
    /// </summary>
    public bool IsFirstOfDirectory => Row is { IsOfDirectory: true, HasPassword: false };

    private static readonly TimeSpan JustNow = TimeSpan.FromMinutes(10);

    private string Secret => User.SignIn() ?? string.Empty;

    public Task OnGetAsync(string? said)
    {
        Said = said switch
        {
            "password" => "Your password is changed. You are signed out everywhere else.",
            "factor" => "Your second factor is set up.",
            "no-factor" => "Your second factor is taken off.",
            _ => null,
        };
        return LoadAsync();
    }

    public async Task<IActionResult> OnPostAsync()
    {
        await SignedIn.EndAsync(HttpContext, signIns);
        return Redirect("/sign-in");
    }

    /// <summary>Changes the password: the current one is asked, and every other sign-in ends.</summary>
    public async Task<IActionResult> OnPostPasswordAsync(string? current, string? password, string? again)
    {
        var site = await Here.SiteAsync(Cancel);
        await LoadAsync();
        var confirmed = IsFirstOfDirectory
            ? SignIns.Any(s => s.IsThis && Here.Now - s.BegunAt < JustNow)
            : await Here.ConfirmsAsync(passwords, current, Cancel);
        var refusal = confirmed
            ? PasswordRule.RefusalOf(password, again, [Who.Name, Who.Username, site.Name], CommonPasswords.Has)
            : Accounts.WrongPassword;
        if (refusal is not null)
        {
            Refuse(refusal);
            return Page();
        }

        return await AfterAsync(
            await accounts.ChangeOwnAsync(hasher.HashPassword(Who, password!), Secret, Here.Stamp(Submission), Cancel),
            "/account?said=password",
            LoadAsync
        );
    }

    /// <summary>Ends one of one's own sign-ins.</summary>
    public async Task<IActionResult> OnPostEndAsync(Guid id)
    {
        await signIns.EndOwnAsync(Who.Id, id, Cancel);
        return Redirect("/account");
    }

    /// <summary>Says what one wants by mail.</summary>
    public async Task<IActionResult> OnPostMailsAsync(string[] mail)
    {
        var kinds = mail.Select(Code.Find<MailKind>).ToList();
        if (kinds.Contains(null))
            return BadRequest();
        await ways.WantMailsAsync(Who.Id, kinds.OfType<MailKind>(), Cancel);
        return Redirect("/account");
    }

    /// <summary>Says when explanations stand open beside what is asked.</summary>
    public async Task<IActionResult> OnPostExplainAsync(string? when)
    {
        if (Code.Find<Explain>(when) is not { } known)
            return BadRequest();
        await ways.ExplainAsync(Who.Id, known, Cancel);
        return Redirect("/account");
    }

    /// <summary>Takes the strip of first steps away.</summary>
    public async Task<IActionResult> OnPostStepsAsync()
    {
        await ways.LeaveStepsAsync(Who.Id, Cancel);
        return Redirect("/");
    }

    /// <summary>Says in which unit a bare figure is taken where nothing else says it.</summary>
    public async Task<IActionResult> OnPostUnitAsync(string? unit)
    {
        if (unit is not (null or "in" or "mm"))
            return BadRequest();
        await ways.LikeUnitAsync(Who.Id, unit, Cancel);
        return Redirect("/account");
    }

    private async Task LoadAsync()
    {
        Row = await accounts.FindAsync(Who.Username, Here.Now, Cancel);
        SignIns = await signIns.OpenAsync(Who.Id, Secret, Here.Now, Cancel);
    }
}
