using Keralith.Core.Quantities;

namespace Keralith.Core.Gear;

/// <summary>What kind of value an attribute holds.</summary>
public enum AttributeKind
{
    /// <summary>A length over 0.</summary>
    Length,

    /// <summary>A mass over 0.</summary>
    Mass,

    /// <summary>A whole number, 1 and over.</summary>
    Whole,

    /// <summary>A number over 0.</summary>
    Number,

    /// <summary>One of a few words.</summary>
    Choice,

    /// <summary>Yes or no.</summary>
    Flag,

    /// <summary>Free text.</summary>
    Text,

    /// <summary>A kit's roster: members and the least and most links of a leg.</summary>
    Roster,
}

/// <summary>One thing that may be stated of a piece of gear: its fixed name, what it holds and how it is asked for.</summary>
/// <param name="Name">The fixed camelCase name used by the file formats.</param>
/// <param name="Kind">What it holds.</param>
/// <param name="Label">How a form asks for it.</param>
/// <param name="Hint">What exactly is meant, or null where the label says it.</param>
public sealed record AttributeDefinition(string Name, AttributeKind Kind, string Label, string? Hint = null)
{
    /// <summary>For a choice: the words allowed, in the order shown.</summary>
    public IReadOnlyList<string> Choices { get; init; } = [];

    /// <summary>The most a whole number may be.</summary>
    public int Most { get; init; } = 1_000_000;

    /// <summary>Reads the attribute from text, as a form or a CSV cell gives it.</summary>
    public Checked<AttributeValue> Read(string text)
    {
        switch (Kind)
        {
            case AttributeKind.Length:
                var length = Length.Read(text);
                return !length.Ok ? new Refusal(length.Fault!)
                    : length.Value.Millimetres <= 0 ? new Refusal($"\"{text}\" should be over 0")
                    : new LengthValue(length.Value);
            case AttributeKind.Mass:
                var mass = Mass.Read(text);
                return !mass.Ok ? new Refusal(mass.Fault!)
                    : mass.Value.Kilograms <= 0 ? new Refusal($"\"{text}\" should be over 0")
                    : new MassValue(mass.Value);
            case AttributeKind.Whole:
                return
                    int.TryParse(text, System.Globalization.NumberStyles.None, null, out var whole)
                    && whole >= 1
                    && whole <= Most
                    ? new WholeValue(whole)
                    : new Refusal(
                        $"\"{text}\" should be a whole number from 1{(Most < 1_000_000 ? $" to {Most}" : " up")}"
                    );
            case AttributeKind.Number:
                var number = QuantityText.Bare(text, "5");
                return !number.Ok ? new Refusal(number.Fault!)
                    : number.Value <= 0 ? new Refusal($"\"{text}\" should be over 0")
                    : new NumberValue(number.Value);
            case AttributeKind.Choice:
                return Choices.Contains(text)
                    ? new TextValue(text)
                    : new Refusal($"\"{text}\" should be one of {string.Join(", ", Choices)}");
            case AttributeKind.Flag:
                return text switch
                {
                    "true" or "yes" => new FlagValue(true),
                    "false" or "no" => new FlagValue(false),
                    _ => new Refusal($"\"{text}\" should be true or false"),
                };
            case AttributeKind.Text:
                return text.Length is 0 or > 200 ? new Refusal("should be 1 to 200 letters long") : new TextValue(text);
            case AttributeKind.Roster:
                return RosterValue.Read(text) is { } roster
                    ? roster
                    : new Refusal($"\"{text}\" should be such as 8 members, 9 to 12 links");
            default:
                throw new InvalidOperationException($"No such attribute kind: {Kind}.");
        }
    }
}

/// <summary>The value of one attribute.</summary>
public abstract record AttributeValue
{
    private protected AttributeValue() { }

    /// <summary>The value as a form or file writes it, readable back by its definition.</summary>
    public abstract string Text { get; }
}

/// <summary>A length over 0.</summary>
public sealed record LengthValue(Length Length) : AttributeValue
{
    public override string Text => Length.ToString();
}

/// <summary>A mass over 0.</summary>
public sealed record MassValue(Mass Mass) : AttributeValue
{
    public override string Text => Mass.ToString();
}

/// <summary>A whole number, 1 and over.</summary>
public sealed record WholeValue(int Whole) : AttributeValue
{
    public override string Text => Whole.ToString();
}

/// <summary>A number over 0.</summary>
public sealed record NumberValue(decimal Number) : AttributeValue
{
    public override string Text => QuantityText.Number(Number);
}

/// <summary>Free text, or one of the words of a choice.</summary>
public sealed record TextValue(string Value) : AttributeValue
{
    public override string Text => Value;
}

/// <summary>Yes or no.</summary>
public sealed record FlagValue(bool Value) : AttributeValue
{
    public override string Text => Value ? "true" : "false";
}

/// <summary>A kit's roster, written <c>8 members, 9 to 12 links</c>; either half may be left out.</summary>
/// <param name="Members">How many members belong to it; null when not stated.</param>
/// <param name="LeastLinks">Fewest links a leg's chain may have; null when not stated.</param>
/// <param name="MostLinks">Most links a leg's chain may have; null when not stated.</param>
public sealed partial record RosterValue(int? Members, int? LeastLinks, int? MostLinks) : AttributeValue
{
    public override string Text =>
        string.Join(
            ", ",
            new[]
            {
                Members is { } m ? $"{m} members" : null,
                LeastLinks is { } least ? $"{least} to {MostLinks} links" : null,
            }.OfType<string>()
        );

    /// <summary>Reads a roster; null when the text is none.</summary>
    public static RosterValue? Read(string text)
    {
        var match = Pattern().Match(text.Trim());
        if (!match.Success || match.Length == 0)
            return null;
        var (members, least, most) = (Number("members"), Number("least"), Number("most"));
        return members == 0 || least == 0 || least > most ? null : new(members, least, most);

        int? Number(string group) => match.Groups[group].Success ? int.Parse(match.Groups[group].Value) : null;
    }

    [System.Text.RegularExpressions.GeneratedRegex(
        @"^(?:(?<members>\d{1,4}) members?)?(?:(?:^|, ?)(?<least>\d{1,4}) to (?<most>\d{1,4}) links)?$"
    )]
    private static partial System.Text.RegularExpressions.Regex Pattern();
}
