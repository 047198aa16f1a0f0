using Keralith.Core.Gear;
using Keralith.Core.People;
using Keralith.Data;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;

namespace Keralith.Web.Pages.Settings;

/// <summary>Who may sign for which gear, and until when.</summary>
[Authorize(Policy = nameof(Right.ReadSettings))]
public sealed class PeopleModel(Here here, PeopleStore people) : YardPage(here)
{
    public IReadOnlyList<(Actor Person, IReadOnlyList<Authorisation> Held)> People { get; private set; } = [];

    public Task OnGetAsync() => LoadAsync();

    public async Task<IActionResult> OnPostAsync(Guid person, string? group, string? until)
    {
        if (!Here.May(Right.Authorise))
            return Forbid();
        if (Code.Find<FamilyGroup>(group) is { } chosen && IsDay(until, "Until", out var on) && on is { } day)
        {
            return await AfterAsync(
                await people.AuthoriseAsync(person, new(chosen, day), Here.Stamp(Submission), Cancel),
                "/settings/people",
                LoadAsync
            );
        }

        if (Refused is null)
            Refuse("Choose the group, and the day as year-month-day.");
        await LoadAsync();
        return Page();
    }

    private async Task LoadAsync()
    {
        var all = new List<(Actor, IReadOnlyList<Authorisation>)>();
        foreach (var person in await people.AllAsync(Cancel))
            all.Add((person, await people.AuthorisationsAsync(person.Id, Cancel)));
        People = all;
    }
}
