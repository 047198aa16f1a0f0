using Keralith.Core.Ledger;
using Keralith.Core.People;
using Keralith.Data;
using Keralith.Web.Security;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;

namespace Keralith.Web.Pages.Heads;

/// <summary>
/// Open to everybody: the works' public keys, the heads of its ledger, and checking a certificate against them. Signing one
/// is the administrator's.
/// </summary>
[AllowAnonymous]
[TakesAnyText]
[RequestSizeLimit(MostOfACertificate)]
public sealed class IndexModel(Here here, TreeHeadStore heads, WorksKey works) : YardPage(here)
{
    private const int MostOfACertificate = 2_000_000;
    private const int MostShown = 60;

    public IReadOnlyList<TreeHead> Heads { get; private set; } = [];

    public IReadOnlyList<HeadKeyRow> Keys { get; private set; } = [];

    /// <summary>What came of a check; null: nothing was checked.</summary>
    public IReadOnlyList<CertificateStep>? Steps { get; private set; }

    public bool MaySign => Here.Who is not null && Here.May(Right.Operate);

    public Task OnGetAsync() => LoadAsync();

    /// <summary>Checks a certificate's JSON against the works' keys.</summary>
    public async Task<IActionResult> OnPostAsync(string? certificate, IFormFile? file)
    {
        await LoadAsync();
        var json = certificate ?? string.Empty;
        if (file is { Length: > 0 and <= MostOfACertificate })
        {
            using var reader = new StreamReader(file.OpenReadStream());
            json = await reader.ReadToEndAsync(Cancel);
        }

        // By the key it names, where that is one of ours; else by the newest, which it then fails.
        var named = Keys.FirstOrDefault(k => json.Contains(k.Fingerprint, StringComparison.Ordinal))
            ?? Keys.FirstOrDefault();
        Steps = CertificateDocument.Check(json, publicKey: named?.PublicPem);
        return Page();
    }

    /// <summary>Signs a head now.</summary>
    /// <param name="rotate">Whether with a new key.</param>
    [Takes(Right.Operate)]
    public async Task<IActionResult> OnPostSignAsync(bool rotate)
    {
        if (!MaySign)
            return Forbid();
        await works.SignAsync(rotate, Cancel);
        return Redirect("/heads");
    }

    private async Task LoadAsync()
    {
        Heads = await heads.HeadsAsync(MostShown, Cancel);
        Keys = await heads.KeysAsync(Cancel);
    }
}
