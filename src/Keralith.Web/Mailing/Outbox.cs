using System.Globalization;
using System.Text.RegularExpressions;
using Keralith.Data;
using MimeKit;

namespace Keralith.Web.Mailing;

/// <summary>A mail in the outbox.</summary>
/// <param name="Name">Its file's name.</param>
/// <param name="At">When it was written.</param>
/// <param name="Username">Whom it is to.</param>
public sealed record OutboxMail(string Name, DateTime At, string Username);

/// <summary>
/// A stand-in for a mail server: mails land as .eml files in the folder <c>mail</c> of the spool (KERALITH_SPOOL, or
/// beside the temporary files), where any mail program opens them. Nothing leaves the machine.
/// </summary>
public sealed partial class Outbox(TimeProvider clock) : IMailPost
{
    private const int MostShown = 60;

    /// <summary>Letters of a file's name before the sign-in name: the moment, and the mail's id.</summary>
    private const int BeforeUsername = 49;

    private static string Folder =>
        Path.Combine(
            Environment.GetEnvironmentVariable("KERALITH_SPOOL") ?? Path.Combine(Path.GetTempPath(), "keralith-spool"),
            "mail"
        );

    public string Said => "the outbox on this machine";

    /// <summary>Puts a mail into the outbox; the same one twice is one.</summary>
    public async Task DeliverAsync(Mail mail, MimeMessage message, CancellationToken cancel)
    {
        Directory.CreateDirectory(Folder);
        if (Directory.EnumerateFiles(Folder, $"*-{mail.Id:N}-{mail.Username}.eml").Any())
            return;
        var making = Path.Combine(Folder, $"making-{Guid.NewGuid():N}");
        await message.WriteToAsync(making, cancel);
        if (!OperatingSystem.IsWindows())
            File.SetUnixFileMode(making, UnixFileMode.UserRead | UnixFileMode.UserWrite);
        File.Move(
            making,
            Path.Combine(
                Folder,
                string.Create(
                    CultureInfo.InvariantCulture,
                    $"{clock.GetUtcNow():yyyyMMdd-HHmmss}-{mail.Id:N}-{mail.Username}.eml"
                )
            )
        );
    }

    /// <summary>What lies in it, newest first.</summary>
    /// <param name="username">Only what is to one person; null: all.</param>
    public static IReadOnlyList<OutboxMail> Mails(string? username) =>
        !Directory.Exists(Folder)
            ? []
            :
            [
                .. Directory
                    .EnumerateFiles(Folder, "*.eml")
                    .Select(f => Path.GetFileNameWithoutExtension(f))
                    .Where(n => Mail().IsMatch(n))
                    .OrderDescending()
                    .Select(n => new OutboxMail(
                        n,
                        DateTime.ParseExact(n[..15], "yyyyMMdd-HHmmss", CultureInfo.InvariantCulture),
                        n[BeforeUsername..]
                    ))
                    .Where(m => username is null || m.Username == username)
                    .Take(MostShown),
            ];

    /// <summary>The file of a mail; null when there is none of that name, or it is to somebody else.</summary>
    /// <param name="username">Only what is to one person; null: all.</param>
    public static string? FileOf(string name, string? username) =>
        Mail().IsMatch(name)
        && (username is null || name[BeforeUsername..] == username)
        && Path.Combine(Folder, $"{name}.eml") is var path
        && File.Exists(path)
            ? path
            : null;

    [GeneratedRegex(@"^\d{8}-\d{6}-[0-9a-f]{32}-[a-z0-9._-]{1,40}$")]
    private static partial Regex Mail();
}
