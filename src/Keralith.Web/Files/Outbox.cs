using System.Globalization;
using System.Net.Mail;
using System.Text;
using System.Text.RegularExpressions;

namespace Keralith.Web.Files;

/// <summary>A mail in the outbox.</summary>
/// <param name="Name">Its file's name.</param>
/// <param name="At">When it was written.</param>
public sealed record OutboxMail(string Name, DateTime At);

/// <summary>
/// A stand-in for a mail server: mails land as .eml files in the folder <c>mail</c> of the spool (KERALITH_SPOOL, or
/// beside the temporary files), where any mail
/// program opens them. Nothing leaves the machine.
/// </summary>
public sealed partial class Outbox(TimeProvider clock)
{
    private const int MostShown = 60;

    private static string Folder =>
        Path.Combine(
            Environment.GetEnvironmentVariable("KERALITH_SPOOL") ?? Path.Combine(Path.GetTempPath(), "keralith-spool"),
            "mail"
        );

    /// <summary>Puts a mail into the outbox; the same submission to the same person twice is one.</summary>
    public void Send(Guid submission, string username, string name, string subject, string text)
    {
        Directory.CreateDirectory(Folder);
        if (Directory.EnumerateFiles(Folder, $"*-{submission:N}-{username}.eml").Any())
            return;
        var making = Directory.CreateDirectory(Path.Combine(Folder, $"making-{Guid.NewGuid():N}"));
        using (
            var mail = new MailMessage(
                new MailAddress("keralith@hollowmere.invalid", "Keralith"),
                new MailAddress($"{username}@hollowmere.invalid", name)
            )
            {
                Subject = subject,
                Body = text,
                BodyEncoding = Encoding.UTF8,
            }
        )
        using (
            var pickup = new SmtpClient
            {
                DeliveryMethod = SmtpDeliveryMethod.SpecifiedPickupDirectory,
                PickupDirectoryLocation = making.FullName,
            }
        )
        {
            pickup.Send(mail);
        }

        File.Move(
            making.GetFiles("*.eml")[0].FullName,
            Path.Combine(
                Folder,
                string.Create(
                    CultureInfo.InvariantCulture,
                    $"{clock.GetUtcNow():yyyyMMdd-HHmmss}-{submission:N}-{username}.eml"
                )
            )
        );
        making.Delete();
    }

    /// <summary>What lies in it, newest first.</summary>
    public static IReadOnlyList<OutboxMail> Mails() =>
        !Directory.Exists(Folder)
            ? []
            :
            [
                .. Directory
                    .EnumerateFiles(Folder, "*.eml")
                    .Select(f => Path.GetFileNameWithoutExtension(f))
                    .Where(n => Mail().IsMatch(n))
                    .OrderDescending()
                    .Take(MostShown)
                    .Select(n => new OutboxMail(
                        n,
                        DateTime.ParseExact(n[..15], "yyyyMMdd-HHmmss", CultureInfo.InvariantCulture)
                    )),
            ];

    /// <summary>The file of a mail; null when there is none of that name.</summary>
    public static string? FileOf(string name) =>
        Mail().IsMatch(name) && Path.Combine(Folder, $"{name}.eml") is var path && File.Exists(path) ? path : null;

    [GeneratedRegex(@"^\d{8}-\d{6}-[0-9a-f]{32}-[a-z0-9]{1,40}$")]
    private static partial Regex Mail();
}
