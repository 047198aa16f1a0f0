using Keralith.Core.People;
using Keralith.Data;
using Keralith.Web.Mailing;

namespace Keralith.Web.Security;

/// <summary>An address by which somebody chooses a password. It is shown once.</summary>
/// <param name="Name">Whose it is.</param>
/// <param name="Username">Their sign-in name.</param>
/// <param name="Address">The address; null where the same was sent twice, and it was shown the first time.</param>
/// <param name="Until">From when on it works no more.</param>
/// <param name="MailedTo">Where it was mailed to; empty: nowhere.</param>
public sealed record Invitation(string Name, string Username, Uri? Address, DateTimeOffset Until, string MailedTo);

/// <summary>Makes the addresses by which people choose their passwords, and mails them where that is wished.</summary>
public sealed class Invitations(AccountStore accounts, PublicAddress address, Mails mails, SiteStore sites)
{
    /// <summary>Invites somebody.</summary>
    /// <param name="send">Whether the address is mailed to them.</param>
    public async Task<Checked<Invitation>> InviteAsync(
        NewPerson person,
        bool send,
        Stamp stamp,
        CancellationToken cancel
    )
    {
        var secret = AccountStore.NewSecret();
        var done = await accounts.InviteAsync(person, secret, stamp, cancel);
        return await MadeAsync(done, person, secret, send, stamp.At + Accounts.InvitationLasts, cancel);
    }

    /// <summary>Makes somebody another address: they forgot their password, or their invitation ran out.</summary>
    public async Task<Checked<Invitation>> ResetAsync(PersonRow row, bool send, Stamp stamp, CancellationToken cancel)
    {
        var secret = AccountStore.NewSecret();
        var done = await accounts.ResetAsync(row.Actor.Username, secret, stamp, cancel);
        var person = new NewPerson(row.Actor.Username, row.Actor.Name, row.Actor.Roles, row.Mail);
        var lasts = row.IsInvited ? Accounts.InvitationLasts : Accounts.ResetLasts;
        return await MadeAsync(done, person, secret, send, stamp.At + lasts, cancel);
    }

    private async Task<Checked<Invitation>> MadeAsync(
        Checked<Recorded> done,
        NewPerson person,
        string secret,
        bool send,
        DateTimeOffset until,
        CancellationToken cancel
    )
    {
        if (!done.Ok)
            return done.Refusal!;
        if (done.Value.Repeated)
            return new Invitation(person.Name, person.Username, null, until, string.Empty);
        var at = address.Of($"/password?token={secret}");
        var to = send ? person.Mail : string.Empty;
        if (to.Length > 0)
        {
            var works = (await sites.GetAsync(cancel)).Name;
            await mails.SendAsync(
                new(
                    Guid.CreateVersion7(),
                    person.Username,
                    person.Name,
                    to,
                    $"Keralith at {works}: choose your password",
                    $"{person.Name},\n\nyou sign in at {works} as {person.Username}. Choose your password here:\n\n{at}\n\nThe address works once, until {until:yyyy-MM-dd HH:mm} UTC.\n"
                ),
                cancel
            );
        }

        return new Invitation(person.Name, person.Username, at, until, to);
    }
}
