using Keralith.Core.Criteria;
using Keralith.Core.Custody;
using Keralith.Core.Gear;
using Keralith.Core.Judgement;
using Keralith.Core.Markings;
using Keralith.Core.People;
using Keralith.Core.RatedLoad;
using Keralith.Core.Schedule;

namespace Keralith.Core;

/// <summary>The fixed words of the file formats for the values of Core.</summary>
public static class Words
{
    public static string Code(Outcome outcome) =>
        outcome switch
        {
            Outcome.Clear => "clear",
            Outcome.Watch => "watch",
            Outcome.Hold => "hold",
            Outcome.Remove => "remove",
            _ => throw new ArgumentOutOfRangeException(nameof(outcome), outcome, null),
        };

    public static string Code(VerdictKind verdict) =>
        verdict switch
        {
            VerdictKind.Fit => "fit",
            VerdictKind.Watch => "watch",
            VerdictKind.Incomplete => "incomplete",
            VerdictKind.Hold => "hold",
            VerdictKind.Remove => "remove",
            _ => throw new ArgumentOutOfRangeException(nameof(verdict), verdict, null),
        };

    public static string Code(InspectionKind kind) =>
        kind switch
        {
            InspectionKind.Initial => "initial",
            InspectionKind.Frequent => "frequent",
            InspectionKind.Periodic => "periodic",
            InspectionKind.Return => "return",
            InspectionKind.AfterEvent => "after-event",
            _ => throw new ArgumentOutOfRangeException(nameof(kind), kind, null),
        };

    public static string Code(Found found) =>
        found switch
        {
            Found.No => "no",
            Found.Yes => "yes",
            Found.Unsure => "unsure",
            Found.NotAccessible => "not-accessible",
            _ => throw new ArgumentOutOfRangeException(nameof(found), found, null),
        };

    public static string Code(BaselineBasis basis) =>
        basis switch
        {
            BaselineBasis.New => "new",
            BaselineBasis.Catalogue => "catalogue",
            BaselineBasis.Twin => "twin",
            BaselineBasis.Provisional => "provisional",
            _ => throw new ArgumentOutOfRangeException(nameof(basis), basis, null),
        };

    public static string Code(LimitOwner owner) =>
        owner switch
        {
            LimitOwner.Site => "site",
            LimitOwner.Maker => "maker",
            _ => throw new ArgumentOutOfRangeException(nameof(owner), owner, null),
        };

    public static string Code(PieceState state) =>
        state switch
        {
            PieceState.New => "new",
            PieceState.InService => "in-service",
            PieceState.Held => "held",
            PieceState.Condemned => "condemned",
            PieceState.Destroyed => "destroyed",
            PieceState.Missing => "missing",
            _ => throw new ArgumentOutOfRangeException(nameof(state), state, null),
        };

    public static string Code(HoldCause cause) =>
        cause switch
        {
            HoldCause.Doubt => "doubt",
            HoldCause.Marking => "marking",
            HoldCause.VerdictHold => "verdict-hold",
            HoldCause.VerdictRemove => "verdict-remove",
            HoldCause.Event => "event",
            _ => throw new ArgumentOutOfRangeException(nameof(cause), cause, null),
        };

    public static string Code(FamilyGroup group) =>
        group switch
        {
            FamilyGroup.Sling => "sling",
            FamilyGroup.Hardware => "hardware",
            FamilyGroup.Hoist => "hoist",
            FamilyGroup.BelowHook => "below-hook",
            FamilyGroup.Site => "site",
            _ => throw new ArgumentOutOfRangeException(nameof(group), group, null),
        };

    public static string Code(ServiceClass service) =>
        service switch
        {
            ServiceClass.Normal => "normal",
            ServiceClass.Heavy => "heavy",
            ServiceClass.Severe => "severe",
            _ => throw new ArgumentOutOfRangeException(nameof(service), service, null),
        };

    public static string Code(Role role) =>
        role switch
        {
            Role.Crew => "crew",
            Role.Stores => "stores",
            Role.Trainee => "trainee",
            Role.Inspector => "inspector",
            Role.Qualified => "qualified",
            Role.Admin => "admin",
            Role.Auditor => "auditor",
            _ => throw new ArgumentOutOfRangeException(nameof(role), role, null),
        };

    public static string Code(Chemical chemical) =>
        chemical switch
        {
            Chemical.Acid => "acid",
            Chemical.Caustic => "caustic",
            Chemical.Phenolic => "phenolic",
            Chemical.Bleach => "bleach",
            Chemical.Solvent => "solvent",
            _ => throw new ArgumentOutOfRangeException(nameof(chemical), chemical, null),
        };

    public static string Code(Hitch hitch) =>
        hitch switch
        {
            Hitch.Vertical => "vertical",
            Hitch.Choker => "choker",
            Hitch.Basket => "basket",
            _ => throw new ArgumentOutOfRangeException(nameof(hitch), hitch, null),
        };

    public static string Code(LiftOutcome outcome) =>
        outcome switch
        {
            LiftOutcome.Ok => "ok",
            LiftOutcome.Caution => "caution",
            LiftOutcome.Ask => "ask",
            LiftOutcome.Overloaded => "overloaded",
            LiftOutcome.NotPermitted => "not-permitted",
            _ => throw new ArgumentOutOfRangeException(nameof(outcome), outcome, null),
        };

    public static string Code(LoadBasis basis) =>
        basis switch
        {
            LoadBasis.Known => "known",
            LoadBasis.Marked => "marked",
            LoadBasis.Weighed => "weighed",
            LoadBasis.Estimated => "estimated",
            _ => throw new ArgumentOutOfRangeException(nameof(basis), basis, null),
        };

    public static string Code(FourLegs four) =>
        four switch
        {
            FourLegs.ThreeShare => "three-share",
            FourLegs.TwoCarry => "two-carry",
            _ => throw new ArgumentOutOfRangeException(nameof(four), four, null),
        };

    public static string Code(Contact contact) =>
        contact switch
        {
            Contact.Round => "round",
            Contact.Square => "square",
            _ => throw new ArgumentOutOfRangeException(nameof(contact), contact, null),
        };

    public static string Code(PinKind pin) =>
        pin switch
        {
            PinKind.Screw => "screw",
            PinKind.Bolt => "bolt",
            PinKind.Round => "round",
            _ => throw new ArgumentOutOfRangeException(nameof(pin), pin, null),
        };

    public static string Code(BoltHole hole) =>
        hole switch
        {
            BoltHole.Blind => "blind",
            BoltHole.ThroughTapped => "through-tapped",
            BoltHole.Through => "through",
            _ => throw new ArgumentOutOfRangeException(nameof(hole), hole, null),
        };

    public static string Code(RatedAs rated) =>
        rated switch
        {
            RatedAs.RatedLoad => "rated-load",
            RatedAs.WorkingLoadLimit => "working-load-limit",
            RatedAs.SafeWorkingLoad => "safe-working-load",
            RatedAs.Capacity => "capacity",
            _ => throw new ArgumentOutOfRangeException(nameof(rated), rated, null),
        };

    public static string Code(Legibility legibility) =>
        legibility switch
        {
            Legibility.Clear => "clear",
            Legibility.Hard => "hard",
            Legibility.Unreadable => "unreadable",
            _ => throw new ArgumentOutOfRangeException(nameof(legibility), legibility, null),
        };

    public static string Code(MarkingPlace place) =>
        place switch
        {
            MarkingPlace.Tag => "tag",
            MarkingPlace.Ferrule => "ferrule",
            MarkingPlace.ForgedIn => "forged-in",
            MarkingPlace.Stamped => "stamped",
            MarkingPlace.Plate => "plate",
            MarkingPlace.SewnLabel => "sewn-label",
            _ => throw new ArgumentOutOfRangeException(nameof(place), place, null),
        };

    public static string Code(SeasonPattern pattern) =>
        pattern switch
        {
            SeasonPattern.Plain => "plain",
            SeasonPattern.TwoBands => "two-bands",
            SeasonPattern.Dots => "dots",
            SeasonPattern.Slant => "slant",
            SeasonPattern.Checks => "checks",
            SeasonPattern.Ring => "ring",
            _ => throw new ArgumentOutOfRangeException(nameof(pattern), pattern, null),
        };

    /// <summary>A hold's cause as people say it.</summary>
    public static string Said(HoldCause cause) =>
        cause switch
        {
            HoldCause.Doubt => "a doubt",
            HoldCause.Marking => "marking missing",
            HoldCause.VerdictHold => "verdict hold",
            HoldCause.VerdictRemove => "verdict remove",
            HoldCause.Event => "overload or accident",
            _ => throw new ArgumentOutOfRangeException(nameof(cause), cause, null),
        };

    /// <summary>The sign of a comparator: how a value stands to the limit when it has failed.</summary>
    public static string Code(Comparator comparator) =>
        comparator switch
        {
            Comparator.Above => ">",
            Comparator.AtOrAbove => ">=",
            Comparator.Below => "<",
            Comparator.AtOrBelow => "<=",
            _ => throw new ArgumentOutOfRangeException(nameof(comparator), comparator, null),
        };

    /// <summary>The value of a code written by the product itself.</summary>
    /// <exception cref="FormatException">No value has it.</exception>
    public static T Parse<T>(string code, Func<T, string> codeOf)
        where T : struct, Enum =>
        Find(code, codeOf) ?? throw new FormatException($"There is no {typeof(T).Name} \"{code}\".");

    /// <summary>The value of a code, or null when no value has it.</summary>
    public static T? Find<T>(string? code, Func<T, string> codeOf)
        where T : struct, Enum
    {
        foreach (var value in Enum.GetValues<T>())
        {
            if (codeOf(value) == code)
                return value;
        }

        return null;
    }
}
