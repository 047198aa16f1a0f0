using Keralith.Core.People;
using Keralith.Data;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;

namespace Keralith.Web.Pages.Settings;

/// <summary>Tokens programs sign in with. A token is shown once, when it is made.</summary>
[Authorize(Policy = nameof(Right.ManageTokens))]
public sealed class TokensModel(Here here, TokenStore tokens) : YardPage(here)
{
    public IReadOnlyList<TokenRow> Tokens { get; private set; } = [];

    /// <summary>The token just made; null on every other showing of this page.</summary>
    public string? Made { get; private set; }

    public Task OnGetAsync() => LoadAsync();

    public async Task<IActionResult> OnPostMakeAsync(string? name)
    {
        var token = TokenStore.Make();
        var result = await tokens.AddAsync(name ?? string.Empty, token, Here.Stamp(Submission), Cancel);
        if (!result.Ok)
            Refuse(result.Fault!);
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

    private async Task LoadAsync() => Tokens = await tokens.ListAsync(Cancel);
}
