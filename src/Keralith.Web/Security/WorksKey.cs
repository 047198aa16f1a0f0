using System.Security.Cryptography;
using Keralith.Core.Ledger;
using Keralith.Data;
using Keralith.Web.Mailing;
using Microsoft.AspNetCore.DataProtection;

namespace Keralith.Web.Security;

/// <summary>
/// The key of the works: it signs the heads of the ledger. Its private half is kept in the database, sealed by data
/// protection; where that can't be opened any more another key is made, and the old heads stay readable by their own.
/// </summary>
public sealed class WorksKey(
    TreeHeadStore heads,
    SiteStore sites,
    IDataProtectionProvider protection,
    Mails mails,
    TimeProvider time
)
{
    private readonly IDataProtector _seal = protection.CreateProtector("keralith.head-key");

    /// <summary>The folder outside that every head is written to as well; null: none.</summary>
    private static string? Folder => Environment.GetEnvironmentVariable("KERALITH_HEADS");

    /// <summary>Why the program can't start with the folder it is given; null when it can.</summary>
    public static string? FaultOfFolder =>
        Folder is { } folder && string.IsNullOrWhiteSpace(folder)
            ? "KERALITH_HEADS is set and names no folder: name the folder outside that heads are written to, or leave it out."
            : null;

    /// <summary>Who keeps the heads elsewhere and gets each by mail; null: nobody.</summary>
    private static string? Keeper => Environment.GetEnvironmentVariable("KERALITH_HEADS_MAIL");

    /// <summary>Signs the ledger's head now.</summary>
    /// <param name="rotate">Whether another key is made first.</param>
    /// <returns>The head; null while the ledger is empty or has not grown since the last.</returns>
    public async Task<TreeHead?> SignAsync(bool rotate, CancellationToken cancel)
    {
        var works = (await sites.GetAsync(cancel))?.Name ?? "Keralith";
        using var known = rotate ? null : await OpenAsync(cancel);
        using var key = known ?? await MakeAsync(cancel);
        var head = await heads.SignAsync(works, key, time.GetUtcNow(), rotate || known is null, cancel);
        if (head is not null && Folder is { } folder)
        {
            Directory.CreateDirectory(folder);
            await File.WriteAllTextAsync(Path.Combine(folder, $"head-{head.Size:00000000}.json"), head.Json(), cancel);
        }

        // The same head is one mail, however often it is handed on.
        if (head is not null && Keeper is { Length: > 0 } keeper)
            await mails.SendAsync(
                new(
                    new(head.Root.AsSpan(0, 16)),
                    string.Empty,
                    keeper,
                    keeper,
                    $"Head of the ledger of {head.Works}, {head.Size} entries",
                    $"Keep this where the works can't reach it: verify-ledger --head finds with it what was altered or cut off.\n\n{head.Json()}\n"
                ),
                cancel
            );

        return head;
    }

    private async Task<ECDsa?> OpenAsync(CancellationToken cancel)
    {
        if ((await heads.KeysAsync(cancel)).FirstOrDefault() is not { } row)
            return null;
        var key = ECDsa.Create();
        try
        {
            key.ImportFromPem(_seal.Unprotect(row.Sealed));
            return key;
        }
        catch (Exception e) when (e is CryptographicException or ArgumentException)
        {
            // Sealed by a key this application has lost: another one signs from here on.
            key.Dispose();
            return null;
        }
    }

    private async Task<ECDsa> MakeAsync(CancellationToken cancel)
    {
        var key = ECDsa.Create(ECCurve.NamedCurves.nistP256);
        await heads.AddKeyAsync(
            new(
                TreeHead.FingerprintOf(key),
                key.ExportSubjectPublicKeyInfoPem(),
                _seal.Protect(key.ExportPkcs8PrivateKeyPem()),
                time.GetUtcNow()
            ),
            cancel
        );
        return key;
    }
}
