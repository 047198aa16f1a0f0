using Keralith.Data;
using Keralith.Web.Security;
using MimeKit;

namespace Keralith.Web.Mailing;

/// <summary>Mails of the works: kept in the database first, delivered then, tried again where that fails.</summary>
public sealed class Mails(MailStore store, IMailPost post, Served served)
{
    /// <summary>Where mails go, as administrators read it.</summary>
    public string Where => post.Said;

    /// <summary>Sends a mail; the same id twice is one. Into the outbox at once, to a server with the next round.</summary>
    public async Task SendAsync(Mail mail, CancellationToken cancel)
    {
        await store.AddAsync(mail, cancel);
        if (post is Outbox)
            await DeliverAsync(cancel);
    }

    /// <summary>Delivers what waits.</summary>
    /// <returns>How many were delivered, and how many could not be.</returns>
    public Task<(int Sent, int Failed)> DeliverAsync(CancellationToken cancel) =>
        store.DeliverAsync((mail, c) => post.DeliverAsync(mail, Message(mail), c), cancel);

    private MimeMessage Message(Mail mail)
    {
        var message = new MimeMessage
        {
            Subject = mail.Subject,
            Body = new TextPart("plain") { Text = mail.Body },
        };
        message.From.Add(new MailboxAddress("Keralith", served.MailFrom));
        message.To.Add(new MailboxAddress(mail.Name, mail.Address));
        message.MessageId = $"{mail.Id:N}@{served.Address?.Host ?? "keralith.invalid"}";
        return message;
    }
}
