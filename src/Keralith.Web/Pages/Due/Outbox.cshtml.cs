using System.Text;
using Keralith.Core.People;
using Keralith.Data;
using Keralith.Web.Files;
using Microsoft.AspNetCore.Mvc;

namespace Keralith.Web.Pages.Due;

/// <summary>Reminder mails: written to who may sign, lying in the outbox's stand-in to be opened.</summary>
public sealed class OutboxModel(Here here, DueStore due, PeopleStore people, Outbox outbox) : YardPage(here)
{
    public IReadOnlyList<OutboxMail> Mails { get; private set; } = [];

    public void OnGet() => Mails = Outbox.Mails();

    /// <summary>Writes each inspector what is overdue and what runs out within the notice, store by store.</summary>
    public async Task<IActionResult> OnPostAsync()
    {
        if (!Here.May(Right.SignInspection) && !Here.May(Right.Authorise))
            return Forbid();
        var notice = (await Here.SiteAsync(Cancel)).DueNotice;
        var days = await due.DaysAsync(Here.Today.AddDays(notice), Cancel);
        var text = new StringBuilder();
        foreach (var store in days.GroupBy(d => d.Store))
        {
            text.AppendLine(store.Key);
            foreach (var (day, _, marks) in store)
                text.Append("  ")
                    .Append(Say.Date(day, Here.Today))
                    .Append(day < Here.Today ? ", overdue: " : ": ")
                    .AppendLine(string.Join(", ", marks));
        }

        text.AppendLine(days.Count == 0 ? "Nothing is due." : "An overdue piece can't be used until it is inspected.");
        foreach (var person in (await people.AllAsync(Cancel)).Where(p => p.Role.May(Right.SignInspection)))
        {
            outbox.Send(
                Submission,
                person.Username,
                person.Name,
                $"Due until {Here.Today.AddDays(notice):yyyy-MM-dd}: {days.Sum(d => d.Marks.Count)} pieces",
                text.ToString()
            );
        }

        return Redirect("/due/outbox");
    }
}
