using System.Text.Json;
using Keralith.Core.Gear;
using Keralith.Core.Judgement;

namespace Keralith.Core.Formats;

/// <summary>What a site asked of its own in a signed inspection, as it was asked and what came of it.</summary>
/// <param name="Question">The question's id, such as <c>own.7</c>.</param>
/// <param name="Part">The part's path.</param>
/// <param name="Title">Its name then.</param>
/// <param name="Asked">What counted as the fault.</param>
/// <param name="Look">How it was looked for or tried.</param>
/// <param name="Kind">The code of how it is found out.</param>
/// <param name="OnFault">The code of what a fault comes to.</param>
/// <param name="Source">Where it comes from.</param>
/// <param name="Answer">The code of what was found; null: nobody answered it.</param>
/// <param name="Outcome">The code of what that came to; null: nobody answered it.</param>
/// <param name="Reason">In words; null: nobody answered it.</param>
public sealed record OwnAsked(
    string Question,
    string Part,
    string Title,
    string Asked,
    string Look,
    string Kind,
    string OnFault,
    string Source,
    string? Answer,
    string? Outcome,
    string? Reason
);

/// <summary>
/// A site's own questions as they stand beside <c>keralith.case/1</c> and <c>keralith.verdict/1</c>, under <c>own</c>: those
/// formats know the catalogue alone. The verdict is that of all answers together.
/// </summary>
public static class OwnDocument
{
    /// <summary>What was asked, as JSON; null where the site asked nothing of its own.</summary>
    public static string? Write(Case @case, Verdict verdict)
    {
        var answered = @case
            .Answers.Zip(verdict.Findings)
            .Where(a => OwnQuestion.IsId(a.First.Criterion.Id))
            .Select(a =>
                Of(a.First.Criterion, a.First.Part) with
                {
                    Answer = Code.Of(((Chosen)a.First.Response).Found),
                    Outcome = Code.Of(a.Second.Outcome),
                    Reason = a.Second.Reason,
                }
            );
        var missing = verdict.Missing.Where(m => OwnQuestion.IsId(m.Criterion.Id)).Select(m => Of(m.Criterion, m.Part));
        var asked = answered.Concat(missing).ToList();
        return asked.Count == 0 ? null : JsonSerializer.Serialize(asked, JsonSerializerOptions.Web);
    }

    /// <summary>Reads what was asked; empty where there is none.</summary>
    public static IReadOnlyList<OwnAsked> Read(string? json) =>
        json is null ? [] : JsonSerializer.Deserialize<List<OwnAsked>>(json, JsonSerializerOptions.Web) ?? [];

    private static OwnAsked Of(Criterion criterion, string part) =>
        new(
            criterion.Id,
            part,
            criterion.Title,
            criterion.Question,
            criterion.Look,
            Code.Of(criterion.Kind),
            Code.Of(criterion.OnFault),
            criterion.Source.Standard,
            null,
            null,
            null
        );
}
