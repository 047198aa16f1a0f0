using Keralith.Core.Criteria;
using Keralith.Core.Judgement;

namespace Keralith.Core;

/// <summary>The fixed words of the file formats for the values of Core.</summary>
public static class Words
{
    public static string Code(Outcome outcome) => outcome switch
    {
        Outcome.Clear => "clear",
        Outcome.Watch => "watch",
        Outcome.Hold => "hold",
        Outcome.Remove => "remove",
        _ => throw new ArgumentOutOfRangeException(nameof(outcome), outcome, null),
    };

    public static string Code(VerdictKind verdict) => verdict switch
    {
        VerdictKind.Fit => "fit",
        VerdictKind.Watch => "watch",
        VerdictKind.Incomplete => "incomplete",
        VerdictKind.Hold => "hold",
        VerdictKind.Remove => "remove",
        _ => throw new ArgumentOutOfRangeException(nameof(verdict), verdict, null),
    };

    public static string Code(InspectionKind kind) => kind switch
    {
        InspectionKind.Initial => "initial",
        InspectionKind.Frequent => "frequent",
        InspectionKind.Periodic => "periodic",
        InspectionKind.Return => "return",
        InspectionKind.AfterEvent => "after-event",
        _ => throw new ArgumentOutOfRangeException(nameof(kind), kind, null),
    };

    public static string Code(Found found) => found switch
    {
        Found.No => "no",
        Found.Yes => "yes",
        Found.Unsure => "unsure",
        Found.NotAccessible => "not-accessible",
        _ => throw new ArgumentOutOfRangeException(nameof(found), found, null),
    };

    public static string Code(BaselineBasis basis) => basis switch
    {
        BaselineBasis.New => "new",
        BaselineBasis.Catalogue => "catalogue",
        BaselineBasis.Twin => "twin",
        BaselineBasis.Provisional => "provisional",
        _ => throw new ArgumentOutOfRangeException(nameof(basis), basis, null),
    };

    public static string Code(LimitOwner owner) => owner switch
    {
        LimitOwner.Site => "site",
        LimitOwner.Maker => "maker",
        _ => throw new ArgumentOutOfRangeException(nameof(owner), owner, null),
    };

    /// <summary>The sign of a comparator: how a value stands to the limit when it has failed.</summary>
    public static string Code(Comparator comparator) => comparator switch
    {
        Comparator.Above => ">",
        Comparator.AtOrAbove => ">=",
        Comparator.Below => "<",
        Comparator.AtOrBelow => "<=",
        _ => throw new ArgumentOutOfRangeException(nameof(comparator), comparator, null),
    };

    /// <summary>The value of a code, or null when no value has it.</summary>
    public static T? Find<T>(string? code, Func<T, string> codeOf)
        where T : struct, Enum
    {
        foreach (var value in Enum.GetValues<T>())
        {
            if (codeOf(value) == code) return value;
        }

        return null;
    }
}
