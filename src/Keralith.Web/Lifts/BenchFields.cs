using Keralith.Web.Drawings;
using Microsoft.AspNetCore.Html;

namespace Keralith.Web.Lifts;

/// <summary>The fields of the bench's form, each with what is typed in it and what is at fault with it.</summary>
public sealed class BenchFields(IReadOnlyDictionary<string, string> fields, IReadOnlyDictionary<string, string> faults)
{
    /// <summary>What is typed in a field; empty when nothing is.</summary>
    public string this[string name] => fields.GetValueOrDefault(name) ?? string.Empty;

    /// <summary>A field to type in.</summary>
    public IHtmlContent Text(string name, string label, string hint = "", string usual = "") =>
        Input(name, label, hint, usual, "mono");

    /// <summary>A field for words.</summary>
    public IHtmlContent Words(string name, string label) => Input(name, label, string.Empty, string.Empty, "words");

    /// <summary>A field to choose in.</summary>
    public IHtmlContent Choice(string name, string label, params (string Code, string Name)[] choices)
    {
        var chosen = this[name] is { Length: > 0 } typed ? typed : choices[0].Code;
        return Html(
            $"<label class=\"field\">{Of(label)}<select id=\"field-{Of(name)}\" name=\"{Of(name)}\"{Described(name)}>{string.Concat(choices.Select(c => $"<option value=\"{Of(c.Code)}\"{(c.Code == chosen ? " selected" : string.Empty)}>{Of(c.Name)}</option>"))}</select>{Fault(name)}</label>"
        );
    }

    /// <summary>Presses of which one is chosen.</summary>
    public IHtmlContent Presses(string name, string label, params (string Code, string Name)[] choices)
    {
        var chosen = this[name] is { Length: > 0 } typed ? typed : choices[0].Code;
        return Html(
            $"<div class=\"choices\" role=\"radiogroup\" aria-label=\"{Of(label)}\">{string.Concat(choices.Select(c => $"<label><input type=\"radio\" name=\"{Of(name)}\" value=\"{Of(c.Code)}\"{(c.Code == chosen ? " checked" : string.Empty)}> {Of(c.Name)}</label>"))}</div>"
        );
    }

    /// <summary>A tick.</summary>
    public IHtmlContent Tick(string name, string label) =>
        Html(
            $"<label class=\"inline-flex items-center gap-2 min-h-11\"><input type=\"checkbox\" name=\"{Of(name)}\" value=\"true\"{(this[name] == "true" ? " checked" : string.Empty)}> {Of(label)}</label>"
        );

    private HtmlString Input(string name, string label, string hint, string usual, string style) =>
        Html(
            $"<label class=\"field\">{Of(label)}{Hint(hint)}<input id=\"field-{Of(name)}\" name=\"{Of(name)}\" value=\"{Of(this[name])}\" placeholder=\"{Of(usual)}\" maxlength=\"120\" class=\"{style}\" autocomplete=\"off\"{Described(name)}>{Fault(name)}</label>"
        );

    private string Described(string name) =>
        $" aria-describedby=\"fault-{Of(name)}\"{(faults.ContainsKey(name) ? " aria-invalid=\"true\"" : string.Empty)}";

    private string Fault(string name) =>
        $"<span class=\"fault\" id=\"fault-{Of(name)}\" data-fault=\"{Of(name)}\">{Of(faults.GetValueOrDefault(name) ?? string.Empty)}</span>";

    private static string Hint(string hint) =>
        hint.Length == 0 ? string.Empty : $"<span class=\"hint\">{Of(hint)}</span>";

    private static HtmlString Html(string html) => new(html);

    private static string Of(string text) => Sheet.Html(text);
}
