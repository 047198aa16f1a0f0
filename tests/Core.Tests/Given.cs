using Keralith.Core.Formats;
using Keralith.Core.Judgement;

namespace Keralith.Core.Tests;

/// <summary>Short ways to set up a case.</summary>
internal static class Given
{
    public const string TwoLegChain =
        """{"family":"alloy-chain-sling","size":"3/8 in","grade":"80","legs":2,"endFitting":"hook"}""";
    public const string OneHook = """{"family":"hook"}""";
    public const string ScrewShackle = """{"family":"shackle","size":"7/8 in","pinType":"screw"}""";

    public static Case Case(
        string gear,
        string answers,
        string books = "asme",
        string kind = "periodic",
        string limits = ""
    )
    {
        var result = CaseReader.Read(Json(gear, answers, books, kind, limits));
        return result.Value ?? throw new InvalidOperationException(string.Join("\n", result.Faults));
    }

    public static Verdict Judged(
        string gear,
        string answers,
        string books = "asme",
        string kind = "periodic",
        string limits = ""
    ) => Judge.Of(Case(gear, answers, books, kind, limits));

    public static Finding Measured(
        string gear,
        string criterion,
        string part,
        string value,
        string? baseline = null,
        string books = "asme",
        string more = "",
        string limits = ""
    ) =>
        Judged(
            gear,
            $$"""{"criterion":"{{criterion}}","part":"{{part}}","value":{{Text(value)}}{{(baseline is null ? "" : $",\"baseline\":{Text(baseline)}")}}{{more}}}""",
            books,
            limits: limits
        ).Findings[0];

    public static string Json(
        string gear,
        string answers,
        string books = "asme",
        string kind = "periodic",
        string limits = ""
    ) =>
        $$"""{"format":"keralith.case/1","ruleBooks":[{{string.Join(",", books.Split(' ').Select(Text))}}],"kind":"{{kind}}","gear":{{gear}},"limits":[{{limits}}],"answers":[{{answers}}]}""";

    /// <summary>Every required question of a case answered "no fault", as answers to add to.</summary>
    public static string Clean(string gear, string books = "asme", string kind = "periodic") =>
        string.Join(
            ",",
            Judged(gear, "", books, kind)
                .Missing.Where(m => m.Criterion.IsAnswerChosen)
                .Select(m => $$"""{"criterion":"{{m.Criterion.Id}}","part":"{{m.Part}}","answer":"no"}""")
        );

    private static string Text(string text) => System.Text.Json.JsonSerializer.Serialize(text);
}
