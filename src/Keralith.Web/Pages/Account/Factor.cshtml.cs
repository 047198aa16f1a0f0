using Keralith.Core.People;
using Keralith.Data;
using Keralith.Web.Security;
using Microsoft.AspNetCore.Mvc;

namespace Keralith.Web.Pages.Account;

/// <summary>Setting one's own second factor up, and taking it off.</summary>
public sealed class FactorModel(Here here, FactorStore factors, SecondFactor second, Passwords passwords)
    : YardPage(here)
{
    /// <summary>The secret to be set up, not kept yet.</summary>
    public string Secret { get; private set; } = SecondFactor.NewSecret();

    public string Address { get; private set; } = string.Empty;

    public bool HasOne { get; private set; }

    public int RecoveryLeft { get; private set; }

    /// <summary>Whether the site asks this person for one.</summary>
    public bool IsAsked { get; private set; }

    /// <summary>The recovery codes just made; none on every other showing.</summary>
    public IReadOnlyList<string> Recovery { get; private set; } = [];

    public Task OnGetAsync() => LoadAsync();

    /// <summary>Keeps the secret, once a code shows that the phone has it.</summary>
    public async Task<IActionResult> OnPostAsync(string? secret, string? code, string? current)
    {
        Secret = secret is { Length: 32 } ? secret : SecondFactor.NewSecret();
        if (!await Here.ConfirmsAsync(passwords, current, Cancel))
            Refuse(Accounts.WrongPassword);
        else if (SecondFactor.StepOf(Secret, code, Here.Now) is not { } step)
            Refuse(Accounts.NotItsCode);
        else
        {
            var recovery = SecondFactor.NewRecoveryCodes();
            var done = await factors.SetAsync(second.Seal(Secret), step, recovery, Here.Stamp(Submission), Cancel);
            if (done is { Ok: true, Value.Repeated: false })
                Recovery = recovery;
            else if (!done.Ok)
                Refuse(done.Refusal!);
        }

        await LoadAsync();
        return Page();
    }

    /// <summary>Takes the second factor off.</summary>
    public async Task<IActionResult> OnPostOffAsync(string? current)
    {
        if (await Here.ConfirmsAsync(passwords, current, Cancel))
        {
            return await AfterAsync(
                await factors.SetAsync(null, null, [], Here.Stamp(Submission), Cancel),
                "/account?said=no-factor",
                LoadAsync
            );
        }

        Refuse(Accounts.WrongPassword);
        await LoadAsync();
        return Page();
    }

    private async Task LoadAsync()
    {
        var site = await Here.SiteAsync(Cancel);
        Address = SecondFactor.AddressOf(Secret, Here.Actor.Username, site.Name);
        HasOne = await factors.FindAsync(Here.Actor.Id, Cancel) is not null;
        RecoveryLeft = await factors.RecoveryLeftAsync(Here.Actor.Id, Cancel);
        IsAsked = Accounts.LacksSecondFactor(site.AsksSecondFactor, Here.Actor.Roles, HasOne);
    }
}
