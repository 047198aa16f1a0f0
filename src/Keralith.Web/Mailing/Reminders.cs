using System.Security.Cryptography;
using System.Text;
using Keralith.Core.People;
using Keralith.Data;
using Keralith.Web.Showing;

namespace Keralith.Web.Mailing;

/// <summary>Tells everybody who signs what is overdue and what runs out within the site's notice, store by store.</summary>
public sealed class Reminders(SiteStore sites, DueStore due, AccountStore accounts, Mails mails, SiteClock clock)
{
    /// <summary>Writes the mails of one round.</summary>
    /// <param name="round">What the round is told by: the same round to the same person twice is one mail.</param>
    /// <returns>How many were written.</returns>
    public async Task<int> SendAsync(Guid round, CancellationToken cancel)
    {
        if (await sites.FindAsync(cancel) is not { } site)
            return 0;
        var today = site.DayOf(clock.Now);
        var until = today.AddDays(site.DueNotice);
        var days = await due.DaysAsync(until, cancel);
        var text = new StringBuilder();
        foreach (var store in days.GroupBy(d => d.Store))
        {
            text.AppendLine(store.Key);
            foreach (var (day, _, marks) in store)
                text.Append("  ")
                    .Append(Say.Date(day, today))
                    .Append(day < today ? ", overdue: " : ": ")
                    .AppendLine(string.Join(", ", marks));
        }

        text.AppendLine(days.Count == 0 ? "Nothing is due." : "An overdue piece can't be used until it is inspected.");
        var written = 0;
        foreach (var row in await accounts.AllAsync(clock.Now, cancel))
        {
            if (
                row is { IsDisabled: false, IsInvited: false, Mail.Length: > 0 }
                && row.Mails.Contains(MailKind.Reminders)
                && row.Actor.Roles.May(Right.SignInspection)
            )
            {
                await mails.SendAsync(
                    new(
                        IdOf(round, row.Actor.Id),
                        row.Actor.Username,
                        row.Actor.Name,
                        row.Mail,
                        $"Due until {until:yyyy-MM-dd}: {days.Sum(d => d.Marks.Count)} pieces",
                        text.ToString()
                    ),
                    cancel
                );
                written++;
            }
        }

        return written;
    }

    /// <summary>The id of a day's round, the same on every node.</summary>
    public static Guid RoundOf(DateOnly day) =>
        new(SHA256.HashData(Encoding.UTF8.GetBytes($"reminders {day:yyyy-MM-dd}"))[..16]);

    /// <summary>Today, where the site lies.</summary>
    public DateOnly Today => clock.DayOf(clock.Now);

    private static Guid IdOf(Guid round, Guid person) =>
        new(SHA256.HashData([.. round.ToByteArray(), .. person.ToByteArray()])[..16]);
}
