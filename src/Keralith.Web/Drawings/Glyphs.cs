using Keralith.Core.Judgement;
using Keralith.Core.Lifts;
using Microsoft.AspNetCore.Html;

namespace Keralith.Web.Drawings;

/// <summary>
/// The outcome marks: chain links told apart by shape alone. Fit is a closed link, watch a link thinned on one side,
/// hold a link with a pin driven through, remove a link broken in two, incomplete a link not closed yet, a dot at its gap.
/// </summary>
public static class Glyphs
{
    /// <summary>The shapes of a mark, centred in 24 by 24.</summary>
    private static string Shape(string code) =>
        code switch
        {
            "fit" or "clear" => """<rect x="3.5" y="7" width="17" height="10" rx="5" class="glyph-line"/>""",
            "watch" =>
                """<path d="M15.5 7H8.5a5 5 0 0 0 0 10h7" class="glyph-line"/><path d="M15.5 7a5 5 0 0 1 0 10" class="glyph-thin"/>""",
            "hold" =>
                """<rect x="3.5" y="7" width="17" height="10" rx="5" class="glyph-line"/><path d="M12 1.8V22.2" class="glyph-line"/><path d="M8.6 2.2h6.8" class="glyph-line"/>""",
            "remove" =>
                """<path d="M9 7.2 7.8 7a5 5 0 0 0-1.4 9.9l1.6.1" class="glyph-line"/><path d="M16.2 7.2a5 5 0 0 1 .2 9.8l-1.5.1" class="glyph-line" transform="rotate(-14 16 12) translate(2.2 -1.6)"/>""",
            "incomplete" =>
                """<path d="M18.5 7H8.5a5 5 0 0 0 0 10h10" class="glyph-line"/><circle cx="19.4" cy="12" r="1.5" class="glyph-dot"/>""",
            _ => """<path d="M5 12h14" class="glyph-thin"/>""",
        };

    /// <summary>A mark alone, for use beside its word; hidden from screen readers.</summary>
    public static IHtmlContent Mark(string code) =>
        new HtmlString(
            $"""<svg class="glyph glyph-{code}" viewBox="0 0 24 24" aria-hidden="true" focusable="false">{Shape(code)}</svg>"""
        );

    /// <summary>A mark with its word.</summary>
    public static IHtmlContent Word(string code) =>
        new HtmlString(
            $"""<span class="outcome outcome-{code}"><svg class="glyph glyph-{code}" viewBox="0 0 24 24" aria-hidden="true" focusable="false">{Shape(code)}</svg>{code}</span>"""
        );

    public static IHtmlContent Word(VerdictKind verdict) => Word(Code.Of(verdict));

    /// <summary>A lift's mark with its word.</summary>
    public static IHtmlContent Word(LiftOutcome outcome)
    {
        var code = Of(outcome);
        return new HtmlString(
            $"""<span class="outcome outcome-{code}"><svg class="glyph glyph-{code}" viewBox="0 0 24 24" aria-hidden="true" focusable="false">{Shape(code)}</svg>{Said(outcome)}</span>"""
        );
    }

    /// <summary>The link that stands for a lift's outcome.</summary>
    public static string Of(LiftOutcome outcome) =>
        outcome switch
        {
            LiftOutcome.Ok => "fit",
            LiftOutcome.Caution => "watch",
            LiftOutcome.Ask => "hold",
            LiftOutcome.Overloaded or LiftOutcome.NotPermitted => "remove",
        };

    /// <summary>A lift's outcome as people read it.</summary>
    public static string Said(LiftOutcome outcome) =>
        outcome switch
        {
            LiftOutcome.Ok => "carried",
            LiftOutcome.Caution => "carried, with caution",
            LiftOutcome.Ask => "ask first",
            LiftOutcome.Overloaded => "overloaded",
            LiftOutcome.NotPermitted => "not permitted",
        };

    /// <summary>A mark as part of a drawing, in a box of a given size.</summary>
    public static string Inside(string code, double x, double y, double size) =>
        $"""<svg x="{x:0.#}" y="{y:0.#}" width="{size:0.#}" height="{size:0.#}" class="glyph glyph-{code}" viewBox="0 0 24 24">{Shape(code)}</svg>""";

    /// <summary>The product's own sign: two links joined.</summary>
    public static IHtmlContent Sign =>
        new HtmlString(
            """<svg class="sign" viewBox="0 0 34 24" aria-hidden="true" focusable="false"><rect x="2" y="6" width="17" height="12" rx="6"/><path d="M17 9.4h9.5a2.6 2.6 0 0 1 0 5.2H17"/></svg>"""
        );
}
