using Keralith.Core.Custody;
using Keralith.Core.Gear;
using Keralith.Core.Judgement;
using Keralith.Core.Lifts;
using Keralith.Core.People;
using Keralith.Core.Schedule;
using Keralith.Core.Tags;
using Keralith.Core.Wear;
using Keralith.Data;
using Microsoft.AspNetCore.Html;

namespace Keralith.Web.Showing;

/// <summary>How things are said to people.</summary>
public static class Say
{
    /// <summary>The attribute a family is known by, the first that is stated.</summary>
    private static readonly string[] SizedBy =
    [
        "size",
        "ropeSize",
        "width",
        "circumference",
        "capacity",
        "span",
        "mesh",
    ];

    /// <summary>A browser by what it says it is, in two words: what it is, on what.</summary>
    public static string Browser(string agent)
    {
        string? First(params (string In, string Said)[] known) =>
            known.Where(k => agent.Contains(k.In, StringComparison.Ordinal)).Select(k => k.Said).FirstOrDefault();
        var what = First(("Firefox/", "Firefox"), ("Edg/", "Edge"), ("Chrome/", "Chrome"), ("Safari/", "Safari"));
        var on = First(
            ("Android", "Android"),
            ("iPhone", "a phone"),
            ("iPad", "a tablet"),
            ("Windows", "Windows"),
            ("Mac OS", "a Mac"),
            ("Linux", "Linux")
        );
        return $"{what ?? "A browser"}{(on is null ? string.Empty : $" on {on}")}";
    }

    /// <summary>What a role does, in a few words.</summary>
    public static string Does(Role role) =>
        role switch
        {
            Role.Crew => "look gear over, stop on a doubt",
            Role.Stores => "register gear, keep the cage",
            Role.Trainee => "inspect, to be countersigned",
            Role.Inspector => "inspect, measure, sign",
            Role.Qualified => "release, condemn",
            Role.Admin => "set the site up",
            Role.Auditor => "read everything, change nothing",
        };

    /// <summary>A date with how far away it is: <c>2026-03-01, in 12 days</c>.</summary>
    public static string Date(DateOnly date, DateOnly today) => $"{date:yyyy-MM-dd}, {Away(date, today)}";

    /// <summary>The same on a page: the date never breaks.</summary>
    public static IHtmlContent Day(DateOnly date, DateOnly today) =>
        new HtmlString($"<span class=\"nowrap\">{date:yyyy-MM-dd}</span>, {Away(date, today)}");

    /// <summary>How far away a day is.</summary>
    public static string Away(DateOnly date, DateOnly today)
    {
        var days = date.DayNumber - today.DayNumber;
        return days switch
        {
            0 => "today",
            1 => "tomorrow",
            -1 => "yesterday",
            > 0 and < 61 => $"in {days} days",
            < 0 and > -61 => $"{-days} days ago",
            > 0 => $"in {days / 30} months",
            _ => $"{-days / 30} months ago",
        };
    }

    /// <summary>What a piece is in a few words: its family, the size people know it by, its legs.</summary>
    public static string Gear(GearPiece gear)
    {
        var size = SizedBy.Select(n => gear.Values.GetValueOrDefault(n)).FirstOrDefault(v => v is not null);
        return $"{gear.Family.Name}{(size is null ? string.Empty : $", {size.Text}")}{(gear.Legs > 1 ? $", {gear.Legs} legs" : string.Empty)}";
    }

    /// <summary>A measure with what it is taken of: "Wear of the hook's section" rather than "Wear".</summary>
    public static string Criterion(Criterion criterion)
    {
        var of = criterion.Id.Split('.')[0] switch
        {
            "chain" => "chain sling",
            "rope" => "rope sling",
            "mesh" => "mesh sling",
            "fiber" => "fiber rope",
            "web" => "web sling",
            "round" => "roundsling",
            "adj" => "eye bolt, eye nut, ring or turnbuckle",
            "eyebolt" => "eye bolt",
            "ring" => "hoist ring",
            "link" => "link or ring",
            "clip" => "rope clip",
            "wedge" => "wedge socket",
            "block" => "rigging block",
            "cell" => "load indicator",
            "hoistchain" => "hoist's chain",
            "hoistrope" => "hoist's rope",
            "clamp" => "clamp",
            "beam" => "lifting beam",
            "kit" => "sling kit",
            var other => other,
        };
        return $"{char.ToUpperInvariant(of[0])}{of[1..]}: {char.ToLowerInvariant(criterion.Title[0])}{criterion.Title[1..]}{(criterion.BaselineName is { } from ? $" ({from})" : string.Empty)}";
    }

    /// <summary>The hitch a tag is rated for.</summary>
    public static string RatedHitch(Hitch hitch) =>
        hitch switch
        {
            Hitch.Vertical => "straight: one leg, or legs at the angle below",
            Hitch.Choker => "choker",
            Hitch.Basket => "basket",
        };

    /// <summary>What lines of a lift's checklist are about.</summary>
    public static string Group(ChecklistGroup group) =>
        group switch
        {
            ChecklistGroup.Load => "The load",
            ChecklistGroup.Rigging => "The rigging",
            ChecklistGroup.Machine => "What it hangs from",
            ChecklistGroup.Place => "The place",
            ChecklistGroup.People => "People, and how it goes",
        };

    /// <summary>When a limit is near, as far as a record tells it.</summary>
    public static string Nearing(Wearing wearing) =>
        wearing.NamesADay
            ? $"at the rate seen the limit is reached about {wearing.LimitDay:yyyy-MM-dd}"
            : $"the limit may be near from {wearing.NotBefore:yyyy-MM}";

    /// <summary>What a recall is about.</summary>
    public static string Recall(RecallMatch match) =>
        string.Join(
            ", ",
            new[]
            {
                match.Maker,
                match.Model,
                match.Batch is null ? null : $"batch {match.Batch}",
                match.SerialFrom is null ? null
                : match.SerialTo is null ? $"serial {match.SerialFrom}"
                : $"serials {match.SerialFrom} to {match.SerialTo}",
                match.From is null && match.Until is null
                    ? null
                    : $"in service {match.From?.ToString("yyyy-MM-dd")} to {match.Until?.ToString("yyyy-MM-dd")}",
            }.Where(w => w is not null)
        );

    /// <summary>Who may do something, by role.</summary>
    public static string WhoMay(Right right)
    {
        var roles = Enum.GetValues<Role>().Where(r => r.May(right)).Select(Code.Of).ToList();
        return roles.Count == 1 ? roles[0] : $"{string.Join(", ", roles.SkipLast(1))} or {roles[^1]}";
    }

    /// <summary>In which inspections something is asked.</summary>
    public static string Asked(AskedIn asked) =>
        asked switch
        {
            AskedIn.Frequent => "every inspection",
            AskedIn.Periodic => "periodic and initial inspections",
            AskedIn.Initial => "the initial inspection",
        };

    public static string Group(FamilyGroup group) =>
        group switch
        {
            FamilyGroup.Sling => "Slings",
            FamilyGroup.Hardware => "Hardware",
            FamilyGroup.Hoist => "Hoists",
            FamilyGroup.BelowHook => "Below the hook",
            FamilyGroup.Site => "Not for lifting",
        };

    /// <summary>How much of what a piece may carry is asked of it: never understated.</summary>
    public static string Share(decimal share) => $"{Math.Ceiling(share * 100)}\u00a0%";

    /// <summary>How far a lift has come.</summary>
    public static string Lift(Core.Lifts.LiftState state) =>
        state switch
        {
            Core.Lifts.LiftState.Planned => "being planned",
            Core.Lifts.LiftState.Checked => "checked, to be signed",
            Core.Lifts.LiftState.Ready => "checked",
            Core.Lifts.LiftState.Out => "gear is out",
            Core.Lifts.LiftState.Tried => "trial lift was good",
            Core.Lifts.LiftState.Done => "done",
            Core.Lifts.LiftState.CalledOff => "called off",
        };

    /// <summary>What somebody wrote, as a sentence.</summary>
    public static string Sentence(string words) =>
        words.TrimEnd() is [.., '.' or '!' or '?'] ended ? ended : $"{words.TrimEnd()}.";

    public static string Time(DateTimeOffset at) => at.ToString("yyyy-MM-dd HH:mm 'UTC'");

    public static string Kind(InspectionKind kind) =>
        kind switch
        {
            InspectionKind.Initial => "Initial inspection",
            InspectionKind.Frequent => "Frequent check",
            InspectionKind.Periodic => "Periodic inspection",
            InspectionKind.Return => "Return check",
            InspectionKind.AfterEvent => "After-event inspection",
        };

    public static string Due(DateOnly? due, DateOnly today) =>
        due is { } d
            ? $"{(DueDate.StateOn(due, today) == DueState.Overdue ? "overdue since" : "until")} {Date(d, today)}"
            : "never inspected";

    public static string Found(Found found) =>
        found switch
        {
            Core.Gear.Found.No => "No fault",
            Core.Gear.Found.Yes => "Fault",
            Core.Gear.Found.Unsure => "Can't tell",
            Core.Gear.Found.NotAccessible => "Can't reach",
        };

    public static string Rated(RatedAs rated) =>
        rated switch
        {
            RatedAs.RatedLoad => "rated load",
            RatedAs.WorkingLoadLimit => "working load limit",
            RatedAs.SafeWorkingLoad => "safe working load",
            RatedAs.Capacity => "capacity",
        };

    public static string Legible(Legibility legibility) =>
        legibility switch
        {
            Legibility.Clear => "at arm's length",
            Legibility.Hard => "with cleaning or a lamp",
            Legibility.Unreadable => "not in full",
        };

    public static string Place(MarkingPlace place) =>
        place switch
        {
            MarkingPlace.Tag => "on a tag",
            MarkingPlace.Ferrule => "on the ferrule",
            MarkingPlace.ForgedIn => "forged in",
            MarkingPlace.Stamped => "stamped",
            MarkingPlace.Plate => "on a plate",
            MarkingPlace.SewnLabel => "on a sewn label",
        };

    public static string File(FileKind kind) =>
        kind switch
        {
            FileKind.Conformity => "certificate of conformity",
            FileKind.ProofTest => "proof test certificate",
            FileKind.Report => "inspection report",
            FileKind.Photo => "picture",
            FileKind.TagPhoto => "picture of the marking",
            FileKind.Drawing => "drawing",
            FileKind.Other => "other paper",
        };

    public static string Basis(BaselineBasis basis) =>
        basis switch
        {
            BaselineBasis.New => "measured when new",
            BaselineBasis.Catalogue => "maker's catalogue",
            BaselineBasis.Twin => "a new twin",
            BaselineBasis.Provisional => "provisional (watch at best)",
        };
}
