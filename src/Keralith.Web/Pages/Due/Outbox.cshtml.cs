using Keralith.Core.People;
using Keralith.Web.Mailing;
using Keralith.Web.Security;
using Microsoft.AspNetCore.Mvc;

namespace Keralith.Web.Pages.Due;

/// <summary>
/// Reminder mails to who may sign. Where no mail server is configured they lie in its stand-in to be opened, by whom they
/// are to: an invitation is nobody else's to read.
/// </summary>
public sealed class OutboxModel(Here here, Reminders reminders, Mails mails) : YardPage(here)
{
    public IReadOnlyList<OutboxMail> Lying { get; private set; } = [];

    /// <summary>Where mails go.</summary>
    public string Where => mails.Where;

    public void OnGet() => Lying = Outbox.Mails(Here.May(Right.ManagePeople) ? null : Here.Actor.Username);

    /// <summary>Writes each inspector what is overdue and what runs out within the notice, store by store.</summary>
    [Takes(Right.SignInspection, Right.Authorise)]
    public async Task<IActionResult> OnPostAsync()
    {
        await reminders.SendAsync(Submission, Cancel);
        return Redirect("/due/outbox");
    }
}
