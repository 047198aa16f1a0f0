using Keralith.Core.People;
using Keralith.Data;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;

namespace Keralith.Web.Pages.Settings;

/// <summary>
/// Tokens programs sign in with: everybody's own, with rights no larger than theirs and an end. A token is shown once, when
/// it is made.
/// </summary>
[Authorize(Policy = nameof(Right.Read))]
public sealed class TokensModel(Here here, TokenStore tokens) : YardPage(here)
{
    public IReadOnlyList<TokenRow> Tokens { get; private set; } = [];

    /// <summary>The token just made; null on every other showing of this page.</summary>
    public string? Made { get; private set; }

    public Task OnGetAsync() => LoadAsync();

    /// <summary>The day a token ends unless another is chosen.</summary>
    public DateOnly UsualEnd => Here.Today.AddDays(PeopleActs.LongestTokenDays - 1);

    public async Task<IActionResult> OnPostMakeAsync(string? name, string? ends, string[] role)
    {
        if (!IsDay(ends, "Until", out var day))
        {
            await LoadAsync();
            return Page();
        }

        var token = TokenStore.Make();
        var chosen = role.Select(r => Code.Find<Role>(r ?? string.Empty)).OfType<Role>().ToList();
        var roles = role.Length == 0 ? Here.Actor.Roles : Roles.Of(chosen);
        var result = await tokens.AddAsync(name ?? string.Empty, token, day, roles, Here.Stamp(Submission), Cancel);
        if (!result.Ok)
            Refuse(result.Refusal!);
        else if (result.Value.Repeated)
            return Redirect("/settings/tokens");
        else
            Made = token;
        Submission = Guid.CreateVersion7();
        Response.Headers.CacheControl = "no-store";
        await LoadAsync();
        return Page();
    }

    public async Task<IActionResult> OnPostRevokeAsync(Guid id) =>
        await AfterAsync(await tokens.RevokeAsync(id, Here.Stamp(Submission), Cancel), "/settings/tokens", LoadAsync);

    private async Task LoadAsync() =>
        Tokens = await tokens.ListAsync(Here.May(Right.ManageTokens) ? null : Here.Actor.Id, Cancel);
}
