using Keralith.Core.Custody;
using Keralith.Core.Judgement;
using Keralith.Core.Lifts;

namespace Keralith.Data;

/// <summary>
/// What SQL may know of the rules: lists of codes, made from Core's own definitions. SQL narrows with them; it never
/// decides.
/// </summary>
internal static class Fragments
{
    /// <summary>The codes of retired states, as a list in parentheses.</summary>
    public static string Retired { get; } = List<PieceState>(s => s.IsRetired());

    /// <summary>The codes of the states in which a piece that is not out should hang in its store.</summary>
    public static string Hanging { get; } = List<PieceState>(s => StoreRound.Expects(s, isOut: false));

    /// <summary>The codes of inspections that see every part.</summary>
    public static string Full { get; } = List<InspectionKind>(k => k.IsFull());

    /// <summary>The codes of verdicts that accept a piece.</summary>
    public static string Clean { get; } = List<VerdictKind>(v => v.IsClean());

    /// <summary>The codes of the states of a lift that is still to come.</summary>
    public static string OpenLift { get; } = List<LiftState>(s => s.IsOpen());

    /// <summary>What a mark in some column looks like, as <see cref="Looks.Of"/> says it: marks are plain capitals, figures and dashes.</summary>
    public static string Look(string column) => $"translate(replace({column}, '-', ''), 'OIL', '011')";

    /// <summary>
    /// What the spellings of a name in some column have in common, as near as SQL comes to <see cref="Spelling.MayBeSame"/>.
    /// </summary>
    public static string Key(string column) => $"upper(regexp_replace({column}, '[^[:alnum:]]', '', 'g'))";

    private static string List<T>(Func<T, bool> holds)
        where T : struct, Enum =>
        $"({string.Join(", ", Enum.GetValues<T>().Where(holds).Select(v => $"'{Code.Of(v)}'"))})";
}
