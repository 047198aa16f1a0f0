using Ical.Net;
using Ical.Net.CalendarComponents;
using Ical.Net.DataTypes;
using Ical.Net.Serialization;
using Keralith.Data;

namespace Keralith.Web.Files;

/// <summary>
/// What runs out when, for calendars: a day and store each one entry, overdue ones on today. Read by a private address,
/// no name in it.
/// </summary>
internal static class DueFeed
{
    private const int DaysAhead = 200;
    private const int MostMarks = 40;

    public static async Task<IResult> SendAsync(string token, Here here, DueStore due, CancellationToken cancel)
    {
        if (!await due.KnowsFeedAsync(token, cancel))
            return Results.NotFound();
        var site = await here.SiteAsync(cancel);
        var calendar = new Calendar { ProductId = "-//Keralith//Due//EN" };
        calendar.AddProperty("X-WR-CALNAME", $"Due at {site.Name}");
        foreach (
            var (day, store, marks) in Merged(await due.DaysAsync(here.Today.AddDays(DaysAhead), cancel), here.Today)
        )
        {
            var late = day == here.Today;
            calendar.Events.Add(
                new CalendarEvent
                {
                    Uid = $"{day:yyyyMMdd}-{store.Replace(' ', '-').ToLowerInvariant()}@keralith",
                    Summary = $"{marks.Count} {(late ? "due or overdue" : "to inspect")}, {store}",
                    Description =
                        string.Join(", ", marks.Take(MostMarks))
                        + (marks.Count > MostMarks ? $" and {marks.Count - MostMarks} more" : string.Empty),
                    Start = new CalDateTime(day),
                    End = new CalDateTime(day.AddDays(1)),
                    DtStamp = new CalDateTime(here.Now.UtcDateTime),
                }
            );
        }

        return Results.Text(
            new CalendarSerializer().SerializeToString(calendar),
            "text/calendar",
            System.Text.Encoding.UTF8
        );
    }

    private static IEnumerable<(DateOnly Day, string Store, List<string> Marks)> Merged(
        IEnumerable<(DateOnly Day, string Store, List<string> Marks)> days,
        DateOnly today
    ) =>
        days.GroupBy(d => (Day: d.Day < today ? today : d.Day, d.Store))
            .Select(g => (g.Key.Day, g.Key.Store, g.SelectMany(d => d.Marks).Order(StringComparer.Ordinal).ToList()));
}
