using System.Globalization;
using System.Text;
using Keralith.Core.Custody;
using Keralith.Core.Gear;
using Keralith.Core.People;
using Keralith.Core.Register;
using Keralith.Data;
using Keralith.Web.Mailing;
using Keralith.Web.Security;
using Keralith.Web.Showing;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.WebUtilities;

namespace Keralith.Web.Pages.Due;

/// <summary>What is due and overdue, the load of the weeks to come, and the address calendars read it from.</summary>
public sealed class IndexModel(
    Here here,
    DueStore due,
    PieceStore pieces,
    AccountStore accounts,
    Mails mails,
    PublicAddress at
) : YardPage(here)
{
    private const int MostNew = 100;

    /// <summary>Days ahead or back beyond which no week is looked at.</summary>
    private const int FurthestWeek = 3660;

    public int Notice { get; private set; }

    public DueQuery Query { get; private set; } = new();

    public DueList List { get; private set; } = null!;

    public IReadOnlyList<Piece> Fresh { get; private set; } = [];

    /// <summary>Proof tests, calibrations and lives that run out within the notice.</summary>
    public IReadOnlyList<DueElse> Else { get; private set; } = [];

    public IReadOnlyList<Store> Stores { get; private set; } = [];

    /// <summary>The calendar's address just made; shown this once.</summary>
    public string? Feed { get; private set; }

    public Task OnGetAsync(int? store, string? family, string? by, string? week) => LoadAsync(store, family, by, week);

    public async Task<IActionResult> OnPostFeedAsync()
    {
        Feed = at.Of($"/due/{await due.NewFeedAsync(Here.Actor.Id, Here.Now, Cancel)}.ics").ToString();
        Response.Headers.CacheControl = "no-store";
        await LoadAsync(null, null, null, null);
        return Page();
    }

    /// <summary>Whether the person may send the list to somebody.</summary>
    public bool MaySend => Here.May(Right.SignInspection) || Here.May(Right.Authorise);

    /// <summary>Who it may be sent to: everybody here with an address.</summary>
    public IReadOnlyList<(string Username, string Name)> People { get; private set; } = [];

    /// <summary>To whom it was just sent; null: to nobody.</summary>
    public string? SentTo { get; private set; }

    /// <summary>Sends the list as it is narrowed down.</summary>
    [Takes(Right.SignInspection, Right.Authorise)]
    public async Task<IActionResult> OnPostSendAsync(string? to, int? store, string? family, string? by, string? week)
    {
        if (!MaySend)
            return Forbid();
        await LoadAsync(store, family, by, week);
        var person = (await accounts.AllAsync(Here.Now, Cancel)).FirstOrDefault(p =>
            p is { IsDisabled: false, Mail.Length: > 0 } && p.Actor.Username == to
        );
        if (person is null)
        {
            Refuse("Choose who it goes to.");
            return Page();
        }

        await mails.SendAsync(
            new(
                Submission,
                person.Actor.Username,
                person.Actor.Name,
                person.Mail!,
                $"Due, {Here.Today:yyyy-MM-dd}: {List.Pieces.Count + Fresh.Count} pieces",
                Text()
            ),
            Cancel
        );
        SentTo = person.Actor.Name;
        Submission = Guid.CreateVersion7();
        ModelState.Remove(nameof(Submission));
        return Page();
    }

    /// <summary>The list in words, store by store.</summary>
    private string Text()
    {
        var text = new StringBuilder();
        foreach (var store in List.Pieces.GroupBy(p => p.Piece.Store))
        {
            text.AppendLine(store.Key);
            foreach (var (p, _) in store)
            {
                var day = p.FrequentDue < p.PeriodicDue ? p.FrequentDue : p.PeriodicDue;
                text.AppendLine(
                    $"  {p.Mark}, peg {p.Peg}: {Say.Gear(p.Gear)}, {(day is { } due ? Say.Date(due, Here.Today) : "never inspected")}{(day < Here.Today ? ", overdue" : string.Empty)}"
                );
            }
        }

        foreach (var p in Fresh)
            text.AppendLine($"New, to be inspected before first use: {p.Mark}, {Say.Gear(p.Gear)}, {p.Store} {p.Peg}");
        text.AppendLine("An overdue piece can't be used until it is inspected.");
        return text.ToString();
    }

    /// <summary>The address of this list with one thing changed.</summary>
    public string With(string name, string? value)
    {
        var query = new Dictionary<string, string?>
        {
            ["store"] = Query.Store?.ToString(CultureInfo.InvariantCulture),
            ["family"] = Query.Family,
            ["by"] = Query.By,
            ["week"] = Query.Week?.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture),
        };
        query[name] = value;
        return QueryHelpers.AddQueryString("/due", query.Where(p => !string.IsNullOrEmpty(p.Value)));
    }

    /// <summary>What a count's value is called, and what it is in the address.</summary>
    public (string Said, string? Value, bool Chosen) Facet(DueCount count) =>
        count.Group switch
        {
            "store" => Stores.FirstOrDefault(s => s.Name == count.Value) is { } store
                ? (store.Name, $"{store.Id}", Query.Store == store.Id)
                : (count.Value, null, false),
            "family" => (GearFamilies.Find(count.Value)?.Name ?? count.Value, count.Value, Query.Family == count.Value),
            _ => (count.Value, count.Value, Query.By == count.Value),
        };

    private async Task LoadAsync(int? store, string? family, string? by, string? week)
    {
        var trip = new Trip();
        var (stores, ledger) = (SiteStore.Stores(trip), LedgerStore.Height(trip));
        await Here.MakeAsync(trip, Cancel);
        Notice = (await Here.SiteAsync(Cancel)).DueNotice;
        Stores = stores.Value;
        DateOnly? monday =
            DateOnly.TryParseExact(week, "yyyy-MM-dd", CultureInfo.InvariantCulture, DateTimeStyles.None, out var day)
            && Math.Abs(day.DayNumber - Here.Today.DayNumber) <= FurthestWeek
                ? DueStore.MondayOf(day)
                : null;
        Query = new(
            store,
            GearFamilies.Find(family ?? string.Empty)?.Code,
            by is { Length: > 0 and <= 120 } ? by : null,
            monday
        );
        People = MaySend
            ?
            [
                .. (await accounts.AllAsync(Here.Now, Cancel))
                    .Where(p => p is { IsDisabled: false, Mail.Length: > 0 })
                    .Select(p => (p.Actor.Username, p.Actor.Name)),
            ]
            : [];
        List = await due.ListAsync(Query, Here.Today, Notice, Cancel, ledger.Value);
        Else =
            monday is null && Query is { By: null, Family: null }
                ? await due.ElseAsync(Query.Store, Here.Today.AddDays(Notice), Cancel)
                : [];
        Fresh = monday is null && Query.By is null ? (
                    await pieces.ListAsync(
                        new()
                        {
                            State = PieceState.New,
                            Store = Query.Store,
                            Most = MostNew,
                        },
                        Cancel
                    )
                ).Where(p => Query.Family is null || p.Gear.Family.Code == Query.Family).ToList() : [];
    }
}
